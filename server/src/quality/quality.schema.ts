import Joi from 'joi';
import type { TakeFigure } from '@kalvet/core';
import { LETTERS } from '@kalvet/core';
import { form, text, version } from '../write/schemas.ts';

export const take = form<TakeFigure>({
  version: version(),
  line: text(LETTERS.why).required(),
  back: Joi.boolean().required(),
  n: Joi.number().integer().min(0).required(),
});
