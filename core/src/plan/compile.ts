import { DAY_MIN } from '../units/instant.ts';
import { topological } from './cycle.ts';
import { dayNumber } from './dates.ts';
import type { LoadRule } from './load-rules.ts';
import { leastSetup, loadRule } from './load-rules.ts';
import type { Openings } from './openings.ts';
import { intersect, openingsOf } from './openings.ts';
import type { PlanProblem, PlanResource, Spans } from './problem.ts';

/** A link between tasks by their places. */
export interface Arc {
  readonly from: number;
  readonly to: number;
  readonly minLag: number;
  /** Infinity where there is none. */
  readonly maxLag: number;
}

/** What a task takes of a resource, by the resource's place. */
export interface Take {
  readonly resource: number;
  readonly units: number;
}

/** A task with its resources' common opening times and its places in the graph. */
export interface Task {
  readonly place: number;
  readonly id: string;
  readonly job: number;
  readonly duration: number;
  readonly spans: Spans;
  readonly open: Openings;
  /** Ordinary resources. */
  readonly takes: readonly Take[];
  /** The resource in loads, if it needs one. */
  readonly batch: (Take & { readonly key: string | undefined }) | null;
  /** What any load that it is in asks for: its least setup, and the minute from which that may go on. Null where nothing. */
  readonly inLoad: { readonly rule: LoadRule; readonly lead: number; readonly from: number } | null;
  readonly earliest: number;
  readonly fixed: number | null;
}

/** Every ordinary resource that is in use while a task runs: by itself or by its load. */
export const usesOf = ({ takes, inLoad }: Task): readonly { readonly resource: number }[] =>
  inLoad === null || inLoad.rule.needs.length === 0 ? takes : [...takes, ...inLoad.rule.needs];

/** A valid problem made ready for many questions. */
export interface Compiled {
  readonly problem: PlanProblem;
  readonly tasks: readonly Task[];
  readonly resources: readonly PlanResource[];
  /** Arcs into and out of each task; those into a fixed task are left out, since they do not bind it. */
  readonly into: readonly (readonly Arc[])[];
  readonly out: readonly (readonly Arc[])[];
  /** By the resource; null where it does not work in loads. */
  readonly loadRules: readonly (LoadRule | null)[];
  /** When each resource is open by its own calendar. */
  readonly openings: readonly Openings[];
  /** From this minute on every week has the same hours. */
  readonly steadyFrom: number;
  /** Places in an order that puts each task before its successors. */
  readonly order: readonly number[];
}

/**
 * Twenty years of hours are the same for every problem that is made of the same list of calendars: they are worked out
 * once for it.
 */
const known = new WeakMap<PlanProblem['calendars'], Map<string, Map<string, Openings>>>();
function commonOpenings(calendars: PlanProblem['calendars'], span: string): Map<string, Openings> {
  const spans = known.get(calendars) ?? new Map<string, Map<string, Openings>>();
  known.set(calendars, spans);
  const found = spans.get(span) ?? new Map<string, Openings>();
  spans.set(span, found);
  return found;
}

