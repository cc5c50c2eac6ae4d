// Calendar dates as day numbers, without any clock or time zone (proleptic Gregorian; H. Hinnant's civil-day formulas).

const DATE = /^(\d{4})-(\d\d)-(\d\d)$/;

/** Days since 1970-01-01 of a date, or undefined where there is no such day. */
export function dayNumber(date: string): number | undefined {
  const found = DATE.exec(date);
  if (!found) return undefined;
  const [year, month, day] = [Number(found[1]), Number(found[2]), Number(found[3])];
  const number = civil(year, month, day);
  return month >= 1 && month <= 12 && dateOf(number) === date ? number : undefined;
}

function civil(year: number, month: number, day: number): number {
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  return (
    era * 146_097 + yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear - 719_468
  );
}

/** The date of a day number. */
export function dateOf(days: number): string {
  const z = days + 719_468;
  const era = Math.floor(z / 146_097);
  const dayOfEra = z - era * 146_097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36_524) - Math.floor(dayOfEra / 146_096)) / 365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const m = Math.floor((5 * dayOfYear + 2) / 153);
  const month = m < 10 ? m + 3 : m - 9;
  const year = yearOfEra + era * 400 + (month <= 2 ? 1 : 0);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${String(year).padStart(4, '0')}-${two(month)}-${two(dayOfYear - Math.floor((153 * m + 2) / 5) + 1)}`;
}

/** 1 is Monday, 7 Sunday. 1970-01-01 was a Thursday. */
export const weekday = (days: number): number => ((((days + 3) % 7) + 7) % 7) + 1;

/** Minutes after midnight of `HH:MM`, "24:00" included; undefined where it is none. */
export function minuteOfDay(time: string): number | undefined {
  const found = /^(\d\d):(\d\d)$/.exec(time);
  if (!found) return undefined;
  const [hours, minutes] = [Number(found[1]), Number(found[2])];
  const minute = hours * 60 + minutes;
  return minutes < 60 && minute <= 1440 ? minute : undefined;
}

/** `HH:MM` of minutes after midnight, up to "24:00". */
export const timeOfDay = (minute: number): string =>
  [Math.floor(minute / 60), minute % 60].map((each) => String(each).padStart(2, '0')).join(':');
