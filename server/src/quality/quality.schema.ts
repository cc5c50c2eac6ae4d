import Joi from 'joi';
import type { TakeFigure } from '@kalvet/core';
import { LETTERS } from '@kalvet/core';
import { form, text, versionOrNew } from '../write/schemas.ts';

export const take = form<TakeFigure>({
  version: versionOrNew(),
  line: text(LETTERS.why).required(),
  back: Joi.boolean().required(),
  n: Joi.number().integer().min(0).required(),
});
