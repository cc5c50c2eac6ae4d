// Dates worth promising: a shop lives for years with known spreads and losses, promises each piece a date when it comes in, and
// what it promised with nine chances in ten is counted. A promise is a day: it holds where the piece is out on it.
import { liveOn } from '../core/src/testing/living-shop.ts';
import { line } from './measure.ts';
import type { Line } from './measure.ts';

const DAY = 1440;
const WEEKS = 300;
/** Quiet shops of different works, and one in which twice as much comes in. */
const SHOPS = [
  { arrivals: 1, seed: 5 },
  { arrivals: 1, seed: 7 },
  { arrivals: 2, seed: 6 },
] as const;
const LEAST = 87;
const MOST = 93;

export async function calibration(): Promise<Line[]> {
  const all: { held: boolean; even: boolean }[] = [];
  const lines = SHOPS.flatMap(({ arrivals, seed }): Line[] => {
    const kept = liveOn({ weeks: WEEKS, arrivals, seed });
    const day = (minute: number) => Math.floor(minute / DAY);
    const judged = kept.map(({ finished, ninety, even }) => ({
      held: day(finished) <= day(ninety),
      even: day(finished) <= day(even),
    }));
    all.push(...judged);
    const of = `${arrivals} a week for ${WEEKS} weeks, ${kept.length} pieces`;
    const tail = kept.reduce((sum, { ninety, even }) => sum + ninety - even, 0) / kept.length / DAY;
    return [
      line(`Nine-in-ten dates that held: ${of}`, share(judged, 'held'), '%'),
      line('… even dates that held', share(judged, 'even'), '%'),
      line('… days between the two', tail, 'd'),
    ];
  });
  return [
    ...lines,
    line('Nine-in-ten dates that held, of all', share(all, 'held'), '%', MOST),
    line('… and that did not', 100 - share(all, 'held'), '%', 100 - LEAST),
  ];
}

const share = <K extends string>(list: readonly Readonly<Record<K, boolean>>[], key: K): number =>
  (100 * list.filter((each) => each[key]).length) / list.length;
