import Joi from 'joi';
import type { LoadRecord, PlanLoad, RecordLoad } from '@kalvet/core';
import { LETTERS, LIMITS, MOST } from '@kalvet/core';
import { by } from '../route/step.schema.ts';
import { form, id, instant, note, number, override, part, text, taken, typed, version } from '../write/schemas.ts';

const record = {
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  profile: text(LETTERS.profile).required(),
  topC: number(LIMITS.fireC).required(),
  typed: typed(),
  taken: taken(),
  note: note(),
  lost: Joi.array()
    .items(part<LoadRecord['lost'][number]>({ treeId: id().required(), why: text(LETTERS.why).required() }))
    .max(MOST.trees)
    .required(),
};

export const planLoad = form<PlanLoad>({
  id: id().required(),
  treeIds: Joi.array().items(id()).min(1).max(MOST.trees).required(),
  record: part<LoadRecord>(record).optional(),
  override: override(),
});

export const recordLoad = form<RecordLoad>({ version: version(), ...record, override: override() });
