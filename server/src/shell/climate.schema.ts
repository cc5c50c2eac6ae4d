import Joi from 'joi';
import type { HangTrees, ImportClimate, LookAtCoat, SaveDryingPlace, TypeClimate } from '@kalvet/core';
import { DRYNESS_MEANS, LETTERS, LIMITS, MOST } from '@kalvet/core';
import { form, id, instant, note, number, oneOf, share, text, versionOrNew, whole, words } from '../write/schemas.ts';

/** A logger that wrote each minute for three months. */
export const FILE_LETTERS = 8_000_000;

export const climate = form<TypeClimate>({
  placeId: id().required(),
  at: instant().required(),
  celsius: number(LIMITS.roomC).required(),
  humidityPercent: Joi.number().min(-1000).max(1000).required(),
});

export const file = form<ImportClimate>({
  placeId: id().required(),
  name: text(LETTERS.title).required(),
  text: Joi.string().max(FILE_LETTERS).required(),
});

export const place = form<SaveDryingPlace>({
  id: id().required(),
  version: versionOrNew(),
  name: text(LETTERS.name).required(),
  kind: oneOf(['room', 'cabinet']).required(),
  airflow: number(LIMITS.airflow).required(),
  hooks: whole(LIMITS.hooks).required(),
  state: oneOf(['in use', 'off']).required(),
});

export const hang = form<HangTrees>({
  treeIds: Joi.array().items(id()).min(1).max(MOST.trees).unique().required(),
  placeId: id().required(),
  hook: words(LETTERS.name),
  at: instant().required(),
});

export const look = form<LookAtCoat>({
  id: id().required(),
  stepId: id().required(),
  at: instant().required(),
  means: oneOf(DRYNESS_MEANS).required(),
  dry: Joi.boolean().required(),
  share: share().allow(null).required(),
  note: note(),
});
