import type { Day, Holiday, HolidayRegion } from '@kalvet/core';
import { addDays } from '@kalvet/core';
import Holidays from 'date-holidays';

/** So far ahead closed days are offered: what is planned now is out by then. */
const AHEAD_DAYS = 550;

/** Countries and their regions whose usual holidays are known, by their names. */
export function holidayRegions(): HolidayRegion[] {
  const known = new Holidays();
  return Object.entries(known.getCountries('en'))
    .map(([code, name]) => ({
      code,
      name,
      regions: Object.entries(known.getStates(code, 'en') ?? {}).map(([region, title]) => ({
        code: region,
        name: title,
      })),
    }))
    .sort((a, b) => a.name.localeCompare(b.name));
}

/**
 * Public holidays from a day on, each day once. A list to begin with and no law: what a shop closes on is its own to say.
 * @param country of `holidayRegions`, with or without a region of it
 */
export function holidaysFrom(from: Day, country: string, region?: string): Holiday[] {
  const known = region === undefined ? new Holidays(country) : new Holidays(country, region);
  const until = addDays(from, AHEAD_DAYS);
  const years = [...new Set([from, addDays(from, AHEAD_DAYS / 2), until].map((day) => Number(day.slice(0, 4))))];
  const days = new Map<Day, string>();
  for (const year of years)
    for (const { date, name, type } of known.getHolidays(year, 'en')) {
      const day = date.slice(0, 10);
      if (type === 'public' && day >= from && day <= until && !days.has(day)) days.set(day, name);
    }
  return [...days].map(([day, name]) => ({ day, name })).sort((a, b) => a.day.localeCompare(b.day));
}
