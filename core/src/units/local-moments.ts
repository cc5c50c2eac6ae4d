import { DateTime } from 'luxon';
import type { Instant } from './instant.ts';

/** Moments as a file writes them, by the clock on the wall. */
export interface LocalMoments {
  /** In the order of the texts; null where one is no moment. */
  readonly moments: readonly (Instant | null)[];
  /** Readings of an hour that came a second time, when the clocks went back. */
  readonly twice: number;
}

const ZONED = /(Z|[+-]\d\d:?\d\d)$/;
const DATES = { dayFirst: ['d/M/yyyy', 'd/M/yy'], monthFirst: ['M/d/yyyy', 'M/d/yy'], yearFirst: ['yyyy/M/d'] };
const TIMES = ['H:mm:ss', 'H:mm', 'h:mm:ss a', 'h:mm a'];

/**
 * Reads moments off a file in the order they stand there: with a zone as they are, without one by a clock on the wall of that
 * zone. Where the clocks go back an hour comes twice; times that fall back within it are of the second one. Days are read day
 * first unless a second number above 12 shows that months come first.
 */
export function localMoments(texts: readonly string[], zone: string): LocalMoments {
  const tidy = texts.map((text) => text.trim().replace(/[.\-/](?=\d)/g, (sign) => (sign === '-' ? '-' : '/')));
  const monthFirst = tidy.some((text) => {
    const [, first, second] = /^(\d{1,2})\/(\d{1,2})\//.exec(text) ?? [];
    return second !== undefined && Number(second) > 12 && Number(first) <= 12;
  });
  const dates = [...DATES.yearFirst, ...(monthFirst ? DATES.monthFirst : DATES.dayFirst)];
  let twice = 0;
  let before: DateTime | undefined;
  const moments = tidy.map((text, i): Instant | null => {
    const read = readOne(texts[i]!.trim(), text, dates, zone);
    if (!read) return null;
    let at = read;
    if (!ZONED.test(texts[i]!.trim())) {
      const [earlier, later] = [...read.getPossibleOffsets()].sort((a, b) => a.toMillis() - b.toMillis());
      at = earlier ?? read;
      // The clock showed this hour already: it is the second time.
      if (later && before && at.toMillis() <= before.toMillis() && later.toMillis() > before.toMillis()) {
        at = later;
        twice++;
      }
    }
    before = at;
    return at.toUTC().toISO();
  });
  return { moments, twice };
}

function readOne(raw: string, text: string, dates: readonly string[], zone: string): DateTime | undefined {
  const iso = DateTime.fromISO(raw.replace(/^(\d{4}-\d\d-\d\d) (\d)/, '$1T$2').replace(/ (Z|[+-]\d\d:?\d\d)$/, '$1'), {
    zone,
  });
  if (iso.isValid) return iso;
  for (const date of dates)
    for (const time of TIMES) {
      const found = DateTime.fromFormat(text, `${date} ${time}`, { zone, locale: 'en' });
      if (found.isValid) return found;
    }
  return undefined;
}
