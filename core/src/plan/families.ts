import type { Compiled } from './compile.ts';

const SEVERAL = -2;

/**
 * The job that alone waits for each task: its own, or where that has no weight the one that it only leads to; −1 where
 * several do.
 */
export function familiesOf({ tasks, out, order, problem }: Compiled): Int32Array {
  const only = new Int32Array(tasks.length).fill(-1);
  for (let i = order.length - 1; i >= 0; i--) {
    const { place, job } = tasks[order[i]!]!;
    let one = (problem.jobs[job]!.weight ?? 1) > 0 ? job : -1;
    for (const { to } of out[place]!) {
      const other = only[to]!;
      if (other === -1 || other === one) continue;
      one = one === -1 ? other : SEVERAL;
    }
    only[place] = one;
  }
  return only.map((job, place) => (job === -1 ? tasks[place]!.job : job === SEVERAL ? -1 : job));
}

/** Minutes from each task's end to the end of the last one of its family that follows from it, at least. */
export function chainTails({ tasks, out, order }: Compiled, familyOf: Int32Array): Float64Array {
  const tails = new Float64Array(tasks.length);
  for (let i = order.length - 1; i >= 0; i--) {
    const place = order[i]!;
    for (const { to, minLag } of out[place]!)
      if (familyOf[to] === familyOf[place])
        tails[place] = Math.max(tails[place]!, minLag + tasks[to]!.duration + tails[to]!);
  }
  return tails;
}
