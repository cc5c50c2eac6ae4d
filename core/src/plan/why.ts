import type { Compiled, Task } from './compile.ts';
import { compile, usesOf } from './compile.ts';
import type { LoadShape } from './load-rules.ts';
import { setupOf } from './load-rules.ts';
import { endOf } from './openings.ts';
import type { PlanProblem, Schedule, ScheduledTask } from './problem.ts';
import { linkName } from './problem.ts';
import { earliestOf } from './task-start.ts';

/** What keeps a task from starting sooner. */
export type Hold =
  /** The wait after a task before it, whose end it hangs on. */
  | { readonly kind: 'link'; readonly by: string; readonly link: string; readonly minLag: number }
  /** A resource that another task gives back just then; for loads the machine. */
  | { readonly kind: 'resource'; readonly by: string; readonly resource: string }
  /** A mate in its load that is ready no sooner. */
  | { readonly kind: 'load'; readonly by: string; readonly load: string }
  /** It must not come too long before a task that follows and cannot start sooner itself. */
  | { readonly kind: 'follower'; readonly by: string; readonly link: string; readonly maxLag: number }
  /** The job's release or the task's own earliest start. */
  | { readonly kind: 'earliest' }
  /** It has begun or is pinned. */
  | { readonly kind: 'fixed' }
  /** Nothing: the schedule has it later than it must be. */
  | { readonly kind: 'choice' };

/** One task of the chain that holds a job's end, the last one first. */
export interface ChainLink {
  readonly task: string;
  readonly job: string;
  readonly start: number;
  readonly end: number;
  readonly hold: Hold;
  /** Minutes that it waits beyond what its links and hours ask: for a resource, a mate, a follower. */
  readonly waited: number;
  /** Minutes that it then waits for its hours, beside what holds it; and which calendars those are. */
  readonly closed: number;
  readonly calendars: readonly string[];
}

export interface Chain {
  readonly job: string;
  readonly finish: number;
  readonly due?: number;
  readonly chain: readonly ChainLink[];
}

const LONGEST = 2000;

/**
 * The chain that holds a job's finish: from its last task back, what each one waited for.
 * @throws RangeError where the job or its tasks are not in the problem and the schedule
 */
export function holdingChain(
  problem: PlanProblem,
  schedule: Schedule,
  jobId: string,
  compiled = compile(problem),
): Chain {
  const job = problem.jobs.findIndex(({ id }) => id === jobId);
  if (job < 0) throw new RangeError(`there is no job ${jobId}`);
  const reasons = new Reasons(compiled, schedule);
  const own = compiled.tasks.filter((task) => task.job === job);
  if (own.length === 0) throw new RangeError(`the job ${jobId} has no tasks`);
  const last = own.reduce((one, other) => (reasons.at(other).end > reasons.at(one).end ? other : one));
  const chain: ChainLink[] = [];
  const seen = new Set<number>();
  for (let task: Task | undefined = last; task && !seen.has(task.place) && chain.length < LONGEST;) {
    seen.add(task.place);
    const { hold, next, closed, calendars, waited } = reasons.of(task, seen);
    const { id, start, end } = reasons.at(task);
    chain.push({ task: id, job: problem.jobs[task.job]!.id, start, end, hold, waited, closed, calendars });
    task = next;
  }
  const { due } = problem.jobs[job]!;
  return { job: jobId, finish: reasons.at(last).end, ...(due === undefined ? {} : { due }), chain };
}

interface Reason {
  readonly hold: Hold;
  readonly next?: Task;
  readonly waited: number;
  readonly closed: number;
  readonly calendars: readonly string[];
}

/** Why each task of a schedule stands where it stands. */
class Reasons {
  private readonly placed: readonly ScheduledTask[];
  private readonly durations: Float64Array;
  private readonly users: readonly (readonly Task[])[];

  constructor(
    private readonly compiled: Compiled,
    schedule: Schedule,
  ) {
    const { tasks, resources } = compiled;
    const byId = new Map(schedule.tasks.map((task) => [task.id, task]));
    this.placed = tasks.map(({ id }) => {
      const found = byId.get(id);
      if (!found) throw new RangeError(`the schedule does not have the task ${id}`);
      return found;
    });
    const longest = new Map<string, number>();
    for (const task of tasks) {
      const { load } = this.at(task);
      if (load !== undefined) longest.set(load, Math.max(longest.get(load) ?? 0, task.duration));
    }
    this.durations = Float64Array.from(tasks, (task) => longest.get(this.at(task).load ?? '') ?? task.duration);
    this.users = resources.map((_, resource) =>
      tasks.filter(
        (task) => task.batch?.resource === resource || usesOf(task).some((use) => use.resource === resource),
      ),
    );
  }

  at(task: Task): ScheduledTask {
    return this.placed[task.place]!;
  }

