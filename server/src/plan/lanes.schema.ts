import Joi from 'joi';
import type { Day, Id, MoveSteps } from '@kalvet/core';
import { MOST, PINS } from '@kalvet/core';
import { day, form, id, instant, oneOf, part, version } from '../write/schemas.ts';
import { inOrder } from './planning.schema.ts';

/** From which day to which. */
export const lanes = form<{ readonly from: Day; readonly to: Day }>({
  from: day().required(),
  to: day().required(),
}).custom(inOrder);

/** Whose reach: ids of steps, parted by commas. */
export const reach = form<{ readonly steps: readonly Id[] }>({
  steps: Joi.string()
    .max(MOST.steps * 40)
    .required()
    .custom((text: string, helpers) => {
      const { value, error } = Joi.array().items(id()).min(1).max(MOST.steps).unique().validate(text.split(','));
      return error ? helpers.error('string.pattern.name', { name: 'ids of steps, parted by commas' }) : value;
    }),
});

export const move = form<MoveSteps>({
  steps: Joi.array()
    .items(
      part<MoveSteps['steps'][number]>({
        id: id().required(),
        version: version(),
        kind: oneOf(PINS).allow(null).required(),
        at: instant().allow(null).required(),
      }),
    )
    .min(1)
    .max(MOST.steps)
    .unique((a: { id?: unknown }, b: { id?: unknown }) => a.id === b.id)
    .required(),
});
