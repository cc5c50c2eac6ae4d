import type { Compiled } from '../compile.ts';
import type { ScheduledTask } from '../problem.ts';
import { listUnder } from '../../units/lists.ts';
import type { Nearness } from './board.ts';
import type { Manner } from './inserter.ts';

/** After so many minutes a promised start counts half: a week. */
const HALF_AFTER = 7 * 1440;

/** A schedule that was there before, by the tasks' places. */
export interface Previous {
  /** NaN where a task had no start. */
  readonly starts: Float64Array;
  /** Tasks that shared a load. */
  readonly groups: NonNullable<Manner['groups']>;
  /** Those before it stay where they were, if they can. */
  readonly frozen: number;
  /** Nothing where moving costs nothing. */
  readonly near?: Nearness;
}

/**
 * What was there before: the problem's own `previous`, or a schedule to begin with.
 * @param from tasks of a schedule that the search begins with
 */
export function previousOf(compiled: Compiled, from?: readonly ScheduledTask[]): Previous | undefined {
  const { previous } = compiled.problem;
  const given = from ?? previous?.starts;
  if (!given) return undefined;
  const placeOf = new Map(compiled.tasks.map(({ id, place }) => [id, place]));
  const starts = new Float64Array(compiled.tasks.length).fill(NaN);
  const loads = new Map<string, number[]>();
  for (const { id, start, load } of given) {
    const place = placeOf.get(id);
    if (place === undefined) continue;
    starts[place] = start;
    const { batch } = compiled.tasks[place]!;
    if (load !== undefined && batch) listUnder(loads, JSON.stringify([batch.resource, batch.key ?? null, load]), place);
  }
  const of = new Int32Array(compiled.tasks.length).fill(-1);
  const members = [...loads.values()].flatMap((group) => fitting(compiled, group)).filter(({ length }) => length > 1);
  members.forEach((group, i) => group.forEach((place) => (of[place] = i)));
  const weight = previous?.weight ?? 0;
  return {
    starts,
    groups: { of, members },
    frozen: previous?.frozen ?? 0,
    ...(weight > 0 && previous ? { near: nearnessOf(compiled, weight) } : {}),
  };
}

/** A load's tasks in as many loads as the resource as it is now needs for them. */
function fitting({ tasks, resources }: Compiled, group: readonly number[]): number[][] {
  const { capacity, batch } = resources[tasks[group[0]!]!.batch!.resource]!;
  const parts: { places: number[]; units: number }[] = [];
  for (const place of group) {
    const { units } = tasks[place]!.batch!;
    const last = parts.at(-1);
    if (last && last.units + units <= capacity && last.places.length < (batch!.maxTasks ?? Infinity)) {
      last.places.push(place);
      last.units += units;
    } else parts.push({ places: [place], units });
  }
  return parts.map(({ places }) => places);
}

function nearnessOf({ tasks, problem }: Compiled, weight: number): Nearness {
  const was = new Map(problem.previous!.starts.map(({ id, start }) => [id, start]));
  const starts = Float64Array.from(tasks, ({ id }) => was.get(id) ?? NaN);
  return { starts, perMinute: starts.map((start) => weight * 2 ** (-Math.max(0, start) / HALF_AFTER)) };
}
