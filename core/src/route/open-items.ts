import type { OpenItem } from '../records/chasing.ts';
import { OPEN_ITEM_NAMES } from '../records/chasing.ts';
import type { Id } from '../records/common.ts';
import { castLabel } from './labels.ts';
import type { ShopIndex } from './shop-index.ts';
import { currentCasts } from './shop-index.ts';

/** What a piece's casts still have to get back or lose: what was on a lost cast went with it. */
export function openItemsOf(index: ShopIndex, pieceId: Id): OpenItem[] {
  const piece = index.piece.get(pieceId);
  if (!piece) return [];
  const casts = new Set(currentCasts(index, piece).map(({ id }) => id));
  return index.shop.openItems.filter(({ castId, closedAt }) => closedAt === null && casts.has(castId));
}

/** `window cut out, under the wing (HER 4 A)`. */
export function openItemLabel(index: ShopIndex, item: OpenItem): string {
  const cast = index.cast.get(item.castId);
  return `${OPEN_ITEM_NAMES[item.kind]}${item.what ? `, ${item.what}` : ''}${cast ? ` (${castLabel(index, cast)})` : ''}`;
}
