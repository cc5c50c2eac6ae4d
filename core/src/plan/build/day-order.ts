import type { Id } from '../../records/common.ts';
import { treeFigures } from '../../shop/tree-figures.ts';
import { DAY_MIN } from '../../units/instant.ts';
import type { PlanProblem, PlanTask, Schedule } from '../problem.ts';
import type { PlanSnapshot } from './snapshot.ts';

/**
 * Equal work of one day in the order that its room does it in: dips from the face tank before those from the back-up tank, small
 * trees before large. Two change places only where both keep all their waits, so nothing else moves and nothing costs more.
 */
export function inDayOrder(snapshot: PlanSnapshot, problem: PlanProblem, schedule: Schedule): Schedule {
  const ranks = ranksOf(snapshot, problem);
  if (ranks.size < 2) return schedule;
  const frozen = problem.previous?.frozen ?? 0;
  const [start, end] = [new Map<Id, number>(), new Map<Id, number>()];
  for (const task of schedule.tasks) {
    start.set(task.id, task.start);
    end.set(task.id, task.end);
  }
  const byId = new Map(problem.tasks.map((task) => [task.id, task]));
  const touching = new Map<Id, PlanProblem['links'][number][]>();
  for (const link of problem.links)
    for (const id of [link.from, link.to]) if (ranks.has(id)) touching.set(id, [...(touching.get(id) ?? []), link]);
  const isKept = (id: Id) =>
    start.get(id)! >= (byId.get(id)!.earliest ?? 0) &&
    (touching.get(id) ?? []).every(({ from, to, minLag = 0, maxLag = Infinity }) => {
      const wait = start.get(to)! - end.get(from)!;
      return wait >= minLag && wait <= maxLag;
    });
  const change = (ones: readonly Id[], others: readonly Id[]) =>
    ones.forEach((one, i) => {
      for (const at of [start, end]) {
        const kept = at.get(one)!;
        at.set(one, at.get(others[i]!)!);
        at.set(others[i]!, kept);
      }
    });
  /** Lets what should go first change places with what does, wherever both can, until nothing more can. */
  const sort = (units: (readonly Id[])[]) => {
    const first = (unit: readonly Id[]) => start.get(unit[0]!)!;
    units.sort((a, b) => first(a) - first(b));
    for (let pass = 0, moved = true; moved && pass < units.length; pass++) {
      moved = false;
      for (let i = 0; i < units.length; i++)
        for (let j = i + 1; j < units.length; j++) {
          const [before, after] = [units[i]!, units[j]!];
          if (before.length !== after.length || first(before) === first(after)) continue;
          if (ranks.get(before[0]!)! <= ranks.get(after[0]!)!) continue;
          change(before, after);
          if ([...before, ...after].every(isKept)) {
            [units[i], units[j]] = [after, before];
            moved = true;
          } else change(before, after);
        }
    }
  };
  const days = new Map<string, Id[]>();
  for (const id of ranks.keys()) {
    if (start.get(id)! < frozen) continue;
    const key = `${Math.floor(start.get(id)! / DAY_MIN)} ${alike(byId.get(id)!)}`;
    days.set(key, [...(days.get(key) ?? []), id]);
  }
  for (const ids of days.values()) {
    // First all that a tree gets on the day, then single dips.
    const trees = new Map<Id, Id[]>();
    for (const id of [...ids].sort((a, b) => start.get(a)! - start.get(b)!)) {
      const { carrierId } = snapshot.index.step.get(id)!;
      trees.set(carrierId, [...(trees.get(carrierId) ?? []), id]);
    }
    sort([...trees.values()]);
    sort(ids.map((id) => [id]));
  }
  return {
    ...schedule,
    tasks: schedule.tasks.map((task) => ({ ...task, start: start.get(task.id)!, end: end.get(task.id)! })),
  };
}

/** Work that can change places: of the same length, and of the same hands. */
const alike = ({ duration, spans, needs }: PlanTask): string => JSON.stringify([duration, spans, needs]);

/** What is done first within a day, by the task; of those that have an order at all. */
function ranksOf({ index, settings }: PlanSnapshot, { tasks }: PlanProblem): Map<Id, number> {
  const weights = new Map<Id, number>();
  const weightOf = (treeId: Id) => {
    if (!weights.has(treeId))
      weights.set(treeId, treeFigures(index, treeId, settings.liftLimitKg).dipping?.weight.value ?? 0);
    return weights.get(treeId)!;
  };
  const ranks = new Map<Id, number>();
  for (const { id, fixedStart } of tasks) {
    const step = index.step.get(id);
    const order = step && index.kind(step).dayOrder;
    if (order && fixedStart === undefined) ranks.set(id, order(step) * 1e6 + weightOf(step.carrierId));
  }
  return ranks;
}
