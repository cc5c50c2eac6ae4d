import { ALLOYS } from '../materials/alloys.ts';
import { WAXES } from '../materials/waxes.ts';
import { ROOM_NAMES, ROOMS } from '../records/common.ts';
import type { LearnedGroup, LearnedLine, LearnedPoint } from '../records/quality-page.ts';
import type { ShopSettings } from '../records/settings.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { DEFAULT_COAT_MM } from '../shell/weight.ts';
import { learnedHours, loggedHours } from '../shop/learned-hours.ts';
import type { LearnedFigure } from '../units/learned.ts';
import { learned } from '../units/learned.ts';
import { say } from '../units/words.ts';
import { castFactor } from '../wax/bronze-from-wax.ts';
import { factorKey, factorOfPairs, factorWith } from '../wax/own-factor.ts';
import { castPairs, coatWalls } from './cast-pairs.ts';
import { firstPass } from './first-pass.ts';
import { passedRooms } from './room-yields.ts';

/** As many cases as a small picture shows. */
const MOST_POINTS = 60;
/** Where a figure would change by less, nobody is asked to take it over. */
const WORTH = 0.002;

type Line = Pick<LearnedLine, 'id' | 'group' | 'name'> & Partial<LearnedLine>;

const line = (given: Line): LearnedLine => ({
  ...{ usual: null, inUse: null, learned: null, range: null, good: null, offered: null, taken: null, points: [] },
  ...given,
});
const idOf = (group: LearnedGroup, of: string): string => (of === '' ? group : `${group} ${of}`);
const newest = (points: readonly LearnedPoint[]): LearnedPoint[] => points.slice(-MOST_POINTS);
const worth = (offered: number, inUse: number): number | null =>
  Math.abs(offered - inUse) > WORTH * Math.abs(inUse) ? offered : null;

/** What the shop's own records say of its figures, beside what is reckoned with. Nothing of it counts before a person takes it over, but the hours. */
export function learnedLines(index: ShopIndex, settings: Pick<ShopSettings, 'castFactors' | 'coatMm'>): LearnedLine[] {
  return [
    ...factorLines(index, settings),
    ...coatLine(index, settings),
    ...yieldLines(index),
    ...hoursLines(index),
    ...mouldLines(index),
  ];
}

function factorLines(index: ShopIndex, { castFactors }: Pick<ShopSettings, 'castFactors'>): LearnedLine[] {
  const pairs = castPairs(index);
  return ALLOYS.flatMap((alloy) =>
    WAXES.flatMap((wax) => {
      const key = factorKey(alloy.id, wax.code);
      const taken = castFactors[key] ?? null;
      const own = pairs.get(key) ?? [];
      if (own.length === 0 && !taken) return [];
      const usual = castFactor(alloy, wax.densityGPerCm3);
      const inUse = factorWith(usual, taken ?? undefined);
      const found = factorOfPairs(own);
      return [
        line({
          id: idOf('cast factor', key),
          group: 'cast factor',
          name: say`${alloy.name}, ${wax.label}`,
          ...{ usual, inUse, taken, learned: found ?? null },
          offered: found ? worth(factorWith(usual, found), inUse) : null,
          points: newest(own.map(({ waxKg, castKg, at }) => ({ at, value: castKg / waxKg }))),
        }),
      ];
    }),
  );
}

function coatLine(index: ShopIndex, { coatMm }: Pick<ShopSettings, 'coatMm'>): LearnedLine[] {
  const walls = coatWalls(index);
  const found = learned(walls.map(({ value }) => value));
  if (!found) return [];
  return [
    line({
      id: idOf('coat', ''),
      group: 'coat',
      name: 'Wall a coat adds',
      ...{ usual: DEFAULT_COAT_MM, inUse: coatMm, learned: found, points: newest(walls) },
      offered: worth(Number(found.value.toFixed(2)), coatMm),
    }),
  ];
}

function yieldLines(index: ShopIndex): LearnedLine[] {
  const rooms = passedRooms(index);
  return ROOMS.flatMap((room) => {
    const passed = rooms.get(room) ?? [];
    if (passed.length === 0) return [];
    const good = passed.filter((each) => each.good).length;
    const { median, low, high } = firstPass(good, passed.length);
    return [
      line({
        id: idOf('yield', room),
        group: 'yield',
        name: ROOM_NAMES[room],
        learned: { value: median, n: passed.length, spread: (high - low) / 2 },
        range: [low, high],
        good: [good, passed.length],
        points: byMonth(passed.map(({ at, good: wasGood }) => ({ at, value: wasGood ? 1 : 0 }))),
      }),
    ];
  });
}

/** The mean of each month, at its last case. */
function byMonth(points: readonly LearnedPoint[]): LearnedPoint[] {
  const months = new Map<string, { at: string; sum: number; n: number }>();
  for (const { at, value } of points) {
    const known = months.get(at.slice(0, 7)) ?? { at, sum: 0, n: 0 };
    months.set(at.slice(0, 7), { at, sum: known.sum + value, n: known.n + 1 });
  }
  return [...months.values()].map(({ at, sum, n }) => ({ at, value: sum / n }));
}

function hoursLines(index: ShopIndex): LearnedLine[] {
  const known = learnedHours(index);
  const logged = loggedHours(index);
  return index.kinds.flatMap((kind) => {
    const [found, points = []] = [known.get(kind.code), logged.get(kind.code)];
    if (!found) return [];
    const ratios = learned(points.map(({ value }) => value))!;
    const isOwn = index.shop.routeTimes?.[kind.code]?.minutes !== undefined;
    return [
      line({
        id: idOf('hours', kind.code),
        group: 'hours',
        name: kind.name,
        ...{ usual: 1, inUse: isOwn ? null : found.factor, learned: ratios },
        points: newest([...points].sort((a, b) => (a.at < b.at ? -1 : 1))),
      }),
    ];
  });
}

function mouldLines(index: ShopIndex): LearnedLine[] {
  const lives = index.shop.moulds
    .filter(({ state }) => state === 'retired' || state === 'worn')
    .flatMap(({ id, pullsBefore }) => {
      const pulls = index.shop.pulls.filter(({ mouldId, outcome }) => mouldId === id && outcome !== 'void');
      const at = pulls
        .map(({ endedAt, startedAt }) => endedAt ?? startedAt)
        .sort()
        .at(-1);
      return at === undefined ? [] : [{ at, value: pullsBefore + pulls.length }];
    })
    .sort((a, b) => (a.at < b.at ? -1 : 1));
  const found: LearnedFigure | undefined = learned(lives.map(({ value }) => value));
  return found
    ? [
        line({
          id: idOf('mould life', ''),
          group: 'mould life',
          name: 'Pulls of a mould',
          learned: found,
          points: lives,
        }),
      ]
    : [];
}
