import type { Id, Room } from '../../records/common.ts';
import type { Mould } from '../../records/mould.ts';
import type { PlanNote } from '../../records/plan.ts';
import { pieceLabel } from '../../route/labels.ts';
import type { ShopIndex } from '../../route/shop-index.ts';
import { timesOf } from '../../route/times.ts';
import { mouldUse } from '../../shop/decisions.ts';
import { minutesOf } from '../../shop/minutes.ts';
import { DAY_MIN, addDays } from '../../units/instant.ts';
import { onDay, say } from '../../units/words.ts';
import type { PlanLink, PlanResource, PlanTask, Schedule } from '../problem.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { mouldJob, mouldResource } from './snapshot.ts';

/** A mould that is planned to be made in place of one that wears out; no step of the shop yet. */
export const REMAKE = 'remake:';
const remakeOf = (mouldId: Id): string => `${REMAKE}${mouldId}`;
const mouldRoom: Room = 'mould';

/** What a remake adds to the problem, and the pulls as they are then. */
export interface Wear {
  readonly tasks: readonly PlanTask[];
  readonly links: readonly PlanLink[];
  readonly resources: readonly PlanResource[];
}

/**
 * Counts the pulls that each mould still gives against those that are planned in it: the ones beyond its life wait for the next
 * mould, which is planned with them. Another one that is being made already is that next one.
 * @param tasks the pulls among them change the mould that they need
 */
export function wearOf(snapshot: PlanSnapshot, tasks: ReadonlyMap<Id, PlanTask>, now: number): Wear {
  const wear = { tasks: [] as PlanTask[], links: [] as PlanLink[], resources: [] as PlanResource[] };
  for (const mould of snapshot.index.shop.moulds) {
    const beyond = beyondLife(snapshot.index, mould, tasks);
    if (beyond.length === 0) continue;
    const { minutes, cures } = makingOf(snapshot.index, mould);
    const makers = snapshot.resources.find(({ kind, room }) => kind === 'people' && room === mouldRoom);
    const resource = `${mouldResource(mould.id)}:next`;
    wear.tasks.push({
      id: remakeOf(mould.id),
      job: mouldJob(mould.id),
      duration: minutes,
      spans: 'pausing',
      needs: makers ? [{ resource: makers.id }] : [],
      earliest: now,
    });
    wear.resources.push({ id: resource, capacity: 1 });
    for (const pull of beyond) {
      const needs = pull.needs.map((need) =>
        need.resource === mouldResource(mould.id) ? { ...need, resource } : need,
      );
      wear.tasks.push({ ...pull, needs });
      wear.links.push({ from: remakeOf(mould.id), to: pull.id, minLag: cures });
    }
  }
  return wear;
}

/** Pulls that a mould has no life left for, in the order of the editions. */
function beyondLife(index: ShopIndex, mould: Mould, tasks: ReadonlyMap<Id, PlanTask>): PlanTask[] {
  const { left } = mouldUse(index, mould);
  if (left === null || mould.state !== 'good' || isReplaced(index, mould)) return [];
  const pulls = [...tasks.values()].filter(({ needs }) =>
    needs.some(({ resource }) => resource === mouldResource(mould.id)),
  );
  return pulls.slice(left).filter(({ fixedStart }) => fixedStart === undefined);
}

/** Whether another mould for the same sections is being made already. */
const isReplaced = (index: ShopIndex, mould: Mould): boolean =>
  (index.mouldsOf.get(mould.workId) ?? []).some(
    (other) =>
      other.id !== mould.id &&
      other.state === 'making' &&
      mould.sectionIds.every((id) => other.sectionIds.includes(id)),
  );

/** How long a mould like this one is made, and how long it cures. */
function makingOf(index: ShopIndex, mould: Mould): { readonly minutes: number; readonly cures: number } {
  const [made] = index.stepsOf.get(mould.id) ?? [];
  if (!made) return { minutes: DAY_MIN / 3, cures: DAY_MIN };
  return { minutes: minutesOf(index, made), cures: timesOf(index.kind(made), index.shop.routeTimes).minWait };
}

/** `Mould M-5 has no pull left for Caulking Mallet 16/16, about 14 Feb: make the next by 4 Feb`, by its mould. */
export function wearNotes(
  { index, startDay }: PlanSnapshot,
  { tasks }: Schedule,
  links: readonly PlanLink[],
): PlanNote[] {
  const starts = new Map(tasks.map(({ id, start }) => [id, start]));
  return index.shop.moulds.flatMap((mould): PlanNote[] => {
    const waiting = links
      .filter(({ from }) => from === remakeOf(mould.id))
      .map(({ to }) => to)
      .sort((a, b) => starts.get(a)! - starts.get(b)!);
    const [first] = waiting;
    if (first === undefined) return [];
    const cast = index.cast.get(index.step.get(first)!.carrierId)!;
    const day = (minute: number) => onDay(addDays(startDay, Math.floor(minute / DAY_MIN)));
    const start = starts.get(first)!;
    return [
      {
        cause: 'mould',
        text: say`Mould M-${mould.number} has no pull left for ${pieceLabel(index, index.piece.get(cast.pieceId)!)}, about ${day(start)}: make the next by ${day(start - makingOf(index, mould).cures)}`,
        stepId: first,
        mouldId: mould.id,
        urgent: false,
      },
    ];
  });
}
