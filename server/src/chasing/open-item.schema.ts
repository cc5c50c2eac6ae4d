import type { AddOpenItem, CloseOpenItem } from '@kalvet/core';
import { LETTERS, OPEN_ITEM_ENDS, OPEN_ITEM_KINDS } from '@kalvet/core';
import { form, id, oneOf, version, words } from '../write/schemas.ts';

export const addOpenItem = form<AddOpenItem>({
  id: id().required(),
  castId: id().required(),
  kind: oneOf(OPEN_ITEM_KINDS).required(),
  what: words(LETTERS.what),
});

export const closeOpenItem = form<CloseOpenItem>({
  version: version(),
  how: oneOf(OPEN_ITEM_ENDS).required(),
  note: words(LETTERS.why),
});
