import type { Op } from '../records/shop.ts';
import { update } from '../records/shop.ts';
import type { Cast } from '../records/work.ts';
import type { ShopIndex } from './shop-index.ts';

/** The cast is wax from here on, and its piece in work. */
export function beginWax(index: ShopIndex, cast: Cast): Op[] {
  const piece = index.piece.get(cast.pieceId)!;
  return [
    ...(cast.state === 'planned' ? [update('casts', cast.id, { state: 'wax' })] : []),
    ...(piece.state === 'not begun' ? [update('pieces', piece.id, { state: 'in work' })] : []),
  ];
}
