import type { FeedSubject, SaveVisit } from '@kalvet/core';
import { LETTERS, minuteOfDay } from '@kalvet/core';
import Joi from 'joi';
import { day, form, id, text, versionOrNew, words } from '../write/schemas.ts';
import { inOrder } from './planning.schema.ts';

export const subject = form<{ readonly subject: FeedSubject }>({ subject: text(60).required() });

const time = () =>
  Joi.string().custom((value: string, helpers) =>
    minuteOfDay(value) === undefined ? helpers.error('string.pattern.name', { name: 'a time, as 14:00' }) : value,
  );

export const visit = form<SaveVisit>({
  id: id().required(),
  version: versionOrNew(),
  day: day().required(),
  from: time().required(),
  to: time().required(),
  who: text(LETTERS.name).required(),
  note: words(LETTERS.why),
  gone: Joi.boolean().required(),
}).custom(inOrder);
