import type { AttachmentView } from '@kalvet/core';
import { PICTURE_ROLE_NAMES } from '@kalvet/core';
import type { ShopService } from '../shared/shop.service';

/** What a picture shows, for who cannot see it and on hover. */
export function altOf(each: AttachmentView, shop: ShopService): string {
  const what = each.words || (each.role === 'seen' ? 'Picture' : PICTURE_ROLE_NAMES[each.role]);
  const pins = each.pins.length === 0 ? '' : `, ${each.pins.length} marked`;
  return `${what}${each.on ? `, ${each.on}` : ''}, ${shop.at(each.at)}${each.by ? `, ${each.by}` : ''}${pins}`;
}

/** The line under a small picture: what it shows, else where it was taken, and its day. */
export function captionOf({ words, on, role, at }: AttachmentView, shop: ShopService): string {
  const what = words || (role === 'seen' ? on : PICTURE_ROLE_NAMES[role]);
  return `${shop.dayOf(at)}${what ? `: ${what}` : ''}`;
}

const KB = 1000;

/** `812 kB`, `14 MB`. */
export const sizeOf = (bytes: number): string =>
  bytes < KB * KB
    ? `${Math.max(1, Math.round(bytes / KB))} kB`
    : `${(bytes / KB / KB).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
