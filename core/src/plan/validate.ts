import { dayNumber, minuteOfDay } from './dates.ts';
import { findCycle } from './cycle.ts';
import type { PlanMessage, PlanProblem } from './problem.ts';
import { LAST_MINUTE, SPANS, linkName } from './problem.ts';

/** The problem, or everything that is wrong with the document. */
export type Validated =
  | { readonly problem: PlanProblem; readonly messages?: undefined }
  | { readonly problem?: undefined; readonly messages: readonly PlanMessage[] };

type Doc = Record<string, unknown>;
type Rule = (value: unknown, path: string, say: Say) => void;
type Say = (path: string, text: string, ids?: readonly string[]) => void;

const MOST_MESSAGES = 200;
/** More than this is lost nowhere that goes on working. */
const MOST_LOST = 0.9;

/**
 * Checks a document against the plan format: types, ranges, unknown keys, ids, duplicates, references, cycles of links.
 * Every fault is named with its path; nothing is thrown.
 */
export function validateProblem(document: unknown): Validated {
  const messages: PlanMessage[] = [];
  const say: Say = (path, text, ids) => {
    if (messages.length < MOST_MESSAGES) messages.push({ path, text, ...(ids ? { ids } : {}) });
  };
  problemRule(document, '', say);
  if (messages.length > 0) return { messages };
  const problem = document as PlanProblem;
  references(problem, say);
  if (messages.length === 0) cycles(problem, say);
  return messages.length > 0 ? { messages } : { problem };
}

const isDoc = (value: unknown): value is Doc => typeof value === 'object' && value !== null && !Array.isArray(value);
const shown = (value: unknown): string => (JSON.stringify(value) ?? String(value)).slice(0, 60);

const object =
  (keys: Record<string, Rule>, needed: readonly string[]): Rule =>
  (value, path, say) => {
    if (!isDoc(value)) return say(path || 'document', `must be an object, not ${shown(value)}`);
    for (const key of Object.keys(value)) {
      const rule = Object.hasOwn(keys, key) ? keys[key] : undefined;
      const at = path ? `${path}.${key}` : key;
      if (!rule) say(at, 'is not known here');
      else rule(value[key], at, say);
    }
    for (const key of needed) if (!Object.hasOwn(value, key)) say(path ? `${path}.${key}` : key, 'is missing');
  };

const list =
  (rule: Rule): Rule =>
  (value, path, say) => {
    if (!Array.isArray(value)) return say(path, `must be a list, not ${shown(value)}`);
    value.forEach((each, i) => rule(each, `${path}[${i}]`, say));
  };

const number =
  (low: number, high: number, { whole = true, open = false } = {}): Rule =>
  (value, path, say) => {
    if (typeof value !== 'number' || !Number.isFinite(value)) say(path, `must be a number, not ${shown(value)}`);
    else if (whole && !Number.isInteger(value)) say(path, `must be a whole number, not ${value}`);
    else if (value < low || value > high || (open && value === low))
      say(path, `must be ${open ? 'above' : 'at least'} ${low} and at most ${high}, not ${value}`);
  };

const minutes = number(0, LAST_MINUTE);
const units = number(0, Number.MAX_VALUE, { whole: false });
const factor = number(0, Number.MAX_VALUE, { whole: false });
const id: Rule = (value, path, say) => {
  if (typeof value !== 'string' || value === '') say(path, `must be text that is not empty, not ${shown(value)}`);
};
const date: Rule = (value, path, say) => {
  if (typeof value !== 'string' || dayNumber(value) === undefined) say(path, `must be a date, not ${shown(value)}`);
};
const time: Rule = (value, path, say) => {
  if (typeof value !== 'string' || minuteOfDay(value) === undefined)
    say(path, `must be a time "HH:MM", not ${shown(value)}`);
};
const yes: Rule = (value, path, say) => {
  if (typeof value !== 'boolean') say(path, `must be true or false, not ${shown(value)}`);
};

