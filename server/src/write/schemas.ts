import Joi from 'joi';
import type { Override } from '@kalvet/core';

/** Words for what Joi finds, as a founder reads them. */
const MESSAGES = {
  'any.required': 'is missing',
  'any.unknown': 'is not known here',
  'object.unknown': 'is not known here',
  'object.base': 'is missing',
  'any.only': 'is not one of the choices',
  'string.base': 'must be text',
  'string.empty': 'is empty',
  'string.max': 'is longer than {#limit} letters',
  'string.pattern.base': 'is not written as it should be',
  'string.pattern.name': 'must be {#name}',
  'number.base': 'must be a number',
  'number.integer': 'must be a whole number',
  'string.trim': 'begins or ends with a space',
  'number.greater': 'must be more than {#limit}',
  'number.min': 'must be at least {#limit}',
  'number.max': 'must be at most {#limit}',
  'number.infinity': 'must be a number',
  'number.unsafe': 'is too large',
  'boolean.base': 'must be yes or no',
  'array.base': 'must be a list',
  'array.min': 'needs at least {#limit}',
  'array.max': 'takes at most {#limit}',
  'array.unique': 'is on the list twice',
};

export const id = () =>
  Joi.string().pattern(/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/, { name: 'an id' });
export const instant = () =>
  Joi.string()
    .pattern(/^\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,3})?Z$/, { name: 'a date and time (UTC)' })
    .custom((value: string, helpers) =>
      Number.isNaN(Date.parse(value))
        ? helpers.error('string.pattern.name', { name: 'a date and time that exists' })
        : new Date(value).toISOString(),
    );
export const day = () =>
  Joi.string()
    .pattern(/^\d{4}-\d\d-\d\d$/, { name: 'a date' })
    .custom((value: string, helpers) => {
      const parsed = new Date(`${value}T00:00:00Z`);
      return Number.isNaN(parsed.getTime()) || !parsed.toISOString().startsWith(value)
        ? helpers.error('string.pattern.name', { name: 'a date that exists' })
        : value;
    });
export const text = (max = 200) => Joi.string().trim().min(1).max(max);
export const version = () => Joi.number().integer().min(1).required();

/** A schema for every key of a type: a missing or an extra one does not compile. */
type Keys<T> = { readonly [K in keyof T]-?: Joi.Schema };

/** An object inside a form. */
export const part = <T>(keys: Keys<T>): Joi.ObjectSchema<T> => Joi.object(keys as Joi.SchemaMap) as Joi.ObjectSchema<T>;

/** The rules passed on purpose that come with a write. */
export const override = () =>
  Joi.array()
    .items(part<Override>({ rule: text(40).required(), reason: text(500).required() }))
    .max(8)
    .optional();

/** A whole body, with messages in shop words. */
export const form = <T>(keys: Keys<T>): Joi.ObjectSchema<T> => part<T>(keys).required().messages(MESSAGES);
