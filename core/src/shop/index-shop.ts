import { indexer } from '../route/shop-index.ts';
import { KINDS } from './kinds.ts';
import { ROUTES } from './routes.ts';

/** Indexes a shop under Kalvet's own kinds and routes. */
export const indexShop = indexer({ kinds: KINDS, routes: ROUTES });
