import Joi from 'joi';
import type { Id, Instant, Override, RecordMany, RecordStep, StepKindCode } from '@kalvet/core';
import { INSERTABLE } from '@kalvet/core';
import { form, id, instant, override, part, text, version } from '../write/schemas.ts';

export const by = () => Joi.array().items(id()).min(1).max(8).unique();

export const recordStep = form<RecordStep>({
  version: version(),
  outcome: text(20).required(),
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  readings: Joi.object().required(),
  note: Joi.string().trim().allow('').max(1000).required(),
  override: override(),
});

/** As many as a tray, a rack or a shelf holds. */
const MOST_AT_ONCE = 60;

export const recordMany = form<RecordMany>({
  steps: Joi.array()
    .items(part<RecordMany['steps'][number]>({ id: id().required(), version: version() }))
    .min(1)
    .max(MOST_AT_ONCE)
    .unique('id')
    .required(),
  outcome: text(20).required(),
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  readings: Joi.object().required(),
  note: Joi.string().trim().allow('').max(1000).required(),
  override: override(),
});

export interface StartStep {
  readonly version: number;
  readonly startedAt: Instant;
  readonly mouldId?: Id | undefined;
  readonly override?: readonly Override[];
}
export const startStep = form<StartStep>({
  version: version(),
  startedAt: instant().required(),
  mouldId: id().optional(),
  override: override(),
});

export interface InsertStep {
  readonly kind: StepKindCode;
  readonly carrier: 'mould' | 'cast' | 'tree' | 'piece';
  readonly carrierId: Id;
  readonly why: string;
  readonly afterId?: Id | undefined;
}
export const insertStep = form<InsertStep>({
  kind: Joi.string()
    .valid(...Object.keys(INSERTABLE))
    .required(),
  carrier: Joi.string().valid('mould', 'cast', 'tree', 'piece').required(),
  carrierId: id().required(),
  why: text(500).required(),
  afterId: id().optional(),
});

export interface TakeBack {
  readonly reason: string;
}
export const takeBack = form<TakeBack>({ reason: text(500).required() });
