import Joi from 'joi';
import { IANAZone } from 'luxon';
import type { Calendar, KindTimes, SaveCalendar, SaveNumbers, SaveResource, SaveTimes } from '@kalvet/core';
import { KINDS, LETTERS, LIMITS, minuteOfDay } from '@kalvet/core';
import { day, form, id, number, oneOf, part, text, typed, version, versionOrNew, whole } from '../write/schemas.ts';

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
  version: versionOrNew(),
  name: text(LETTERS.name).required(),
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
  count: whole(LIMITS.hands).required(),
  calendarId: id().required(),
  setupMinutes: whole(LIMITS.setupMinutes).required(),
});

export const numbers = form<SaveNumbers>({
  version: versionOrNew(),
  timeZone: Joi.string()
    .custom((value: string, helpers) =>
      IANAZone.isValidZone(value)
        ? value
        : helpers.error('string.pattern.name', { name: 'a time zone, as Europe/London' }),
    )
    .required(),
  liftLimitKg: number(LIMITS.liftLimitKg).required(),
  waxBand: number(LIMITS.waxBand).required(),
  crucibleHoldsKg: number(LIMITS.crucibleKg).required(),
  crucibleUsableKg: number(LIMITS.crucibleKg).required(),
  kilnPlaces: whole(LIMITS.kilnPlaces).required(),
  meltLoss: number(LIMITS.meltLoss).required(),
  returnsShare: number(LIMITS.share).required(),
  pigReserveKg: number(LIMITS.pigReserveKg).required(),
  crucibleKg: number(LIMITS.crucibleKg).required(),
  tongsKg: number(LIMITS.tongsKg).required(),
  carriers: whole(LIMITS.carriers).required(),
  furnaceKw: number(LIMITS.furnaceKw).required(),
  furnaceEfficiency: number(LIMITS.furnaceEfficiency).required(),
  typed: typed(),
});

export const times = form<SaveTimes>({
  version: versionOrNew(),
  kind: oneOf(KINDS.map(({ code }) => code)).required(),
  times: part<KindTimes>({
    minutes: whole(LIMITS.minutes).optional(),
    minWait: whole(LIMITS.minutes).optional(),
    maxWait: whole(LIMITS.minutes).allow(null).optional(),
  }).required(),
});

/** What is asked about: an outcome of a step. */
export const whatIf = form<{ readonly outcome: string; readonly ticket?: string | undefined }>({
  outcome: text(20).required(),
  ticket: text(100).optional(),
});

/** Which day's sheet. */
export const daySheet = form<{ readonly day?: string | undefined }>({ day: day().optional() });
