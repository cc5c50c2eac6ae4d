import Joi from 'joi';
import type { CrewPlace, Id, Instant, Override, Signs } from '@kalvet/core';
import { ALLOYS, CREW_ROLES, SIGNS } from '@kalvet/core';
import { by } from '../route/step.schema.ts';
import { form, id, instant, override, text, version } from '../write/schemas.ts';

export interface HeatPlan {
  readonly plannedFor: Instant | null;
  /** In pouring order. Kilograms only where the tree's weight is not known or the shop knows better. */
  readonly trees: readonly { readonly treeId: Id; readonly plannedKg?: number | undefined }[];
  readonly chargeLines: readonly {
    readonly what: 'ingot' | 'returns' | 'addition';
    readonly alloyId: string | null;
    readonly kg: number;
    readonly lot: string;
    readonly dry: boolean;
  }[];
}

const alloyCode = () => Joi.string().valid(...ALLOYS.map((alloy) => alloy.id));

const plan = {
  plannedFor: instant().allow(null).required(),
  trees: Joi.array()
    .items(Joi.object({ treeId: id().required(), plannedKg: Joi.number().min(0.05).max(5000).optional() }))
    .max(60)
    .required(),
  chargeLines: Joi.array()
    .items(
      Joi.object({
        what: Joi.string().valid('ingot', 'returns', 'addition').required(),
        alloyId: alloyCode().allow(null).required(),
        kg: Joi.number().min(0.001).max(5000).required(),
        lot: Joi.string().trim().allow('').max(60).required(),
        dry: Joi.boolean().required(),
      }),
    )
    .max(40)
    .required(),
};

export interface PlanHeat extends HeatPlan {
  readonly id: Id;
  readonly alloyId: string;
  readonly override?: readonly Override[];
}
export const planHeat = form<PlanHeat>({
  id: id().required(),
  alloyId: alloyCode().required(),
  ...plan,
  override: override(),
});

export interface ChangeHeat extends HeatPlan {
  readonly version: number;
  readonly override?: readonly Override[];
}
export const changeHeat = form<ChangeHeat>({ version: version(), ...plan, override: override() });

export interface ConfirmCrew {
  readonly version: number;
  readonly crew: readonly CrewPlace[];
  readonly signs: Signs;
  readonly coverConfirmed: true;
}
export const confirmCrew = form<ConfirmCrew>({
  version: version(),
  crew: Joi.array()
    .items(
      Joi.object<CrewPlace, true>({
        role: Joi.string()
          .valid(...CREW_ROLES)
          .required(),
        personId: id().required(),
        deputyId: id().allow(null).required(),
      }),
    )
    .min(1)
    .max(12)
    .required(),
  signs: Joi.string()
    .valid(...SIGNS)
    .required(),
  coverConfirmed: Joi.boolean().valid(true).required(),
});

export interface PourTree {
  readonly version: number;
  readonly treeId: Id;
  readonly outcome: string;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly readings: Readonly<Record<string, unknown>>;
  readonly note: string;
  readonly override?: readonly Override[];
}
export const pourTree = form<PourTree>({
  version: version(),
  treeId: id().required(),
  outcome: text(20).required(),
  startedAt: instant().allow(null).required(),
  endedAt: instant().required(),
  by: by().required(),
  readings: Joi.object().required(),
  note: Joi.string().trim().allow('').max(1000).required(),
  override: override(),
});

export interface FinishHeat {
  readonly version: number;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly pigKg: number;
  readonly note: string;
}
export const finishHeat = form<FinishHeat>({
  version: version(),
  endedAt: instant().required(),
  by: by().required(),
  pigKg: Joi.number().min(0).max(5000).required(),
  note: Joi.string().trim().allow('').max(1000).required(),
});
