import Joi from 'joi';
import type { ChangeTreeCoats, CoatPlan, Layer, SaveCoatPlan, SaveShape, SealLayer } from '@kalvet/core';
import { COAT_METHODS, LETTERS, LIMITS, SLURRIES, STUCCOS, STUCCO_METHODS } from '@kalvet/core';
import { form, number, oneOf, part, text, version, whole, words } from '../write/schemas.ts';

const wait = () => whole(LIMITS.minutes).allow(null).required();
const untilCoat = () => whole(LIMITS.coats).allow(null).required();

const layer = part<Layer>({
  untilCoat: untilCoat(),
  slurry: oneOf(SLURRIES).required(),
  stucco: oneOf(STUCCOS).required(),
  grain: words(LETTERS.name),
  method: oneOf(COAT_METHODS).required(),
  stuccoBy: oneOf(STUCCO_METHODS).required(),
  waitMinutes: wait(),
});

const plan = part<CoatPlan>({
  code: Joi.string()
    .pattern(/^[a-z0-9][a-z0-9-]{0,19}$/, { name: 'small letters, digits and hyphens' })
    .required(),
  number: Joi.number().integer().min(0).required(),
  name: text(LETTERS.name).required(),
  classes: Joi.array()
    .items(
      part<CoatPlan['classes'][number]>({
        upToMm: number(LIMITS.metalHeightMm).allow(null).required(),
        coats: whole(LIMITS.coats).required(),
      }),
    )
    .min(1)
    .max(30)
    .required(),
  unknown: whole(LIMITS.coats).required(),
  layers: Joi.array().items(layer).min(1).max(20).required(),
  seal: part<SealLayer>({
    slurry: oneOf(SLURRIES).required(),
    method: oneOf(COAT_METHODS).required(),
    waitMinutes: wait(),
  }).required(),
});

export const coatPlan = form<SaveCoatPlan>({ seen: whole({ min: 0, max: 1e6 }).required(), plan: plan.required() });

export const treeCoats = form<ChangeTreeCoats>({
  version: version(),
  planCode: Joi.string().max(20).required(),
  coats: whole(LIMITS.coats).required(),
  why: text(LETTERS.why).required(),
});

export const shape = form<SaveShape>({
  version: version(),
  roundMm: number(LIMITS.shapeMm).allow(null).required(),
  flatMm: number(LIMITS.shapeMm).allow(null).required(),
});
