import Joi from 'joi';
import type { SaveClient, SaveOrder } from '@kalvet/core';
import { day, form, id, text } from '../write/schemas.ts';

const words = (max: number) => Joi.string().trim().allow('').max(max).required();

export const client = form<SaveClient>({
  id: id().required(),
  version: Joi.number().integer().min(0).required(),
  name: text(200).required(),
  contact: words(500),
});

export const order = form<SaveOrder>({
  id: id().required(),
  version: Joi.number().integer().min(0).required(),
  clientId: id().required(),
  title: text(200).required(),
  place: words(300),
  dueDate: day().allow(null).required(),
  partDelivery: Joi.boolean().required(),
  note: words(1000),
  pieceIds: Joi.array().items(id()).max(500).unique().required(),
});
