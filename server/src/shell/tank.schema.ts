import Joi from 'joi';
import type { CheckTank, DecideTank, SaveSupply, SaveTank, TopUp } from '@kalvet/core';
import { LETTERS, LIMITS, SLURRIES, SUPPLIES, TOP_UPS } from '@kalvet/core';
import {
  form,
  id,
  instant,
  note,
  number,
  oneOf,
  part,
  share,
  text,
  versionOrNew,
  whole,
  words,
} from '../write/schemas.ts';

export const tank = form<SaveTank>({
  id: id().required(),
  version: versionOrNew(),
  name: text(LETTERS.name).required(),
  slurry: oneOf(SLURRIES).required(),
  litres: number(LIMITS.tankLitres).required(),
  leastShare: share().required(),
  densityGPerCm3: number(LIMITS.slurryDensity).required(),
  cup: text(LETTERS.name).required(),
  lowS: number(LIMITS.cupSeconds).allow(null).required(),
  highS: number(LIMITS.cupSeconds).allow(null).required(),
  leastPh: number(LIMITS.ph).allow(null).required(),
  checkEveryHours: whole(LIMITS.checkHours).required(),
  base: part<{ from: string; to: string }>({ from: instant().required(), to: instant().required() })
    .allow(null)
    .required(),
  state: oneOf(['in use', 'off']).required(),
});

export const tankCheck = form<CheckTank>({
  id: id().required(),
  tankId: id().required(),
  at: instant().required(),
  mixer: oneOf(['running', 'stopped']).required(),
  viscosityS: number(LIMITS.cupSeconds).allow(null).required(),
  celsius: number(LIMITS.slurryC).allow(null).required(),
  densityGPerCm3: number(LIMITS.slurryDensity).allow(null).required(),
  ph: number(LIMITS.ph).allow(null).required(),
  level: share().allow(null).required(),
  sieved: Joi.boolean().required(),
  toppedUp: Joi.array()
    .items(
      part<TopUp>({ what: oneOf(TOP_UPS).required(), kg: number(LIMITS.topUpKg).required(), lot: words(LETTERS.lot) }),
    )
    .max(10)
    .required(),
  note: note(),
});

export const tankDecision = form<DecideTank>({
  id: id().required(),
  tankId: id().required(),
  coatsStand: Joi.boolean().required(),
  words: text(LETTERS.note).required(),
});

export const supply = form<SaveSupply>({
  id: id().required(),
  what: oneOf(SUPPLIES).required(),
  kind: oneOf(['delivery', 'count']).required(),
  kg: number(LIMITS.stockKg).required(),
  lot: words(LETTERS.lot),
  at: instant().required(),
  note: note(),
});
