import Joi from 'joi';
import type { NamedCup } from '@kalvet/core';
import { LETTERS, LIMITS, barStockOf } from '@kalvet/core';
import { number, part, text } from '../write/schemas.ts';

/** A pouring cup with its measures; one that is narrower above than below would be upside down. */
export const cup = () =>
  part<NamedCup>({
    name: text(LETTERS.name).required(),
    topRadiusMm: number(LIMITS.cupMm).required(),
    bottomRadiusMm: number(LIMITS.cupMm).max(Joi.ref('topRadiusMm')).required(),
    heightMm: number(LIMITS.cupMm).required(),
  });

/** The code of a stock of bars: `S12`, `R8`. */
export const barStock = () =>
  Joi.string().custom((code: string, helpers) =>
    barStockOf(code) ? code : helpers.error('string.pattern.name', { name: 'a stock of bars, as S12 or R8' }),
  );
