import type { Compiled } from './compile.ts';
import { compile } from './compile.ts';
import { provenConflict } from './conflict.ts';
import { lowerBound } from './bound.ts';
import { checkSchedule } from './check.ts';
import { Search } from './engine/search.ts';
import { PRIORITY_RULES } from './engine/priority.ts';
import { previousOf } from './engine/previous.ts';
import type { Previous } from './engine/previous.ts';
import type { Placing } from './engine/search.ts';
import { objectiveOf } from './objective.ts';
import type { PlanMessage, PlanProblem, Schedule, ScheduledTask } from './problem.ts';
import { noSchedule } from './problem.ts';
import { validateProblem } from './validate.ts';

/** How long, and by which chances, a first schedule is made better. */
export interface PlanOptions {
  readonly seed?: number;
  /** Further tries after the first schedule; none where absent, unless `more` asks for them. */
  readonly iterations?: number;
  /** Asked before each further try, so that the caller's clock decides; without it only `iterations` does. */
  readonly more?: () => boolean;
  /** The tasks of a schedule to begin with, of this problem or a stricter one. */
  readonly from?: readonly ScheduledTask[];
  /** At the end, loads of a like are put together wherever nothing becomes worse by it. */
  readonly tidy?: boolean;
  readonly onProgress?: (tries: number, value: number | null) => void;
}

/** Plans a document: says what is wrong with it, proves that it cannot be met, or gives the best schedule found. */
export function planDocument(document: unknown, options: PlanOptions = {}): Schedule {
  const { problem, messages } = validateProblem(document);
  return problem ? planProblem(problem, options) : noSchedule('invalid', messages);
}

/**
 * Plans a valid problem. The same problem, seed and iterations give the same schedule, and more tries never a worse one.
 * Every schedule has passed `checkSchedule`.
 */
export function planProblem(problem: PlanProblem, options: PlanOptions = {}, compiled = compile(problem)): Schedule {
  const proven = provenConflict(compiled);
  if (proven.length > 0) return noSchedule('infeasible', proven);
  const seed = options.seed ?? 1;
  const previous = previousOf(compiled, options.from);
  let search = new Search(compiled, seed, previous);
  const unfit = search.putFixed();
  if (unfit.length > 0) return noSchedule('not-found', [tightestMessage(compiled, unfit)]);
  search.begin();
  if (!search.found && previous && previous.frozen > 0) {
    // What was frozen stands in the way of everything else: then it cannot stay.
    search = new Search(compiled, seed, { ...previous, frozen: 0 });
    search.putFixed();
    search.begin();
  }
  const tightest = search.found ? [] : search.tightest();
  const bound = lowerBound(compiled);
  const wanted = options.iterations ?? (options.more ? Infinity : search.found ? 0 : RESCUES);
  for (let tries = 1; tries <= wanted && (options.more?.() ?? true); tries++) {
    if (!search.isFree || (search.found && search.found.cost <= bound.value + 1e-9)) break;
    search.step();
    options.onProgress?.(tries, search.found?.cost ?? null);
  }
  if (!search.found) return noSchedule('not-found', [tightestMessage(compiled, tightest)]);
  if (options.tidy) search.tidy();
  const schedule = scheduleOf(compiled, search.found, bound, previous);
  const broken = checkSchedule(problem, schedule, compiled);
  if (broken.length === 0) return schedule;
  return noSchedule('not-found', [
    { text: 'the schedule found did not keep every rule, so it is not given' },
    ...broken.slice(0, 20),
  ]);
}

/**
 * The schedule of one priority rule alone, with the same building of loads: what the planner's gain is measured against.
 * @throws RangeError where there is no such rule
 */
export function planByRule(problem: PlanProblem, rule: string, compiled = compile(problem)): Schedule | undefined {
  const priority = PRIORITY_RULES[rule];
  if (!priority) throw new RangeError(`there is no rule ${rule}`);
  const search = new Search(compiled, 1);
  if (search.putFixed().length > 0) return undefined;
  if (!search.build({ order: priority(compiled, search.urgency), thrift: 1 })) return undefined;
  return scheduleOf(compiled, search.found!, lowerBound(compiled), undefined);
}

/** Tries where the first one found nothing and nobody set a budget. */
const RESCUES = 24;

const objectiveOfPlacing = ({ problem }: Compiled, { ends, resourceOf }: Placing) =>
  objectiveOf(problem, ends, resourceOf);

function scheduleOf(
  compiled: Compiled,
  placing: Placing,
  bound: NonNullable<Schedule['lowerBound']>,
  previous: Previous | undefined,
): Schedule {
  const { starts, ends, loads } = placing;
  const objective = objectiveOfPlacing(compiled, placing);
  const isMoved = (place: number) =>
    !Number.isNaN(previous!.starts[place]!) && previous!.starts[place] !== starts[place];
  return {
    format: 'kalvet-schedule/1',
    status: 'feasible',
    tasks: compiled.tasks.map(({ id, place }) => {
      const load = loads.get(place);
      return { id, start: starts[place]!, end: ends[place]!, ...(load === undefined ? {} : { load }) };
    }),
    objective,
    lowerBound: bound,
    ...(previous && compiled.problem.previous
      ? { moved: { tasks: compiled.order.filter(isMoved).length, cost: Math.max(0, placing.cost - objective.value) } }
      : {}),
    messages: [],
  };
}

function tightestMessage({ tasks, into }: Compiled, places: readonly number[]): PlanMessage {
  const ids = places.map((place) => tasks[place]!.id);
  const links = places.flatMap((place) =>
    into[place]!.filter(({ maxLag }) => maxLag < Infinity).map(({ from }) => `${tasks[from]!.id}→${tasks[place]!.id}`),
  );
  return {
    ids: [...ids, ...links],
    text: `no schedule was found; the tightest: ${ids.join(', ') || 'none in particular'}`,
  };
}
