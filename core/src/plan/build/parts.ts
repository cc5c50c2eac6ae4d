import type { PlanLink, PlanProblem, PlanTask } from '../problem.ts';
import { HOIST } from './hoist.ts';
import { SKILL } from './skills.ts';
import { DEFAULT_SPREAD } from '../simulation.ts';

/** Work of more than half a day is laid down for a pour or a knock-out, and taken up again. */
const LONG_MIN = 240;
const PART_MIN = 120;
const MARK = '#';

/** The step that a task is, or is a part of. */
export const stepIdOf = (taskId: string): string => taskId.split(MARK)[0]!;

/**
 * Long work in parts of two hours that follow one another, the first under the step's own id: so a crew can leave it for a
 * pour and come back, which a task that holds its hands from beginning to end could not.
 * @param rooms resources whose work is laid down
 * @param toldParts the starts of the further parts as they were told, by the step
 */
export function inParts(
  problem: PlanProblem,
  rooms: ReadonlySet<string>,
  toldParts: ReadonlyMap<string, readonly number[]>,
): PlanProblem {
  const last = new Map<string, string>();
  const told: NonNullable<PlanProblem['previous']>['starts'][number][] = [];
  const links: PlanLink[] = [];
  const tasks = problem.tasks.flatMap((task): PlanTask[] => {
    const hands = task.needs.filter(({ resource }) => !resource.startsWith(SKILL) && resource !== HOIST);
    const isLaidDown = hands.length === 1 && rooms.has(hands[0]!.resource);
    if (task.spans !== 'pausing' || task.duration <= LONG_MIN || !isLaidDown) return [task];
    const count = Math.ceil(task.duration / PART_MIN);
    // Each differs more than the whole, since some make up for others; by less than would keep the whole's spread, which would
    // make it longer on average.
    const spread = (task.spread ?? DEFAULT_SPREAD) * count ** 0.25;
    const { fixedStart, loss, redo, ...rest } = task;
    const parts = Array.from({ length: count }, (_, i): PlanTask => ({
      ...rest,
      id: i === 0 ? task.id : `${task.id}${MARK}${i + 1}`,
      duration: Math.min(PART_MIN, task.duration - i * PART_MIN),
      spread,
      ...(i === 0 && fixedStart !== undefined ? { fixedStart } : {}),
      loss: i === count - 1 ? (loss ?? 0) : 0,
      ...(i === count - 1 && redo !== undefined ? { redo } : {}),
    }));
    parts.slice(1).forEach(({ id }, i) => links.push({ from: parts[i]!.id, to: id }));
    // Of work that has begun the last parts are left.
    const starts = toldParts.get(task.id) ?? [];
    parts.slice(1).forEach(({ id }, i) => {
      const start = starts[starts.length - (count - 1) + i];
      if (start !== undefined) told.push({ id, start });
    });
    last.set(task.id, parts.at(-1)!.id);
    return parts;
  });
  return {
    ...problem,
    ...(problem.previous && told.length > 0
      ? { previous: { ...problem.previous, starts: [...problem.previous.starts, ...told] } }
      : {}),
    tasks,
    links: [...problem.links.map((link) => ({ ...link, from: last.get(link.from) ?? link.from })), ...links],
  };
}
