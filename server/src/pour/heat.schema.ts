import Joi from 'joi';
import type {
  ChangeHeat,
  ChargeGiven,
  ConfirmCrew,
  CrewPlace,
  FinishHeat,
  HeatTree,
  PlanHeat,
  PourTree,
} from '@kalvet/core';
import { CREW_ROLES, LETTERS, LIMITS, MOST, SIGNS } from '@kalvet/core';
import { by } from '../route/step.schema.ts';
import {
  alloyCode,
  form,
  id,
  instant,
  note,
  number,
  oneOf,
  override,
  part,
  text,
  taken,
  typed,
  version,
  words,
} from '../write/schemas.ts';

const plan = {
  plannedFor: instant().allow(null).required(),
  trees: Joi.array()
    .items(part<HeatTree>({ treeId: id().required(), plannedKg: number(LIMITS.pourKg).optional() }))
    .max(MOST.trees)
    .required(),
  chargeLines: Joi.array()
    .items(
      part<ChargeGiven>({
        what: oneOf(['ingot', 'returns', 'addition']).required(),
        alloyId: alloyCode().allow(null).required(),
        kg: number(LIMITS.chargeKg).required(),
        lot: words(LETTERS.lot),
        dry: Joi.boolean().required(),
      }),
    )
    .max(MOST.chargeLines)
    .required(),
};

export const planHeat = form<PlanHeat>({
  id: id().required(),
  alloyId: alloyCode().required(),
  ...plan,
  override: override(),
});

export const changeHeat = form<ChangeHeat>({ version: version(), ...plan, override: override() });

export const confirmCrew = form<ConfirmCrew>({
  version: version(),
  crew: Joi.array()
    .items(
      part<CrewPlace>({
        role: oneOf(CREW_ROLES).required(),
        personId: id().required(),
        deputyId: id().allow(null).required(),
      }),
    )
    .min(1)
    .max(MOST.crew)
    .required(),
  signs: oneOf(SIGNS).required(),
  coverConfirmed: Joi.boolean().valid(true).required(),
});

export const pourTree = form<PourTree>({
  version: version(),
  treeId: id().required(),
  outcome: text(20).required(),
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  readings: Joi.object().required(),
  typed: typed(),
  taken: taken(),
  note: note(),
  override: override(),
});

export const finishHeat = form<FinishHeat>({
  version: version(),
  endedAt: instant().required(),
  by: by().required(),
  pigKg: number(LIMITS.pigKg).required(),
  typed: typed(),
  taken: taken(),
  note: note(),
});
