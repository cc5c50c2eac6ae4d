import Joi from 'joi';
import type { SaveClient, SaveOrder } from '@kalvet/core';
import { LETTERS, MOST } from '@kalvet/core';
import { day, form, id, note, text, versionOrNew, words } from '../write/schemas.ts';

export const client = form<SaveClient>({
  id: id().required(),
  version: versionOrNew(),
  name: text(LETTERS.title).required(),
  contact: words(LETTERS.contact),
});

export const order = form<SaveOrder>({
  id: id().required(),
  version: versionOrNew(),
  clientId: id().required(),
  title: text(LETTERS.title).required(),
  place: words(LETTERS.place),
  dueDate: day().allow(null).required(),
  partDelivery: Joi.boolean().required(),
  note: note(),
  pieceIds: Joi.array().items(id()).max(MOST.pieces).unique().required(),
});
