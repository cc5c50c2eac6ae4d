import Joi from 'joi';
import type {
  ImportKiln,
  KilnProfile,
  LightLoad,
  LoadRecord,
  MeasureTree,
  PlanLoad,
  ReadKiln,
  RecordLoad,
  SaveProfile,
} from '@kalvet/core';
import { LETTERS, LIMITS, MOST, PROFILE_USES } from '@kalvet/core';
import { by } from '../route/step.schema.ts';
import {
  form,
  id,
  instant,
  note,
  number,
  oneOf,
  override,
  part,
  taken,
  text,
  typed,
  version,
  versionOrNew,
  words,
} from '../write/schemas.ts';

const record = {
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  profile: text(LETTERS.profile).required(),
  topC: number(LIMITS.fireC).required(),
  typed: typed(),
  taken: taken(),
  note: note(),
  waxBackKg: number(LIMITS.waxBackKg).allow(null).optional(),
  energyKwh: number(LIMITS.energyKwh).allow(null).optional(),
  lost: Joi.array()
    .items(part<LoadRecord['lost'][number]>({ treeId: id().required(), why: text(LETTERS.why).required() }))
    .max(MOST.trees)
    .required(),
};

export const planLoad = form<PlanLoad>({
  id: id().required(),
  treeIds: Joi.array().items(id()).min(1).max(MOST.trees).required(),
  profileId: id().allow(null).optional(),
  record: part<LoadRecord>(record).optional(),
  override: override(),
});

export const recordLoad = form<RecordLoad>({ version: version(), ...record, override: override() });

export const lightLoad = form<LightLoad>({
  version: version(),
  at: instant().required(),
  cupsDown: Joi.boolean().required(),
  cupsNote: words(LETTERS.why),
  override: override(),
});

export const readKiln = form<ReadKiln>({
  at: instant().required(),
  channel: text(LETTERS.name).required(),
  celsius: number(LIMITS.kilnC).required(),
});

/** A logger that wrote four thermocouples each ten seconds for a week. */
export const importKiln = form<ImportKiln>({
  name: text(LETTERS.title).required(),
  text: Joi.string().max(8_000_000).required(),
});

export const profile = form<SaveProfile>({
  id: id().required(),
  version: versionOrNew(),
  name: text(LETTERS.name).required(),
  use: oneOf(PROFILE_USES).required(),
  stretches: Joi.array()
    .items(
      part<KilnProfile['stretches'][number]>({
        toC: number(LIMITS.profileC).required(),
        perHourK: number(LIMITS.perHourK).allow(null).required(),
        holdMinutes: number(LIMITS.holdMinutes).required(),
      }),
    )
    .min(1)
    .max(20)
    .required(),
  state: oneOf(['in use', 'put away']).required(),
});

export const measure = form<MeasureTree>({
  version: version(),
  acrossMm: number(LIMITS.insideMm).required(),
  deepMm: number(LIMITS.insideMm).required(),
  highMm: number(LIMITS.insideMm).required(),
});
