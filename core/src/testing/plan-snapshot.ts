import type { PlanSnapshot } from '../plan/build/snapshot.ts';
import { DEFAULT_CALENDARS, DEFAULT_RESOURCES } from '../records/plan.ts';
import { DEFAULT_SETTINGS } from '../records/settings.ts';
import type { Shop } from '../records/shop.ts';
import { indexShop } from '../shop/index-shop.ts';
import { toMs } from '../units/instant.ts';
import { START } from './play.ts';

/** The clock of these specs is UTC: minute 0 is 2027-03-01T00:00Z, a Monday; START is 08:00. */
export const MIDNIGHT = toMs('2027-03-01T00:00:00.000Z');

/** A shop as the planner takes it, with the hours and hands that a shop starts with. */
export const snapshot = (shop: Shop, now = START, rest: Partial<PlanSnapshot> = {}): PlanSnapshot => ({
  index: indexShop(shop),
  settings: DEFAULT_SETTINGS,
  calendars: DEFAULT_CALENDARS,
  resources: DEFAULT_RESOURCES,
  startDay: '2027-03-01',
  minuteOf: (instant) => Math.floor((toMs(instant) - MIDNIGHT) / 60_000),
  now,
  ...rest,
});
