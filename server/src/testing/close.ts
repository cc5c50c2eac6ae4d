jasmine.DEFAULT_TIMEOUT_INTERVAL = 30_000;
// Loaded before the specs: after the last one the connections are closed.
import { closeTestStore } from './shop.ts';

afterAll(closeTestStore);
