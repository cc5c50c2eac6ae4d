import Joi from 'joi';
import { IANAZone } from 'luxon';
import type {
  Calendar,
  KindTimes,
  PourCard,
  SaveCalendar,
  SaveResource,
  SaveSettings,
  SaveStaffing,
} from '@kalvet/core';
import { KINDS, LETTERS, LIMITS, MOST, TRAVELS, minuteOfDay } from '@kalvet/core';
import { barStock, cup } from '../route/tree-stock.schema.ts';
import {
  day,
  form,
  id,
  number,
  oneOf,
  part,
  share,
  text,
  typed,
  version,
  versionOrNew,
  whole,
  words,
} from '../write/schemas.ts';

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

/** How many more or fewer, and from which day to which. */
export const handsChange = () => ({
  more: Joi.number().integer().min(-LIMITS.hands.max).max(LIMITS.hands.max).invalid(0).required(),
  from: day().required(),
  to: day().required(),
  why: words(LETTERS.title),
});

/** From a first day to a last, never the other way round. */
export const inOrder = <T extends { readonly from: string; readonly to: string }>(
  value: T,
  helpers: Joi.CustomHelpers,
) =>
  value.from <= value.to ? value : helpers.error('string.pattern.name', { name: 'from an earlier to a later day' });

const numbers = part<NonNullable<SaveSettings['numbers']>>({
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
  returnsShare: share().required(),
  pigReserveKg: number(LIMITS.pigReserveKg).required(),
  crucibleKg: number(LIMITS.crucibleKg).required(),
  tongsKg: number(LIMITS.tongsKg).required(),
  carriers: whole(LIMITS.carriers).required(),
  furnaceKw: number(LIMITS.furnaceKw).required(),
  furnaceEfficiency: number(LIMITS.furnaceEfficiency).required(),
  liningMinutes: whole(LIMITS.fireMinutes).required(),
  alloyChangeMinutes: whole(LIMITS.fireMinutes).required(),
  pourMetalHands: whole(LIMITS.pourHands).required(),
  pourShellHands: whole(LIMITS.pourHands).required(),
  crewBeforeMinutes: whole(LIMITS.fireMinutes).required(),
  transferK: number(LIMITS.transferK).required(),
  crucibleLossK: number(LIMITS.crucibleLossK).required(),
  minutesATree: number(LIMITS.minutesATree).required(),
  pitPlaces: whole(LIMITS.pitPlaces).required(),
  pitAcross: whole(LIMITS.pitPlaces).required(),
  pitPitchMm: number(LIMITS.pitPitchMm).required(),
  tankAcrossMm: number(LIMITS.insideMm).required(),
  tankDeepMm: number(LIMITS.insideMm).required(),
  kilnAcrossMm: number(LIMITS.insideMm).required(),
  kilnHighMm: number(LIMITS.insideMm).required(),
  kilnDeepMm: number(LIMITS.insideMm).required(),
  kilnGapMm: number(LIMITS.gapMm).required(),
  kilnMostKg: number(LIMITS.kilnKg).required(),
  mouldLongMm: number(LIMITS.insideMm).required(),
  onlookersM: number(LIMITS.onlookersM).required(),
  skimMinutes: number(LIMITS.pourMinutes).required(),
  pigMinutes: number(LIMITS.pourMinutes).required(),
  meterKwh: number(LIMITS.meterKwh).required(),
  preheatMinutes: whole(LIMITS.fireMinutes).required(),
  preheatC: number(LIMITS.preheatC).required(),
  shellLossShare: number(LIMITS.shellLossShare).required(),
  kilnHands: whole(LIMITS.kilnHands).required(),
  hoists: whole(LIMITS.hoists).required(),
  hoistFromKg: number(LIMITS.hoistFromKg).required(),
  frozenDays: whole(LIMITS.workingDays).required(),
  decisionDays: whole(LIMITS.workingDays).required(),
  dryingReferenceK: number(LIMITS.dryingK).required(),
  coatMm: number(LIMITS.coatMm).required(),
  firingStages: whole(LIMITS.firingStages).required(),
  typed: typed(),
});

/** What is changed of the settings; what is left out stays as it is. */
export const settings = form<SaveSettings>({
  version: versionOrNew(),
  numbers: numbers.optional(),
  resources: Joi.array()
    .items(
      part<SaveResource>({
        id: id().required(),
        version: version(),
        count: whole(LIMITS.hands).required(),
        calendarId: id().required(),
        setupMinutes: whole(LIMITS.setupMinutes).required(),
      }),
    )
    .max(MOST.resources)
    .optional(),
  times: Joi.object()
    .pattern(
      Joi.string().valid(...KINDS.map(({ code }) => code)),
      part<KindTimes>({
        minutes: whole(LIMITS.minutes).optional(),
        minWait: whole(LIMITS.minutes).optional(),
        maxWait: whole(LIMITS.minutes).allow(null).optional(),
      }),
    )
    .optional(),
  cups: Joi.array()
    .items(cup())
    .max(MOST.cups)
    .unique((a: { name?: unknown } | null, b: { name?: unknown } | null) => a?.name === b?.name)
    .optional(),
  barStock: Joi.array().items(barStock()).max(MOST.barStock).unique().optional(),
  pourCard: part<PourCard>({
    travels: oneOf(TRAVELS).required(),
    meetingPoint: words(LETTERS.place),
    runOut: words(LETTERS.note),
    wetMould: words(LETTERS.note),
    hurt: words(LETTERS.note),
  }).optional(),
});

/** Hands more or fewer for a while. */
export const staffing = form<SaveStaffing>({
  id: id().required(),
  version: versionOrNew(),
  resourceId: id().required(),
  ...handsChange(),
  personId: id().allow(null).optional(),
  gone: Joi.boolean().required(),
}).custom(inOrder);

/** What is asked about: an outcome of a step. */
export const whatIf = form<{ readonly outcome: string; readonly ticket?: string | undefined }>({
  outcome: text(20).required(),
  ticket: text(100).optional(),
});

/** Which day's sheet. */
export const daySheet = form<{ readonly day?: string | undefined }>({ day: day().optional() });

const code = () => Joi.string().pattern(/^[A-Z0-9]{2,5}$/, { name: 'a code of two to five letters or digits' });

/** Whose usual holidays. */
export const holidays = form<{ readonly country: string; readonly region?: string | undefined }>({
  country: code().required(),
  region: code().optional(),
});
