import Joi from 'joi';
import type { Defect, ReadingDef, StepKindCode } from '@kalvet/core';
import { BAR_STOCK, STEP_KINDS, VERDICTS, worstVerdict } from '@kalvet/core';
import { invalid } from '../write/problem.ts';
import { id } from '../write/schemas.ts';

const bars = Joi.array()
  .max(60)
  .items(
    Joi.object({
      stock: Joi.string()
        .valid(...BAR_STOCK.map(({ code }) => code))
        .required(),
      count: Joi.number().integer().min(1).max(200).required(),
      lengthMm: Joi.number().min(1).max(5000).required(),
    }),
  );

/** The schema of one reading, made from its definition. */
function schemaOf(def: ReadingDef): Joi.Schema {
  const number = () =>
    Joi.number()
      .min(def.min ?? 0)
      .max(def.max ?? 1e6);
  switch (def.kind) {
    case 'number':
      return number();
    case 'text':
      return Joi.string()
        .trim()
        .max(def.max ?? 500)
        .allow(...(def.required ? [] : ['']));
    case 'choice':
      return Joi.string().valid(...(def.choices ?? []).map(({ code }) => code));
    case 'yes':
      return Joi.boolean();
    case 'mould':
      return id();
    case 'casts':
      return Joi.array().items(id()).min(1).max(60);
    case 'perCast':
      return Joi.object().pattern(id(), number()).min(1);
    case 'bars':
      return bars;
    case 'defects':
      return Joi.array()
        .max(60)
        .items(
          Joi.object<Defect, true>({
            code: Joi.string()
              .valid(...(def.choices ?? []).map(({ code }) => code))
              .required(),
            where: Joi.string().trim().allow('').max(200).required(),
            mm: Joi.number().min(0.1).max(5000).allow(null).required(),
            verdict: Joi.string()
              .valid(...VERDICTS)
              .required(),
          }),
        );
  }
}

const WORDS = {
  'any.required': 'is missing',
  'any.only': 'is not one of the choices',
  'object.unknown': 'is not a reading of this step',
  'object.min': 'is missing',
  'number.base': 'must be a number',
  'number.min': 'must be at least {#limit}',
  'number.max': 'must be at most {#limit}',
  'string.base': 'must be text',
  'string.empty': 'is empty',
  'string.max': 'is longer than {#limit} letters',
  'array.min': 'needs at least {#limit}',
  'array.base': 'must be a list',
  'array.unique': 'is on the list twice',
};

/** An inspection is not passed over the head of its own verdicts. */
function refuseMilder(kind: StepKindCode, outcome: string, { defects }: Record<string, unknown>): void {
  if (kind !== 'inspect' || outcome === 'skipped') return;
  const worst = worstVerdict((defects ?? []) as Defect[]);
  if (VERDICTS.indexOf(worst) > VERDICTS.findIndex((each) => each === outcome))
    throw invalid({ outcome: `a defect on the list says ${worst}` });
}

/**
 * Checks the readings of a step against the definitions of its kind, for the outcome said.
 * @throws Problem `invalid`, each field named as `readings.key`
 */
export function checkReadings(kind: StepKindCode, outcome: string, readings: unknown): Record<string, unknown> {
  const asked =
    outcome === 'skipped'
      ? []
      : STEP_KINDS[kind].readings.filter((def) => !def.outcomes || def.outcomes.includes(outcome));
  // What a lost or spoilt carrier no longer shows need not be read.
  const failed =
    outcome !== 'skipped' && STEP_KINDS[kind].outcomes.find((each) => each.code === outcome)?.effect === 'lost';
  const keys = Object.fromEntries(
    asked.map((def) => {
      const schema = schemaOf(def);
      return [def.key, def.required && (!failed || def.kind === 'mould') ? schema.required() : schema.optional()];
    }),
  );
  const { error, value } = Joi.object(keys)
    .messages(WORDS)
    .validate(readings ?? {}, {
      abortEarly: false,
      convert: false,
      errors: { label: 'key', wrap: { label: false } },
    });
  if (!error) {
    refuseMilder(kind, outcome, value as Record<string, unknown>);
    return value as Record<string, unknown>;
  }
  const fields: Record<string, string> = {};
  for (const { path, message } of error.details) {
    const label = asked.find((def) => def.key === path[0])?.label;
    fields[['readings', ...path].join('.')] ??= label ? `${label} ${message}` : message;
  }
  throw invalid(fields);
}
