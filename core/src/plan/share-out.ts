import type { LoadRule, LoadShape } from './load-rules.ts';
import { setupOf } from './load-rules.ts';
import { earliestStart } from './openings.ts';

/** Ways of sharing loads out among machines that are followed at most. */
const MOST_WAYS = 20_000;

/** What each machine did last, and how it came to that. */
interface Way {
  readonly last: readonly (LoadShape | undefined)[];
  readonly machine: number;
  readonly before: Way | undefined;
}

/** The machine of each load, by their places in the list; or the start of one that no machine can be set up for in time. */
export type SharedOut =
  | { readonly machines: readonly number[]; readonly stuck?: undefined }
  | { readonly machines?: undefined; readonly stuck: number };

/**
 * Shares the loads of a schedule out among machines so that there is time to set up for each. All ways are followed, as far
 * as they differ in what each machine did last.
 */
export function shareOut(rule: LoadRule, loads: readonly LoadShape[]): SharedOut {
  const inTime = [...loads.keys()].sort((a, b) => loads[a]!.start - loads[b]!.start || loads[a]!.end - loads[b]!.end);
  let ways: Way[] = [{ last: Array.from({ length: rule.machines }, () => undefined), machine: -1, before: undefined }];
  for (const place of inTime) {
    const load = loads[place]!;
    const next = new Map<string, Way>();
    for (const way of ways)
      way.last.forEach((before, machine) => {
        if (!isSetUp(rule, load, before) || next.size >= MOST_WAYS) return;
        const last = way.last.with(machine, load);
        const name = last.map((each) => (each ? JSON.stringify([each.end, each.key ?? null]) : '')).sort();
        if (!next.has(name.join())) next.set(name.join(), { last, machine, before: way });
      });
    if (next.size === 0) return { stuck: load.start };
    ways = [...next.values()];
  }
  const machines = loads.map(() => 0);
  let way = ways[0]!;
  for (let i = inTime.length - 1; i >= 0; i--) {
    machines[inTime[i]!] = way.machine;
    way = way.before!;
  }
  return { machines };
}

/** Whether there is time, and somebody there, to set up for a load after the one before it on its machine. */
function isSetUp(rule: LoadRule, load: LoadShape, before: LoadShape | undefined): boolean {
  const from = load.start - setupOf(rule, load, before);
  if (before && from < before.end) return false;
  if (from === load.start) return true;
  return (before !== undefined || from >= 0) && earliestStart(rule.open, 'unbroken', from, load.start - from) === from;
}
