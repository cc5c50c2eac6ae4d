import Joi from 'joi';
import type { Defect, ReadingDef, ReadingKind, StepKind, Text } from '@kalvet/core';
import { LIMITS, MOST, VERDICTS, outcomeOf, readingsAsked, say } from '@kalvet/core';
import { invalid } from '../write/problem.ts';
import { barStock, cup } from './tree-stock.schema.ts';
import { MESSAGES, id, number, oneOf, part, text, whole, words, wrongInWords } from '../write/schemas.ts';

type Bar = { readonly stock: string; readonly count: number; readonly lengthMm: number };

const codes = (def: ReadingDef) => (def.choices ?? []).map(({ code }) => code);
const within = ({ min = 0, max = 1e6, unit }: ReadingDef) => number({ min, max, ...(unit ? { unit } : {}) });

/** The schema of each kind of reading: the one place on the server where a new one is entered. */
const SCHEMAS: Readonly<Record<ReadingKind, (def: ReadingDef) => Joi.Schema>> = {
  number: within,
  text: ({ max = 500, required }) => (required ? text(max) : words(max).optional()),
  choice: (def) => oneOf(codes(def)),
  yes: () => Joi.boolean(),
  mould: () => id(),
  casts: () => Joi.array().items(id()).min(1).max(MOST.trees),
  perCast: (def) => Joi.object().pattern(id(), within(def)).min(1),
  bars: () =>
    Joi.array()
      .max(MOST.bars)
      .items(
        part<Bar>({
          stock: barStock().required(),
          count: whole(LIMITS.barCount).required(),
          lengthMm: number(LIMITS.barMm).required(),
        }),
      ),
  cup: () => Joi.alternatives(Joi.boolean().valid(false), cup()),
  defects: (def) =>
    Joi.array()
      .max(MOST.defects)
      .items(
        part<Defect>({
          code: oneOf(codes(def)).required(),
          where: words(200),
          mm: number(LIMITS.defectMm).allow(null).required(),
          verdict: oneOf(VERDICTS).required(),
        }),
      ),
  codes: (def) => Joi.array().items(oneOf(codes(def))),
};

/**
 * Checks the readings of a step against the definitions of its kind, for the outcome said.
 * @throws Problem `invalid`, each field named as `readings.key`
 */
export function checkReadings(kind: StepKind, outcome: string, readings: unknown): Record<string, unknown> {
  if (!outcomeOf(kind, outcome)) throw invalid({ outcome: `${kind.name} has no outcome "${outcome}"` });
  const asked = readingsAsked(kind, outcome);
  // What a lost or spoilt carrier no longer shows need not be read.
  const failed = outcomeOf(kind, outcome)?.effect === 'lost';
  const keys = Object.fromEntries(
    asked.map((def) => {
      const schema = SCHEMAS[def.kind](def);
      return [def.key, def.required && (!failed || def.kind === 'mould') ? schema.required() : schema.optional()];
    }),
  );
  return checked(Joi.object(keys), readings, asked);
}

/** Checks what is said at a step's begin: each reading by its definition, none of them asked for. */
export function checkFirstReadings(kind: StepKind, readings: unknown): Record<string, unknown> {
  const keys = Object.fromEntries(kind.readings.map((def) => [def.key, SCHEMAS[def.kind](def).optional()]));
  return checked(Joi.object(keys), readings, kind.readings);
}

function checked(schema: Joi.ObjectSchema, readings: unknown, defs: readonly ReadingDef[]): Record<string, unknown> {
  const { error, value } = schema
    .messages({ ...MESSAGES, 'object.unknown': 'is not a reading of this step' })
    .validate(readings ?? {}, {
      abortEarly: false,
      convert: false,
      errors: { label: 'key', wrap: { label: false } },
    });
  if (!error) return value as Record<string, unknown>;
  const fields: Record<string, Text> = {};
  for (const wrong of error.details) {
    const label = defs.find((def) => def.key === wrong.path[0])?.label;
    const said = wrongInWords(wrong);
    fields[['readings', ...wrong.path].join('.')] ??= label ? say`${label} ${said}` : said;
  }
  throw invalid(fields);
}
