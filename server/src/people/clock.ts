import type { Day, Instant } from '@kalvet/core';
import { DateTime } from 'luxon';

/** The calendar day of an instant in the shop's time zone. */
export const today = (now: Instant, timeZone: string): Day =>
  DateTime.fromISO(now, { zone: timeZone }).toISODate() ?? now.slice(0, 10);
