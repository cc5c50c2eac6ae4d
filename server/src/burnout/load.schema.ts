import Joi from 'joi';
import type { Id, Instant, Override } from '@kalvet/core';
import { by } from '../route/step.schema.ts';
import { form, id, instant, override, text, version } from '../write/schemas.ts';

export interface LoadRecord {
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly profile: string;
  readonly topC: number;
  readonly note: string;
  /** Trees that did not come through; all others did. */
  readonly lost: readonly { readonly treeId: Id; readonly why: string }[];
}

const record = {
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  profile: text(200).required(),
  topC: Joi.number().min(100).max(1200).required(),
  note: Joi.string().trim().allow('').max(1000).required(),
  lost: Joi.array()
    .items(Joi.object({ treeId: id().required(), why: text(500).required() }))
    .max(60)
    .required(),
};

export interface PlanLoad {
  readonly id: Id;
  readonly treeIds: readonly Id[];
  /** Where it is written up at once. */
  readonly record?: LoadRecord | undefined;
  readonly override?: readonly Override[];
}
export const planLoad = form<PlanLoad>({
  id: id().required(),
  treeIds: Joi.array().items(id()).min(1).max(60).required(),
  record: Joi.object(record).optional(),
  override: override(),
});

export interface RecordLoad extends LoadRecord {
  readonly version: number;
  readonly override?: readonly Override[];
}
export const recordLoad = form<RecordLoad>({ version: version(), ...record, override: override() });

export interface Abandon {
  readonly version: number;
  readonly reason: string;
}
export const abandon = form<Abandon>({ version: version(), reason: text(500).required() });
