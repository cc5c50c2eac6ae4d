import type { Compiled } from '../compile.ts';
import { endOf, shareOpen } from '../openings.ts';
import { LAST_MINUTE } from '../problem.ts';
import type { Openings } from '../openings.ts';

/** What is known of each task's urgency before anything is put. */
export interface Urgency {
  /** The latest start by the due dates of all that hangs on it, less the work and the waits in between. */
  readonly latest: Float64Array;
  /** The largest weight of the jobs that wait for it. */
  readonly weight: Float64Array;
  /** Minutes by the clock from its start to the end of the longest chain after it, at least. */
  readonly tail: Float64Array;
  /** Work by the clock of the task itself. */
  readonly span: Float64Array;
}

/**
 * Urgencies of all tasks. Work is stretched by how much of the time its calendar is open. Where nothing is due, what has
 * more after it comes first; a maximum wait after something fixed is as binding as a due date.
 */
export function urgencyOf(compiled: Compiled): Urgency {
  const { tasks, out, order, problem } = compiled;
  const shares = new Map<Openings, number>();
  const shareOf = (open: Openings) => {
    if (!shares.has(open)) shares.set(open, Math.max(0.01, shareOpen(open).share));
    return shares.get(open)!;
  };
  const [latest, weight, tail] = [0, 0, 0].map(() => new Float64Array(tasks.length)) as [
    Float64Array,
    Float64Array,
    Float64Array,
  ];
  const span = Float64Array.from(tasks, ({ spans, duration, open }) =>
    spans === 'pausing' ? duration / shareOf(open) : duration,
  );
  for (let i = order.length - 1; i >= 0; i--) {
    const { place, job } = tasks[order[i]!]!;
    let end = problem.jobs[job]!.due ?? 2 * LAST_MINUTE;
    let heaviest = problem.jobs[job]!.weight ?? 1;
    let longest = 0;
    for (const { to, minLag } of out[place]!) {
      end = Math.min(end, latest[to]! - minLag);
      heaviest = Math.max(heaviest, weight[to]!);
      longest = Math.max(longest, tail[to]! + minLag);
    }
    latest[place] = end - span[place]!;
    weight[place] = heaviest;
    tail[place] = longest + span[place]!;
  }
  for (const task of tasks) {
    if (task.fixed === null) continue;
    const end = endOf(task.open, task.spans, task.fixed, task.duration);
    for (const { to, maxLag } of out[task.place]!) latest[to] = Math.min(latest[to]!, end + maxLag);
  }
  return { latest, weight, tail, span };
}

/**
 * By the latest starts, but what leads to a load that calls a crew comes before all else, and what must follow it soon with
 * it: the crew's own work fills the hours that are left. Undefined where no load calls one.
 */
export function crewsFirst({ tasks, into, out, order }: Compiled, { latest }: Urgency): Float64Array | undefined {
  const callsCrew = ({ inLoad }: Compiled['tasks'][number]) => (inLoad?.rule.needs.length ?? 0) > 0;
  if (!tasks.some(callsCrew)) return undefined;
  const first = new Uint8Array(tasks.length);
  for (let i = order.length - 1; i >= 0; i--) {
    const place = order[i]!;
    const leads = out[place]!.some(({ to }) => first[to]);
    const follows = into[place]!.some(({ from, maxLag }) => maxLag < Infinity && callsCrew(tasks[from]!));
    if (callsCrew(tasks[place]!) || leads || follows) first[place] = 1;
  }
  return latest.map((each, place) => (first[place] ? each - 4 * LAST_MINUTE : each));
}

/** How often something is due at all, for rules that divide by it. */
const duesOf = ({ tasks, problem }: Compiled): Float64Array =>
  Float64Array.from(tasks, ({ job }) => problem.jobs[job]!.due ?? LAST_MINUTE);

/**
 * The ten priority rules that a schedule is begun with, and that the planner's gain is measured against: each gives every
 * task a number, the smallest goes first (R. Haupt, "A survey of priority rule-based scheduling", 1989).
 */
export const PRIORITY_RULES: Readonly<Record<string, (compiled: Compiled, urgency: Urgency) => Float64Array>> = {
  'latest start': (_, { latest }) => latest,
  'earliest due date': (compiled) => duesOf(compiled),
  'first come': (compiled) => {
    const at = new Float64Array(compiled.tasks.length);
    compiled.order.forEach((place, i) => (at[place] = compiled.tasks[place]!.earliest + i / compiled.order.length));
    return at;
  },
  'shortest work': ({ tasks }) => Float64Array.from(tasks, ({ duration }) => duration),
  'longest work': ({ tasks }) => Float64Array.from(tasks, ({ duration }) => -duration),
  'most to follow': (_, { tail }) => tail.map((each) => -each),
  'least to follow': (_, { tail }) => tail,
  'least slack a step': (compiled, { latest }) => {
    const steps = new Float64Array(compiled.tasks.length);
    for (let i = compiled.order.length - 1; i >= 0; i--) {
      const place = compiled.order[i]!;
      steps[place] = 1 + compiled.out[place]!.reduce((most, { to }) => Math.max(most, steps[to]!), 0);
    }
    return latest.map((each, place) => each / steps[place]!);
  },
  'critical ratio': (compiled, { tail }) => {
    const due = duesOf(compiled);
    return tail.map((each, place) => due[place]! / Math.max(1, each));
  },
  'weight by work': (_, { weight, span }) =>
    span.map((each, place) => Math.max(1, each) / Math.max(1e-9, weight[place]!)),
};
