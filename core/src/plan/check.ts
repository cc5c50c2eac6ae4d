import { listUnder } from '../units/lists.ts';
import type { Compiled, Task } from './compile.ts';
import { compile } from './compile.ts';
import type { LoadShape } from './load-rules.ts';
import { startByNeeds } from './load-rules.ts';
import { earliestStart, endOf } from './openings.ts';
import { objectiveOf } from './objective.ts';
import type { PlanMessage, PlanProblem, Schedule, ScheduledTask } from './problem.ts';
import { LAST_MINUTE, UNITS_TOLERANCE } from './problem.ts';
import { shareOut } from './share-out.ts';

type Say = (text: string, ...ids: string[]) => void;

/**
 * Whether a feasible schedule keeps every rule of the plan format. It shares nothing with the planner but the reading of
 * calendars, so that it can find the planner's mistakes.
 * @returns what is broken; nothing where all is kept
 */
export function checkSchedule(problem: PlanProblem, schedule: Schedule, compiled = compile(problem)): PlanMessage[] {
  const broken: PlanMessage[] = [];
  const say: Say = (text, ...ids) => broken.push({ text, ids });
  if (schedule.format !== 'kalvet-schedule/1') say(`the format is ${schedule.format}`);
  if (schedule.status !== 'feasible') {
    if (schedule.tasks.length > 0) say(`a schedule that is ${schedule.status} has tasks`);
    return broken;
  }
  const found = new Map<string, ScheduledTask>();
  for (const task of schedule.tasks) {
    if (found.has(task.id)) say('is scheduled twice', task.id);
    found.set(task.id, task);
  }
  for (const { id } of compiled.tasks) if (!found.has(id)) say('is not scheduled', id);
  if (found.size > compiled.tasks.length) say('there are tasks that the problem does not have');
  if (broken.length > 0) return broken;

  const placed = compiled.tasks.map(({ id }) => found.get(id)!);
  const loads = loadsOf(compiled, placed, say);
  compiled.tasks.forEach((task) => checkTask(task, placed[task.place]!, loads, say));
  checkLinks(compiled, placed, say);
  checkCapacities(compiled, placed, loads, say);
  checkLoads(compiled, placed, loads, say);
  checkObjective(problem, schedule, placed, loads, say);
  return broken;
}

type Loads = ReadonlyMap<string, readonly Task[]>;

function loadsOf({ tasks, resources }: Compiled, placed: readonly ScheduledTask[], say: Say): Loads {
  const loads = new Map<string, Task[]>();
  for (const task of tasks) {
    const { load } = placed[task.place]!;
    if (task.batch && load === undefined) say(`needs ${resources[task.batch.resource]!.id} and is in no load`, task.id);
    if (!task.batch && load !== undefined) say(`is in load ${load} and needs none`, task.id);
    if (!task.batch || load === undefined) continue;
    listUnder(loads, load, task);
  }
  return loads;
}

function checkTask(task: Task, { start, end, load }: ScheduledTask, loads: Loads, say: Say): void {
  if (!Number.isInteger(start) || !Number.isInteger(end))
    say(`runs from ${start} to ${end}: whole minutes only`, task.id);
  if (Math.abs(start) > LAST_MINUTE || Math.abs(end) > LAST_MINUTE) say(`passes minute ${LAST_MINUTE}`, task.id);
  const duration = Math.max(task.duration, ...(loads.get(load ?? '') ?? []).map((member) => member.duration));
  const should = endOf(task.open, task.spans, start, duration);
  if (end !== should) say(`starts at ${start} and ends at ${end}, not ${should}`, task.id);
  if (task.fixed !== null) {
    if (start !== task.fixed) say(`starts at ${start}, is fixed at ${task.fixed}`, task.id);
    return;
  }
  if (start < task.earliest) say(`starts at ${start}, before ${task.earliest}`, task.id);
  if (earliestStart(task.open, task.spans, start, duration) !== start)
    say(`may not start at ${start} (${task.spans})`, task.id);
}

function checkLinks({ tasks, out }: Compiled, placed: readonly ScheduledTask[], say: Say): void {
  for (const arcs of out)
    for (const { from, to, minLag, maxLag } of arcs) {
      const lag = placed[to]!.start - placed[from]!.end;
      const name = `${tasks[from]!.id}→${tasks[to]!.id}`;
      if (lag < minLag) say(`${lag} min after, at least ${minLag}`, name);
      if (lag > maxLag) say(`${lag} min after, at most ${maxLag}`, name);
    }
}

