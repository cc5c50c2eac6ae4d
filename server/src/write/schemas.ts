import Joi from 'joi';
import type { Limits, Override, Text, Unit } from '@kalvet/core';
import { ALLOYS, FIRST_DAY, LAST_DAY, LETTERS, quantity, say } from '@kalvet/core';

/** Words for what Joi finds, as a founder reads them; the one list for forms and readings. */
export const MESSAGES = {
  'any.required': 'is missing',
  'any.unknown': 'is not known here',
  'any.invalid': 'is not one of the choices',
  'object.unknown': 'is not known here',
  'object.base': 'is missing',
  'object.min': 'is missing',
  'any.only': 'is not one of the choices',
  'string.base': 'must be text',
  'string.empty': 'is empty',
  'string.max': 'is longer than {#limit} letters',
  'string.pattern.base': 'is not written as it should be',
  'string.pattern.name': 'must be {#name}',
  'string.guid': 'must be an id',
  'string.clean': 'holds letters that cannot be seen or kept',
  'number.base': 'must be a number',
  'number.integer': 'must be a whole number',
  'string.trim': 'begins or ends with a space',
  'number.greater': 'must be more than {#limit}',
  'number.min': 'must be at least {#limit}',
  'number.max': 'must be at most {#limit}',
  'quantity.min': 'must be at least {#limit}',
  'quantity.max': 'must be at most {#limit}',
  'number.infinity': 'must be a number',
  'number.unsafe': 'is too large',
  'boolean.base': 'must be yes or no',
  'array.base': 'must be a list',
  'array.min': 'needs at least {#limit}',
  'array.max': 'takes at most {#limit}',
  'array.unique': 'is on the list twice',
  'array.sparse': 'holds an empty place',
};

export const id = () => Joi.string().guid({ separator: '-' }).lowercase();

const YEARS = { name: `of the years ${FIRST_DAY.slice(0, 4)} to ${LAST_DAY.slice(0, 4)}` };

export const instant = () =>
  Joi.string()
    .pattern(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/, { name: 'a date and time (UTC)' })
    .custom((value: string, helpers) => {
      if (Number.isNaN(Date.parse(value)))
        return helpers.error('string.pattern.name', { name: 'a date and time that exists' });
      const day = value.slice(0, 10);
      return day < FIRST_DAY || day > LAST_DAY
        ? helpers.error('string.pattern.name', YEARS)
        : new Date(value).toISOString();
    });
export const day = () =>
  Joi.string()
    .pattern(/^\d{4}-\d\d-\d\d$/, { name: 'a date' })
    .custom((value: string, helpers) => {
      const parsed = new Date(`${value}T00:00:00Z`);
      if (Number.isNaN(parsed.getTime()) || !parsed.toISOString().startsWith(value))
        return helpers.error('string.pattern.name', { name: 'a date that exists' });
      return value < FIRST_DAY || value > LAST_DAY ? helpers.error('string.pattern.name', YEARS) : value;
    });

/**
 * Letters that nobody sees or that turn the reading direction round (controls, zero widths, marks of direction), and halves
 * of letters: they would make two titles look alike, or one read backwards.
 */
const UNSEEN = /[\p{Cc}\p{Cf}\p{Cs}\p{Zl}\p{Zp}]/u;
/** Line breaks, tabs, and the joiners that some scripts write between two letters. */
const ALLOWED = /[\n\r\t]|(?<=\p{L})[\u200c\u200d](?=\p{L})/gu;

const seen = (schema: Joi.StringSchema): Joi.StringSchema =>
  schema.custom((value: string, helpers) =>
    UNSEEN.test(value.replace(ALLOWED, '')) ? helpers.error('string.clean') : value,
  );

export const text = (max: number = LETTERS.title) => seen(Joi.string().trim().min(1).max(max));
/** Text that may be empty. */
export const words = (max: number) => seen(Joi.string().trim().allow('').max(max)).required();
export const note = () => words(LETTERS.note);
export const version = () => Joi.number().integer().min(1).required();
/** The version of something that may be new: 0 then. */
export const versionOrNew = () => Joi.number().integer().min(0).required();

export const number = ({ min, max, unit }: Limits): Joi.NumberSchema =>
  unit === undefined
    ? Joi.number().min(min).max(max)
    : Joi.number().custom((value: number, helpers) => {
        if (value < min) return helpers.error('quantity.min', { limit: min, unit });
        return value > max ? helpers.error('quantity.max', { limit: max, unit }) : value;
      });

/** A share of a whole, from 0 to 1; told in percent, as it was typed. */
export const share = (): Joi.NumberSchema =>
  Joi.number().custom((value: number, helpers) => {
    if (value < 0) return helpers.error('quantity.min', { limit: 0, unit: '%' });
    return value > 1 ? helpers.error('quantity.max', { limit: 100, unit: '%' }) : value;
  });

/** What is wrong with a value, as data: a limit is worded in its reader's own unit. */
export function wrongInWords({ type, message, context }: Joi.ValidationErrorItem): Text {
  const { limit, unit } = (context ?? {}) as { readonly limit: number; readonly unit: Unit };
  if (type === 'quantity.min') return say`must be at least ${quantity(limit, unit)}`;
  if (type === 'quantity.max') return say`must be at most ${quantity(limit, unit)}`;
  return message;
}
export const whole = (limits: Limits) => number(limits).integer();
export const oneOf = (choices: readonly string[]) => Joi.string().valid(...choices);

/** What was typed in another unit, by field or reading. */
export const typed = () =>
  Joi.object()
    .pattern(Joi.string().max(60), seen(Joi.string().max(60)))
    .optional();

/** Keys of readings that were taken over and not read off. */
export const taken = () => Joi.array().items(Joi.string().max(60)).max(40).unique().optional();

/** A schema for every key of a type: a missing or an extra one does not compile. */
type Keys<T> = { readonly [K in keyof T]-?: Joi.Schema };

/** An object inside a form. */
export const part = <T>(keys: Keys<T>): Joi.ObjectSchema<T> => Joi.object(keys as Joi.SchemaMap) as Joi.ObjectSchema<T>;

/** The rules passed on purpose that come with a write. */
export const override = () =>
  Joi.array()
    .items(part<Override>({ rule: text(40).required(), reason: text(LETTERS.why).required() }))
    .max(8)
    .optional();

/** A whole body, with messages in shop words. */
export const form = <T>(keys: Keys<T>): Joi.ObjectSchema<T> => part<T>(keys).required().messages(MESSAGES);

export const alloyCode = () => oneOf(ALLOYS.map((alloy) => alloy.id));
