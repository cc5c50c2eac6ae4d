import type { Compiled } from './compile.ts';
import { leastSetup } from './load-rules.ts';
import type { Openings, Stretches } from './openings.ts';
import { stretches } from './openings.ts';

/** What works in loads, seen as a room: so many units at once, in shorter hours. */
export interface LoadsAsRoom {
  readonly open: Stretches;
  readonly capacity: number;
  /** The shortest load, minutes: what a unit takes at least. */
  readonly minutes: number;
  /** Where the stretch of hours begins that a minute lies in: what is ready within it may still go with any of its loads. */
  readonly soonest: (minute: number) => number;
}

/**
 * A furnace gives no more in a stretch of its hours than the loads that fit into it, set up one after the other; so no schedule
 * does more than one that works without setups for so much shorter at the beginning of each stretch. Undefined where loads run
 * through closed hours or are always open: then hours say nothing.
 * @param resource the place of a resource in loads
 */
export function loadsAsRoom(
  { tasks, resources, openings, loadRules }: Compiled,
  resource: number,
): LoadsAsRoom | undefined {
  const open: Openings = openings[resource]!;
  const rule = loadRules[resource];
  const own = tasks.filter(({ batch, duration }) => batch?.resource === resource && duration > 0);
  if (open === null || !rule || own.length === 0 || own.some(({ spans }) => spans !== 'unbroken')) return undefined;
  const { capacity } = resources[resource]!;
  const minutes = Math.min(...own.map(({ duration }) => duration));
  const setup = leastSetup(rule, 0);
  const full = minutes + setup + rule.perUnit * capacity;
  const shorter = [...open.from].map((from, i): [number, number] => {
    const length = open.to[i]! - from;
    if (length < minutes) return [from, from];
    // Full loads give most: one at once, and each further one after the setup before it.
    const more = (length - minutes) / full;
    const loads = 1 + (rule.perUnit > 0 ? more : Math.floor(more + 1e-9));
    return [from, Math.min(open.to[i]!, from + Math.ceil(loads * minutes - 1e-9))];
  });
  return {
    open: stretches(shorter.filter(([from, to]) => to > from)),
    capacity: capacity * rule.machines,
    minutes,
    soonest: (minute) => {
      let low = 0;
      let high = open.from.length;
      while (low < high) {
        const middle = (low + high) >> 1;
        if (open.from[middle]! <= minute) low = middle + 1;
        else high = middle;
      }
      const at = low - 1;
      return at >= 0 && minute < open.to[at]! ? open.from[at]! : minute;
    },
  };
}
