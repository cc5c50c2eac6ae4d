import Joi from 'joi';
import type { SaveCount, SaveCrucible, SaveLook, SaveLot } from '@kalvet/core';
import { ALLOY_FAMILIES, CRUCIBLE_STATES, LETTERS, LIMITS, LOT_STATES } from '@kalvet/core';
import { alloyCode, day, form, id, note, number, oneOf, text, versionOrNew, whole, words } from '../write/schemas.ts';

export const lot = form<SaveLot>({
  id: id().required(),
  version: versionOrNew(),
  what: oneOf(['ingot', 'addition']).required(),
  alloyId: alloyCode().allow(null).required(),
  mark: text(LETTERS.lot).required(),
  supplier: words(LETTERS.name),
  kg: number(LIMITS.lotKg).required(),
  receivedOn: day().required(),
  analysis: Joi.object()
    .pattern(Joi.string().pattern(/^[A-Z][a-z]?$/, { name: 'an element, as Cu or Sn' }), number(LIMITS.percent))
    .max(30)
    .required(),
  state: oneOf(LOT_STATES).required(),
  note: note(),
});

export const count = form<SaveCount>({
  id: id().required(),
  alloyId: alloyCode().required(),
  what: oneOf(['ingot', 'returns']).required(),
  kg: number(LIMITS.stockKg).required(),
  why: words(LETTERS.why),
});

export const crucible = form<SaveCrucible>({
  id: id().required(),
  version: versionOrNew(),
  name: text(LETTERS.name).required(),
  family: oneOf(ALLOY_FAMILIES).required(),
  holdsKg: number(LIMITS.crucibleKg).required(),
  usableKg: number(LIMITS.crucibleKg).required(),
  emptyKg: number(LIMITS.crucibleKg).required(),
  lifeHeats: whole(LIMITS.lifeHeats).required(),
  heatsBefore: whole(LIMITS.heats).required(),
  state: oneOf(CRUCIBLE_STATES).required(),
  since: day().required(),
});

export const look = form<SaveLook>({
  id: id().required(),
  crucibleId: id().required(),
  verdict: oneOf(['good', 'watch', 'retire']).required(),
  note: note(),
});