const window =
  (day: string, rule: Rule): Rule =>
  (value, path, say) => {
    object({ [day]: rule, from: time, to: time }, [day, 'from', 'to'])(value, path, say);
    if (!isDoc(value) || typeof value['from'] !== 'string' || typeof value['to'] !== 'string') return;
    const [from, to] = [minuteOfDay(value['from']), minuteOfDay(value['to'])];
    if (from !== undefined && to !== undefined && from >= to) say(path, `"from" must be before "to"`);
  };

const problemRule = object(
  {
    format: (value, path, say) => {
      if (value !== 'kalvet-plan/1') say(path, `must be "kalvet-plan/1", not ${shown(value)}`);
    },
    start: (value, path, say) => {
      if (typeof value !== 'string' || !/^.{10}T00:00:00$/.test(value) || dayNumber(value.slice(0, 10)) === undefined)
        say(path, `must be 00:00 of a day without an offset, as "2027-03-01T00:00:00", not ${shown(value)}`);
    },
    calendars: list(
      object(
        {
          id,
          always: yes,
          weekly: list(window('day', number(1, 7))),
          closed: list(date),
          extra: list(window('date', date)),
        },
        ['id'],
      ),
    ),
    resources: list(
      object(
        {
          id,
          capacity: number(0, Number.MAX_VALUE, { whole: false, open: true }),
          calendar: id,
          batch: object(
            {
              machines: number(1, 1_000_000),
              maxTasks: number(1, 1_000_000_000),
              setup: minutes,
              loadCost: factor,
              setupPerUnit: number(0, LAST_MINUTE, { whole: false }),
              change: minutes,
              firstSetup: minutes,
              coldAfter: minutes,
              setupIn: id,
              needs: list(object({ resource: id, units, before: minutes }, ['resource'])),
            },
            [],
          ),
        },
        ['id', 'capacity'],
      ),
    ),
    jobs: list(object({ id, due: minutes, release: minutes, weight: factor }, ['id'])),
    tasks: list(
      object(
        {
          id,
          job: id,
          duration: minutes,
          spans: (value, path, say) => {
            if (!SPANS.includes(value as never)) say(path, `must be one of ${SPANS.join(', ')}, not ${shown(value)}`);
          },
          needs: list(object({ resource: id, units, key: id }, ['resource'])),
          earliest: minutes,
          fixedStart: number(-LAST_MINUTE, LAST_MINUTE),
          room: id,
          spread: number(0, 10, { whole: false }),
          loss: number(0, MOST_LOST, { whole: false }),
          redo: minutes,
        },
        ['id', 'job', 'duration', 'spans', 'needs'],
      ),
    ),
    links: list(object({ from: id, to: id, minLag: minutes, maxLag: minutes }, ['from', 'to'])),
    objective: object({ tardiness: factor, flow: factor, loads: factor, makespan: factor }, []),
    previous: object(
      {
        starts: list(object({ id, start: number(-LAST_MINUTE, LAST_MINUTE), load: id }, ['id', 'start'])),
        weight: factor,
        frozen: minutes,
      },
      ['starts'],
    ),
  },
  ['format', 'start', 'calendars', 'resources', 'jobs', 'tasks', 'links', 'objective'],
);

