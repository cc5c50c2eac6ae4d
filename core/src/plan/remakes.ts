import type { Arc, Compiled, Task } from './compile.ts';

/** A problem in which things are lost, and made again. */
export interface Remade {
  readonly compiled: Compiled;
  /** For each task of it the one in the problem as it was planned; its own place where it is that one. */
  readonly origin: Int32Array;
  /** For each task by how much later than planned it comes, in minutes; 0 for those that were planned. */
  readonly behind: Float64Array;
}

/** Something that is lost at a task. */
export interface Loss {
  readonly place: number;
  /** The tasks that made it, the first first, the one at which it is lost last. */
  readonly chain: readonly number[];
  /** How far along the chain each try to make it again comes: to its end at last, before that to where it is lost again. */
  readonly tries: readonly number[];
  /** Minutes that pass before a try, for what was done of it before the plan. */
  readonly redo: number;
}

/**
 * Puts what is lost into a problem as work: the chain of tasks that made it stands there again, on the same resources, behind
 * the task at which it was lost, and all that hung on that one waits for it.
 * @param planned when each task was planned
 */
export function withRemakes(
  compiled: Compiled,
  losses: readonly Loss[],
  planned: { readonly starts: Float64Array; readonly ends: Float64Array },
): Remade {
  const tasks: Task[] = [...compiled.tasks];
  const into: (readonly Arc[])[] = [...compiled.into];
  const out: (readonly Arc[])[] = [...compiled.out];
  const origin: number[] = tasks.map(({ place }) => place);
  const behind: number[] = tasks.map(() => 0);
  const after = new Map<number, number[]>();
  const link = (arc: Arc) => {
    into[arc.to] = [...into[arc.to]!, arc];
    out[arc.from] = [...out[arc.from]!, arc];
  };
  for (const { place, chain, tries, redo } of losses) {
    const followers = out[place]!;
    out[place] = [];
    for (const { to } of followers) into[to] = into[to]!.filter(({ from }) => from !== place);
    let last = place;
    const again: number[] = [];
    let later = 0;
    for (const length of tries) {
      const begun = planned.starts[chain[0]!]!;
      later += planned.ends[last === place ? place : origin[last]!]! - begun + redo;
      const copies = new Map<number, number>();
      for (const own of chain.slice(0, length)) {
        const copy = tasks.length;
        copies.set(own, copy);
        again.push(copy);
        tasks.push({ ...tasks[own]!, place: copy, id: `${tasks[own]!.id}~${copy}`, fixed: null, earliest: 0 });
        into.push([]);
        out.push([]);
        origin.push(own);
        behind.push(later);
        for (const arc of compiled.into[own]!) {
          const from = copies.get(arc.from);
          if (from !== undefined) link({ ...arc, from, to: copy });
        }
      }
      link({ from: last, to: copies.get(chain[0]!)!, minLag: redo, maxLag: Infinity });
      last = copies.get(chain[length - 1]!)!;
    }
    after.set(place, again);
    for (const arc of followers) link({ ...arc, from: last });
  }
  const order = compiled.order.flatMap((place) => [place, ...(after.get(place) ?? [])]);
  return {
    compiled: { ...compiled, tasks, into, out, order },
    origin: Int32Array.from(origin),
    behind: Float64Array.from(behind),
  };
}
