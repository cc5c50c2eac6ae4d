import type { Day, Lane, LaneBar, StepKind } from '@kalvet/core';

/** A line of a cell: what, how often, and on what. */
export interface CellLine {
  readonly what: string;
  readonly on: readonly string[];
}

const SHORT_MS = 2 * 3_600_000;
const NAMED = 4;

/**
 * What a lane does on a day, a line a kind of work: longer work by the names it is on, short work by how many there are.
 * @param day how the shop's clock dates an instant
 * @param nameOf what a kind of work is called
 */
export function cellOf(
  lane: Lane,
  date: Day,
  {
    dayOf,
    nameOf,
    hour,
  }: {
    readonly dayOf: (instant: string) => Day;
    readonly nameOf: (kind: LaneBar['kind']) => StepKind['name'];
    readonly hour: (instant: string) => string;
  },
): CellLine[] {
  const here = lane.bars.filter((bar) => isOn(lane, bar, date, dayOf));
  if (lane.kind !== 'people')
    return here.map((bar) => ({
      what: `${dayOf(bar.spells[0]![0]) === date ? hour(bar.spells[0]![0]) : 'on'} ${nameOf(bar.kind)}`,
      on: [
        `${bar.steps.length} ${bar.steps.length === 1 ? 'tree' : 'trees'}`,
        `${Math.round((bar.full ?? 0) * 100)} % full`,
      ],
    }));
  const byKind = new Map<string, LaneBar[]>();
  for (const bar of here) byKind.set(bar.kind, [...(byKind.get(bar.kind) ?? []), bar]);
  return [...byKind.values()].map((bars) => {
    const isShort = bars.every(({ spells }) => Date.parse(spells.at(-1)![1]) - Date.parse(spells[0]![0]) < SHORT_MS);
    const name = nameOf(bars[0]!.kind);
    if (isShort && bars.length > 2) return { what: name, on: [`${bars.length}`] };
    const names = bars.slice(0, NAMED).map(({ on }) => on);
    const more = bars.length > NAMED ? [`${bars.length - NAMED} more`] : [];
    return { what: name, on: [...names, ...more] };
  });
}

/** Whether work is at hand in the lane's hours of a day: what runs over a closed day is not done on it. */
function isOn(lane: Lane, { spells }: LaneBar, date: Day, dayOf: (instant: string) => Day): boolean {
  const hours = lane.open?.filter(([from]) => dayOf(from) === date);
  if (lane.kind !== 'people' || hours === undefined)
    return spells.some(([from, to]) => dayOf(from) <= date && date <= dayOf(to));
  return hours.some(([opens, closes]) => spells.some(([from, to]) => from < closes && to > opens));
}