  of(task: Task, seen: ReadonlySet<number>): Reason {
    if (task.fixed !== null) return { hold: { kind: 'fixed' }, waited: 0, closed: 0, calendars: [] };
    const { start, load } = this.at(task);
    const own = this.soonest(task, seen);
    if (own.from === start) return own.reason;
    const waited = start - own.from;
    const mates = load === undefined ? [] : this.matesOf(task, load);
    for (const mate of mates)
      if (this.soonest(mate, seen).from === start)
        return { hold: { kind: 'load', by: mate.id, load: load! }, next: mate, waited, closed: 0, calendars: [] };
    const held = this.blocker([task, ...mates], start) ?? this.follower(task, start, seen) ?? own.free;
    return { ...held, waited };
  }

  private matesOf(task: Task, load: string): Task[] {
    return this.users[task.batch!.resource]!.filter((mate) => mate !== task && this.at(mate).load === load);
  }

  /** When a task could start by its links and hours alone, and which of them says so. */
  private soonest(task: Task, seen: ReadonlySet<number>): { from: number; reason: Reason; free: Reason } {
    const { tasks, into } = this.compiled;
    let ready = task.earliest;
    let hold: Hold = { kind: 'earliest' };
    let next: Task | undefined;
    for (const { from, minLag } of into[task.place]!) {
      const before = tasks[from]!;
      const after = this.at(before).end + minLag;
      if (after < ready || (after === ready && next) || seen.has(from)) continue;
      ready = after;
      hold = { kind: 'link', by: before.id, link: linkName({ from: before.id, to: task.id }), minLag };
      next = before;
    }
    const from = earliestOf(task, ready, this.durations[task.place]!);
    const closed = from - ready;
    const calendars = closed > 0 ? this.calendarsOf(task) : [];
    const reason = (how: Hold): Reason => ({ hold: how, ...(next ? { next } : {}), waited: 0, closed, calendars });
    return { from, reason: reason(hold), free: reason({ kind: 'choice' }) };
  }

  private calendarsOf(task: Task): string[] {
    const { resources } = this.compiled;
    const needs = [...task.takes, ...(task.batch ? [task.batch] : [])];
    const batch = task.batch && resources[task.batch.resource]!.batch;
    const held = task.inLoad?.rule.needs ?? [];
    const calendars = [...needs, ...held].flatMap(({ resource }) => resources[resource]!.calendar ?? []);
    return [...new Set([...calendars, ...(batch?.setupIn === undefined ? [] : [batch.setupIn])])];
  }

  /** A task that gives back a resource, or ends a load, so that these could start just when they did. */
  private blocker(waiting: readonly Task[], start: number): Reason | undefined {
    const { resources } = this.compiled;
    let best: { by: Task; resource: number; at: number } | undefined;
    for (const task of waiting)
      for (const { resource, gap } of this.wantedBy(task)) {
        for (const other of this.users[resource]!) {
          const at = this.at(other).end + gap(other);
          if (waiting.includes(other) || at > start || (best && at <= best.at)) continue;
          if (earliestOf(task, at, this.durations[task.place]!) !== start) continue;
          best = { by: other, resource, at };
        }
      }
    if (!best) return undefined;
    const { by, resource, at } = best;
    return {
      hold: { kind: 'resource', by: by.id, resource: resources[resource]!.id },
      next: by,
      waited: 0,
      closed: start - at,
      calendars: start > at ? this.calendarsOf(waiting[0]!) : [],
    };
  }

  /** What a task waits for, itself and with its load, and the minutes between the end of another that has it and its own start. */
  private wantedBy(task: Task): { readonly resource: number; readonly gap: (other: Task) => number }[] {
    const { batch } = task;
    const own = task.takes.map(({ resource }) => ({ resource, gap: () => 0 }));
    if (!batch) return own;
    const rule = this.compiled.loadRules[batch.resource]!;
    const load = this.shapeOf(task);
    return [
      ...own,
      {
        resource: batch.resource,
        gap: (other) => (rule.isOrdered ? setupOf(rule, load, this.shapeOf(other)) : rule.setup),
      },
      ...rule.needs.map(({ resource, before }) => ({ resource, gap: () => before })),
    ];
  }

  /** The load that a task is in. */
  private shapeOf(task: Task): LoadShape {
    const { start, end, load } = this.at(task);
    const members = [task, ...this.matesOf(task, load!)];
    const units = members.reduce((sum, { batch }) => sum + batch!.units, 0);
    return { start, end, units, key: task.batch!.key };
  }

  /** A follower that cannot start sooner, and must not start too long after it. */
  private follower(task: Task, start: number, seen: ReadonlySet<number>): Reason | undefined {
    const end = endOf(task.open, task.spans, start, this.durations[task.place]!);
    for (const { to, maxLag } of this.compiled.out[task.place]!) {
      if (maxLag === Infinity || seen.has(to)) continue;
      const after = this.compiled.tasks[to]!;
      // An opening earlier it would have ended too long before.
      const sooner = end - (this.at(after).start - maxLag);
      if (sooner > task.duration + 1440) continue;
      const link = linkName({ from: task.id, to: after.id });
      return {
        hold: { kind: 'follower', by: after.id, link, maxLag },
        next: after,
        waited: 0,
        closed: 0,
        calendars: [],
      };
    }
    return undefined;
  }
}