/** Sums up what is in use over time, and says where it is more than there is. */
function overuse(uses: readonly { start: number; end: number; units: number }[], capacity: number): number | undefined {
  const changes = uses
    .filter(({ start, end }) => end > start)
    .flatMap(({ start, end, units }) => [
      { at: start, by: units },
      { at: end, by: -units },
    ])
    // What ends makes room for what starts at the same minute.
    .sort((a, b) => a.at - b.at || a.by - b.by);
  let used = 0;
  for (const { at, by } of changes) {
    used += by;
    if (used > capacity + UNITS_TOLERANCE) return at;
  }
  return undefined;
}

function checkCapacities(
  { tasks, resources, loadRules }: Compiled,
  placed: readonly ScheduledTask[],
  loads: Loads,
  say: Say,
): void {
  const uses = new Map<number, { start: number; end: number; units: number }[]>();
  for (const { place, takes } of tasks)
    for (const { resource, units } of takes) {
      const { start, end } = placed[place]!;
      listUnder(uses, resource, { start, end, units });
    }
  for (const members of loads.values()) {
    const { start, end } = placed[members[0]!.place]!;
    for (const { resource, units, before } of loadRules[members[0]!.batch!.resource]!.needs)
      listUnder(uses, resource, { start: start - before, end, units });
  }
  for (const [resource, list] of uses) {
    const { id, capacity } = resources[resource]!;
    const at = overuse(list, capacity);
    if (at !== undefined) say(`more than ${capacity} is in use at ${at}`, id);
  }
}

function checkLoads(
  { resources, loadRules }: Compiled,
  placed: readonly ScheduledTask[],
  loads: Loads,
  say: Say,
): void {
  const runs = new Map<number, LoadShape[]>();
  for (const [name, members] of loads) {
    const { resource } = members[0]!.batch!;
    const { id, capacity, batch } = resources[resource]!;
    const at = members.map(({ place }) => placed[place]!);
    const { start, end } = at[0]!;
    if (members.some((member) => member.batch!.resource !== resource)) say(`is a load of several resources`, name);
    if (at.some((member) => member.start !== start || member.end !== end))
      say('its tasks do not start and end together', name);
    if (members.some((member) => member.batch!.key !== members[0]!.batch!.key))
      say('its tasks have several keys', name);
    const units = members.reduce((sum, member) => sum + member.batch!.units, 0);
    if (end > start && units > capacity + UNITS_TOLERANCE) say(`holds ${units} of ${capacity}`, name, id);
    if (members.length > (batch!.maxTasks ?? Infinity)) say(`holds ${members.length} tasks`, name, id);
    listUnder(runs, resource, { start, end, units, key: members[0]!.batch!.key });
    // What began or is pinned is there whatever the hours.
    const rule = loadRules[resource]!;
    const isUnbroken = members.some(({ spans }) => spans === 'unbroken');
    if (members.some(({ fixed }) => fixed === null) && startByNeeds(rule, start, end, isUnbroken) !== start)
      say('what it holds is not open', name, ...rule.needs.map((need) => resources[need.resource]!.id));
  }
  for (const [resource, list] of runs) {
    const rule = loadRules[resource]!;
    const at = rule.isOrdered
      ? shareOut(rule, list).stuck
      : overuse(
          list.map(({ start, end }) => ({ start, end: end + rule.setup, units: 1 })),
          rule.machines,
        );
    if (at !== undefined) say(`more loads than machines, or no time for setting up, at ${at}`, resources[resource]!.id);
  }
}

function checkObjective(
  problem: PlanProblem,
  { objective, lowerBound }: Schedule,
  placed: readonly ScheduledTask[],
  loads: Loads,
  say: Say,
): void {
  if (!objective) return say('the objective is missing');
  const resourceOf = new Map(
    [...loads].map(([name, members]) => [name, problem.resources[members[0]!.batch!.resource]!.id]),
  );
  const right = objectiveOf(
    problem,
    placed.map(({ end }) => end),
    resourceOf,
  );
  for (const key of ['value', 'tardiness', 'flow', 'loads', 'makespan'] as const)
    if (Math.abs(objective[key] - right[key]) > 1e-6 * Math.max(1, Math.abs(right[key])))
      say(`objective.${key} is ${objective[key]}, should be ${right[key]}`);
  if (lowerBound && lowerBound.value > right.value * (1 + 1e-9) + 1e-6)
    say(`the lower bound ${lowerBound.value} is above the value ${right.value}`);
}
