import Joi from 'joi';
import type { Calendar, KindTimes, SaveCalendar, SaveNumbers, SavePin, SaveResource, SaveTimes } from '@kalvet/core';
import { KIND_ORDER, PINS, minuteOfDay } from '@kalvet/core';
import { day, form, id, instant, part, text, version } from '../write/schemas.ts';

const time = () =>
  Joi.string().custom((value: string, helpers) =>
    minuteOfDay(value) === undefined ? helpers.error('string.pattern.name', { name: 'a time, as 08:00' }) : value,
  );
/** From before to: a window that ends before it begins is nonsense. */
const forward = <T extends { from: string; to: string }>(schema: Joi.ObjectSchema<T>) =>
  schema.custom((value: T, helpers) =>
    minuteOfDay(value.from)! < minuteOfDay(value.to)!
      ? value
      : helpers.error('string.pattern.name', { name: 'from an earlier to a later hour of one day' }),
  );

export const calendar = form<SaveCalendar>({
  id: id().required(),
  version: Joi.number().integer().min(0).required(),
  name: text(120).required(),
  always: Joi.boolean().required(),
  weekly: Joi.array()
    .items(
      forward(
        part<Calendar['weekly'][number]>({
          day: Joi.number().integer().min(1).max(7).required(),
          from: time().required(),
          to: time().required(),
        }),
      ),
    )
    .max(60)
    .required(),
  closed: Joi.array().items(day()).max(400).unique().required(),
  extra: Joi.array()
    .items(
      forward(
        part<Calendar['extra'][number]>({ date: day().required(), from: time().required(), to: time().required() }),
      ),
    )
    .max(400)
    .required(),
});

export const resource = form<SaveResource>({
  version: version(),
  count: Joi.number().integer().min(1).max(200).required(),
  calendarId: id().required(),
  setupMinutes: Joi.number().integer().min(0).max(10_080).required(),
});

const share = () => Joi.number().min(0).max(1).required();
const kg = () => Joi.number().min(0.1).max(20_000).required();

export const numbers = form<SaveNumbers>({
  version: Joi.number().integer().min(0).required(),
  liftLimitKg: Joi.number().min(1).max(200).required(),
  waxBand: Joi.number().min(0.01).max(0.5).required(),
  crucibleHoldsKg: kg(),
  crucibleUsableKg: kg(),
  kilnPlaces: Joi.number().integer().min(1).max(500).required(),
  meltLoss: Joi.number().min(0).max(0.3).required(),
  returnsShare: share(),
  pigReserveKg: Joi.number().min(0).max(1000).required(),
  crucibleKg: kg(),
  tongsKg: Joi.number().min(0).max(1000).required(),
  carriers: Joi.number().integer().min(1).max(12).required(),
  furnaceKw: Joi.number().min(1).max(5000).required(),
  furnaceEfficiency: Joi.number().min(0.01).max(1).required(),
});

/** A year: nothing on a route takes or waits longer. */
const YEAR_MIN = 525_600;

export const times = form<SaveTimes>({
  version: Joi.number().integer().min(0).required(),
  kind: Joi.string()
    .valid(...KIND_ORDER)
    .required(),
  times: part<KindTimes>({
    minutes: Joi.number().integer().min(0).max(YEAR_MIN).optional(),
    minWait: Joi.number().integer().min(0).max(YEAR_MIN).optional(),
    maxWait: Joi.number().integer().min(0).max(YEAR_MIN).allow(null).optional(),
  }).required(),
});

/** What is asked about: an outcome of a step. */
export const whatIf = form<{ readonly outcome: string }>({ outcome: text(20).required() });

/** Which day's sheet. */
export const daySheet = form<{ readonly day?: string | undefined }>({ day: day().optional() });

export const pin = form<SavePin>({
  version: version(),
  kind: Joi.string()
    .valid(...PINS)
    .allow(null)
    .required(),
  at: instant().allow(null).required(),
});