/** Ids that are there twice or that nothing has, and links whose lags contradict each other. */
function references(problem: PlanProblem, say: Say): void {
  const idsOf = (name: 'calendars' | 'resources' | 'jobs' | 'tasks') => {
    const seen = new Map<string, number>();
    problem[name].forEach((each, i) => {
      if (seen.has(each.id))
        say(`${name}[${i}].id`, `"${each.id}" is there already, as ${name}[${seen.get(each.id)}]`, [each.id]);
      else seen.set(each.id, i);
    });
    return seen;
  };
  const [calendars, resources, jobs, tasks] = [idsOf('calendars'), idsOf('resources'), idsOf('jobs'), idsOf('tasks')];
  const unknown = (path: string, what: string, name: string) => say(path, `there is no ${what} "${name}"`, [name]);

  problem.resources.forEach(({ calendar, batch }, i) => {
    if (calendar !== undefined && !calendars.has(calendar)) unknown(`resources[${i}].calendar`, 'calendar', calendar);
    const { setupIn, needs = [], firstSetup, coldAfter } = batch ?? {};
    if (setupIn !== undefined && !calendars.has(setupIn)) unknown(`resources[${i}].batch.setupIn`, 'calendar', setupIn);
    if (coldAfter !== undefined && firstSetup === undefined)
      say(`resources[${i}].batch.coldAfter`, 'says nothing without "firstSetup"');
    const held = new Set<string>();
    needs.forEach(({ resource }, j) => {
      const path = `resources[${i}].batch.needs[${j}].resource`;
      const at = resources.get(resource);
      if (at === undefined) return unknown(path, 'resource', resource);
      if (problem.resources[at]!.batch) say(path, `"${resource}" works in loads itself`, [resource]);
      if (held.has(resource)) say(path, `"${resource}" is needed twice by one load`, [resource]);
      held.add(resource);
    });
  });
  problem.tasks.forEach((task, i) => {
    if (!jobs.has(task.job)) unknown(`tasks[${i}].job`, 'job', task.job);
    const used = new Set<string>();
    let batches = 0;
    task.needs.forEach(({ resource, key }, j) => {
      const path = `tasks[${i}].needs[${j}]`;
      const at = resources.get(resource);
      if (at === undefined) return unknown(`${path}.resource`, 'resource', resource);
      if (used.has(resource)) say(`${path}.resource`, `"${resource}" is needed twice by one task`, [task.id, resource]);
      used.add(resource);
      if (problem.resources[at]!.batch) batches++;
      else if (key !== undefined)
        say(`${path}.key`, `"${resource}" does not work in loads, so it takes no key`, [task.id]);
    });
    if (batches > 1) say(`tasks[${i}].needs`, 'a task needs at most one resource that works in loads', [task.id]);
  });
  const told = new Set<string>();
  problem.previous?.starts.forEach((each, i) => {
    if (!tasks.has(each.id)) unknown(`previous.starts[${i}].id`, 'task', each.id);
    if (told.has(each.id)) say(`previous.starts[${i}].id`, `"${each.id}" is there already`, [each.id]);
    told.add(each.id);
  });
  const joined = new Set<string>();
  problem.links.forEach((link, i) => {
    for (const end of ['from', 'to'] as const)
      if (!tasks.has(link[end])) unknown(`links[${i}].${end}`, 'task', link[end]);
    const name = JSON.stringify([link.from, link.to]);
    if (joined.has(name)) say(`links[${i}]`, `${linkName(link)} is there already`, [linkName(link)]);
    joined.add(name);
    if (link.maxLag !== undefined && (link.minLag ?? 0) > link.maxLag)
      say(`links[${i}]`, `minLag ${link.minLag} is more than maxLag ${link.maxLag}`, [linkName(link)]);
  });
}

function cycles(problem: PlanProblem, say: Say): void {
  const place = new Map(problem.tasks.map(({ id: task }, i) => [task, i]));
  const next: number[][] = problem.tasks.map(() => []);
  for (const { from, to } of problem.links) next[place.get(from)!]!.push(place.get(to)!);
  const cycle = findCycle(next);
  if (!cycle) return;
  const ids = cycle.map((i) => problem.tasks[i]!.id);
  const link = problem.links.findIndex(({ from, to }) => from === ids.at(-1) && to === ids[0]);
  const words = ids.length > 8 ? [...ids.slice(0, 4), '…', ...ids.slice(-3)] : ids;
  say(`links[${link}]`, `the links run in a circle: ${[...words, ids[0]].join(' → ')}`, ids);
}
