import type { Openings } from './openings.ts';
import { earliestStart, nextOpen } from './openings.ts';
import type { PlanResource } from './problem.ts';
import { UNITS_TOLERANCE } from './problem.ts';

/** What a load holds once, by the resource's place. */
export interface HeldByLoad {
  readonly resource: number;
  readonly units: number;
  readonly before: number;
  readonly open: Openings;
}

/** A load as far as its setup depends on it. */
export interface LoadShape {
  readonly start: number;
  readonly end: number;
  readonly units: number;
  readonly key: string | undefined;
}

/** What a resource in loads asks for before each of them, and what each of them holds. */
export interface LoadRule {
  readonly machines: number;
  readonly setup: number;
  readonly perUnit: number;
  readonly change: number;
  readonly first: number;
  readonly coldAfter: number;
  /** When setting up may go on; `null` at any minute. */
  readonly open: Openings;
  /** Whether a setup depends on what was before or what is in the load, so that the order on the machine counts. */
  readonly isOrdered: boolean;
  /** Whether the first load of a machine is set up too. */
  readonly isFirstSetUp: boolean;
  readonly needs: readonly HeldByLoad[];
}

/**
 * The rule of a resource in loads.
 * @param most tasks that it works on: more machines than that are never used
 * @param open the openings of a calendar by its id
 * @param placeOf a resource's place by its id, and its openings
 */
export function loadRule(
  { batch = {} }: PlanResource,
  most: number,
  open: (calendar: string) => Openings,
  placeOf: (resource: string) => { readonly place: number; readonly open: Openings },
): LoadRule {
  const { setupPerUnit, change, firstSetup, setupIn, needs = [] } = batch;
  const isFirstSetUp = setupPerUnit !== undefined || firstSetup !== undefined || setupIn !== undefined;
  return {
    machines: Math.min(batch.machines ?? 1, Math.max(1, most)),
    setup: batch.setup ?? 0,
    perUnit: setupPerUnit ?? 0,
    change: change ?? 0,
    first: firstSetup ?? 0,
    coldAfter: batch.coldAfter ?? 0,
    open: setupIn === undefined ? null : open(setupIn),
    isOrdered: isFirstSetUp || change !== undefined,
    isFirstSetUp,
    needs: needs.map(({ resource, units = 1, before = 0 }) => {
      const at = placeOf(resource);
      return { resource: at.place, units, before, open: at.open };
    }),
  };
}

/** Minutes that every load of so many units is set up for at least, whatever was before it. */
export const leastSetup = ({ setup, perUnit }: LoadRule, units: number): number =>
  setup + Math.ceil(perUnit * units - UNITS_TOLERANCE);

/**
 * Minutes of setup right before a load.
 * @param before the load before it on its machine
 */
export function setupOf(rule: LoadRule, load: LoadShape, before: LoadShape | undefined): number {
  // What began before the plan does has had its setup.
  if (load.start < 0 || (!before && !rule.isFirstSetUp)) return 0;
  const isCold = !before || load.start - before.end > rule.coldAfter;
  const isOther = before !== undefined && before.key !== load.key;
  return leastSetup(rule, load.units) + (isOther ? rule.change : 0) + (isCold ? rule.first : 0);
}

/**
 * The first minute, at or after a load's start, that may be one where its setup is considered: the same where it may start
 * there. A later one has to be asked again, since a machine that waits goes cold.
 */
export function startAfter(rule: LoadRule, load: LoadShape, before: LoadShape | undefined): number {
  const { start } = load;
  const setup = setupOf(rule, load, before);
  const from = before ? before.end : setup > 0 ? 0 : start;
  if (start - setup < from) return from + setup;
  if (setup === 0 || rule.open === null) return start;
  return earliestStart(rule.open, 'unbroken', start - setup, setup) + setup;
}

/** The first start, at or after one, at which the hours of what a load holds allow it. */
export function startByNeeds({ needs }: LoadRule, start: number, end: number, isUnbroken: boolean): number {
  let from = start;
  for (const { before, open } of needs) {
    const at = Math.max(start - before, start < 0 ? -Infinity : 0);
    const length = end - start + before;
    const next = isUnbroken ? earliestStart(open, 'unbroken', at, length) : nextOpen(open, at);
    from = Math.max(from, next + before);
  }
  return from;
}
