import Joi from 'joi';
import type {
  ChangeHeat,
  ChargeGiven,
  ConfirmCrew,
  CrewPlace,
  FinishHeat,
  HeatTree,
  LightHeat,
  PlanHeat,
  PourTree,
  ReadHeat,
  SetInPit,
  ShellOut,
} from '@kalvet/core';
import {
  CREW_ROLES,
  FIRST_DAY,
  LAST_DAY,
  LETTERS,
  LIMITS,
  MEANS,
  MOST,
  POUR_CHECKS,
  SIGNS,
  TEMPERATURE_PLACES,
} from '@kalvet/core';
import { by } from '../route/step.schema.ts';
import {
  alloyCode,
  day,
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
  whole,
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
  crucibleId: id().allow(null).optional(),
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
  checks: Joi.array().items(oneOf(POUR_CHECKS)).max(POUR_CHECKS.length).unique().required(),
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
  energyKwh: number(LIMITS.energyKwh).allow(null).optional(),
  override: override(),
  typed: typed(),
  taken: taken(),
  note: note(),
});

export const readHeat = form<ReadHeat>({
  id: id().required(),
  treeId: id().allow(null).required(),
  at: instant().required(),
  celsius: number(LIMITS.celsius).required(),
  where: oneOf(TEMPERATURE_PLACES).required(),
  means: oneOf(MEANS).required(),
  instrument: words(LETTERS.name),
  plusMinusK: number(LIMITS.plusMinusK).optional(),
  typed: typed(),
  override: override(),
});

export const lightHeat = form<LightHeat>({ at: instant().required() });

export const shellOut = form<ShellOut>({ treeId: id().required(), at: instant().required() });

export const setInPit = form<SetInPit>({
  places: Joi.array()
    .items(
      part<SetInPit['places'][number]>({
        treeId: id().required(),
        place: whole({ ...LIMITS.pitPlaces })
          .allow(null)
          .required(),
      }),
    )
    .max(MOST.trees)
    .required(),
});

/** The heats of which year. */
export const book = form<{ readonly year?: number | undefined }>({
  year: Joi.number()
    .integer()
    .min(Number(FIRST_DAY.slice(0, 4)))
    .max(Number(LAST_DAY.slice(0, 4)))
    .optional(),
});

export const whichDay = form<{ readonly day?: string | undefined }>({ day: day().optional() });
