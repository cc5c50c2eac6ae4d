import Joi from 'joi';
import type { Decide, InsertStep, OneOfMany, RecordMany, RecordStep, SavePin, StartStep, TakeBack } from '@kalvet/core';
import { KINDS, LETTERS, MOST, PINS } from '@kalvet/core';
import { form, id, instant, note, oneOf, override, part, taken, text, typed, version } from '../write/schemas.ts';

export const by = () => Joi.array().items(id()).min(1).max(MOST.people).unique();

const said = {
  outcome: text(20).required(),
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  readings: Joi.object().required(),
  typed: typed(),
  taken: taken(),
  note: note(),
  override: override(),
};

export const recordStep = form<RecordStep>({ version: version(), ...said });

export const recordMany = form<RecordMany>({
  steps: Joi.array()
    .items(
      part<OneOfMany>({
        id: id().required(),
        version: version(),
        readings: Joi.object().optional(),
        typed: typed(),
        taken: taken(),
      }),
    )
    .min(1)
    .max(MOST.steps)
    .unique('id')
    .required(),
  ...said,
});

export const startStep = form<StartStep>({
  version: version(),
  startedAt: instant().required(),
  readings: Joi.object().required(),
  override: override(),
});

const INSERTABLE = KINDS.filter(({ insertable }) => insertable).map(({ code }) => code);

export const insertStep = form<InsertStep>({
  kind: oneOf(INSERTABLE).required(),
  carrier: oneOf(['mould', 'cast', 'tree', 'piece']).required(),
  carrierId: id().required(),
  why: text(LETTERS.why).required(),
  afterId: id().optional(),
});

export const decide = form<Decide>({
  version: version(),
  answer: text(20).required(),
  castId: id().optional(),
});

export const takeBack = form<TakeBack>({ reason: text(LETTERS.why).required() });

export const pin = form<SavePin>({
  version: version(),
  kind: oneOf(PINS).allow(null).required(),
  at: instant().allow(null).required(),
});