/** Makes a valid problem ready. */
export function compile(problem: PlanProblem): Compiled {
  const low = problem.tasks.reduce((least, { fixedStart }) => Math.min(least, fixedStart ?? 0), 0);
  const startDay = dayNumber(problem.start.slice(0, 10))!;
  const common = commonOpenings(problem.calendars, `${startDay} ${Math.floor(low / DAY_MIN)}`);
  const openings = (id: string): Openings => {
    const alone = JSON.stringify([id]);
    const calendar = problem.calendars.find((each) => each.id === id)!;
    if (!common.has(alone)) common.set(alone, openingsOf(calendar, startDay, Math.floor(low / DAY_MIN) * DAY_MIN));
    return common.get(alone)!;
  };
  const resourceAt = new Map(problem.resources.map(({ id }, i) => [id, i]));
  const jobAt = new Map(problem.jobs.map(({ id }, i) => [id, i]));
  const byResources = new Map<string, Openings>();
  /** Tasks that need the same calendars share one list of openings. */
  const commonOf = (needed: readonly number[]): Openings => {
    const resources = needed.join();
    const known = byResources.get(resources);
    if (known !== undefined) return known;
    const ids = [...new Set(needed.flatMap((i) => problem.resources[i]!.calendar ?? []))].sort();
    const key = JSON.stringify(ids);
    if (!common.has(key)) common.set(key, intersect(ids.map(openings)));
    byResources.set(resources, common.get(key)!);
    return common.get(key)!;
  };
  const users = new Map<string, number>();
  for (const { needs } of problem.tasks)
    for (const { resource } of needs) users.set(resource, (users.get(resource) ?? 0) + 1);
  const loadRules = problem.resources.map((resource) =>
    resource.batch
      ? loadRule(resource, users.get(resource.id) ?? 0, openings, (id) => ({
          place: resourceAt.get(id)!,
          open: commonOf([resourceAt.get(id)!]),
        }))
      : null,
  );
  /** The first end of what began before the plan does, in each resource; what follows it may be set up from then on. */
  const begun = new Float64Array(problem.resources.length);
  for (const { fixedStart = 0, needs } of problem.tasks)
    for (const { resource } of needs) {
      const at = resourceAt.get(resource)!;
      begun[at] = Math.min(begun[at]!, fixedStart);
    }
  const inLoadOf = (batch: Task['batch']): Task['inLoad'] => {
    const rule = batch && loadRules[batch.resource]!;
    if (!rule || (!rule.isFirstSetUp && rule.needs.length === 0)) return null;
    return { rule, lead: rule.isFirstSetUp ? leastSetup(rule, batch.units) : 0, from: begun[batch.resource]! };
  };
  const tasks = problem.tasks.map((task, place): Task => {
    const needs = task.needs.map(({ resource, units, key }) => ({
      resource: resourceAt.get(resource)!,
      units: units ?? 1,
      key,
    }));
    const job = jobAt.get(task.job)!;
    const inLoads = needs.find(({ resource }) => problem.resources[resource]!.batch);
    return {
      place,
      id: task.id,
      job,
      duration: task.duration,
      spans: task.spans,
      open: commonOf(needs.map(({ resource }) => resource)),
      takes: needs.filter((need) => need !== inLoads).map(({ resource, units }) => ({ resource, units })),
      batch: inLoads ?? null,
      inLoad: inLoadOf(inLoads ?? null),
      earliest: Math.max(problem.jobs[job]!.release ?? 0, task.earliest ?? 0),
      fixed: task.fixedStart ?? null,
    };
  });
  const taskAt = new Map(tasks.map(({ id, place }) => [id, place]));
  const into: Arc[][] = tasks.map(() => []);
  const out: Arc[][] = tasks.map(() => []);
  for (const link of problem.links) {
    const arc: Arc = {
      from: taskAt.get(link.from)!,
      to: taskAt.get(link.to)!,
      minLag: link.minLag ?? 0,
      maxLag: link.maxLag ?? Infinity,
    };
    if (tasks[arc.to]!.fixed !== null) continue;
    into[arc.to]!.push(arc);
    out[arc.from]!.push(arc);
  }
  return {
    problem,
    tasks,
    resources: problem.resources,
    loadRules,
    openings: problem.resources.map((_, i) => commonOf([i])),
    steadyFrom: problem.calendars.reduce(
      (last, { closed = [], extra = [] }) =>
        [...closed, ...extra.map(({ date }) => date)].reduce(
          (most, date) => Math.max(most, (dayNumber(date)! - startDay + 1) * DAY_MIN),
          last,
        ),
      0,
    ),
    into,
    out,
    order: topological(out.map((arcs) => arcs.map(({ to }) => to))),
  };
}
