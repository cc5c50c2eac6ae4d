import type {
  Filler,
  HeatAnswer,
  HeatFill,
  Id,
  Instant,
  Piece,
  PlanNote,
  Question,
  TreeLine,
  TreeReady,
} from '@kalvet/core';
import { addDays, dayIn, fillHeat, heatQuestions, instantAt, wallTimeOf } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { settingsOf } from '../people/settings.ts';
import { pourDays } from '../plan/open-days.ts';
import type { TreeStored } from '../shop/stored.ts';
import type { Store } from '../write/store.ts';
import { thinnestWalls } from './thinnest-walls.ts';

/** How far ahead another pour day is looked for. */
const POUR_DAYS_AHEAD = 90;

/** What a question about a heat is made from. */
interface Known {
  readonly now: Instant;
  readonly heats: readonly HeatAnswer[];
  readonly trees: ReadonlyMap<Id, TreeStored>;
  readonly ready: ReadonlyMap<Id, TreeReady>;
}

/** What would make a heat one that can happen: other trees in it, or another day. */
export interface HeatWays {
  readonly fillers: (heat: HeatAnswer, late: readonly Id[]) => HeatFill[];
  /** The same hour of the next pour day on which all of its trees can be ready. */
  readonly nextPour: (heat: HeatAnswer) => Instant | null;
}

/** The trees that could fill each heat, and the next pour days. */
export async function heatWays(store: Store, { now, heats, trees, ready }: Known): Promise<HeatWays> {
  if (heats.every(({ plannedFor }) => plannedFor === null)) return { fillers: () => [], nextPour: () => null };
  const { timeZone, pitPlaces } = await settingsOf(store);
  const placed = new Set(heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const free = [...trees].filter(([id, { pourKg, next }]) => {
    const at = ready.get(id);
    return !placed.has(id) && pourKg !== null && next !== null && at !== undefined && at.from !== null;
  });
  const today = dayIn(now, timeZone);
  const [walls, pieces, days] = await Promise.all([
    thinnestWalls(store, [...free.map(([id]) => id), ...placed]),
    rowsOf<Piece>(store, 'pieces', { id: [...new Set(free.flatMap(([, tree]) => tree.pieceIds))] }),
    pourDays(store, today, addDays(today, POUR_DAYS_AHEAD)),
  ]);
  const dueOf = new Map(pieces.map(({ id, dueDate }) => [id, dueDate]));
  const wallOf = (id: Id) => {
    const mm = walls.get(id)?.wallMm;
    return mm !== undefined && Number.isFinite(mm) ? mm : null;
  };
  return {
    fillers: ({ plannedFor, alloyId, pourings, usableKg, meltLoss, pigReserveKg }, late) => {
      if (plannedFor === null) return [];
      const stay = pourings.filter(({ treeId }) => !late.includes(treeId));
      const candidates = free
        .filter(([id, tree]) => tree.alloyId === alloyId && ready.get(id)!.from! <= plannedFor)
        .map(([treeId, tree]): Filler => ({
          treeId,
          kg: tree.pourKg!,
          wallMm: wallOf(treeId),
          dueDate: tree.pieceIds.flatMap((id) => dueOf.get(id) ?? []).sort()[0] ?? null,
        }));
      const kept = stay.reduce((sum, { plannedKg }) => sum + plannedKg, 0);
      const room = {
        freeKg: usableKg * (1 - meltLoss) - pigReserveKg - kept,
        places: pitPlaces - stay.length,
        pourDay: dayIn(plannedFor, timeZone),
        wallsMm: stay.flatMap(({ treeId }) => wallOf(treeId) ?? []),
      };
      return fillHeat(candidates, room).map(({ treeId, kg }) => ({ treeId, label: trees.get(treeId)!.next!.on, kg }));
    },
    nextPour: ({ plannedFor, pourings }) => {
      if (plannedFor === null) return null;
      const { day: own, hour, minute } = wallTimeOf(plannedFor, timeZone);
      const soonest =
        pourings
          .map(({ treeId }) => ready.get(treeId)?.from ?? '')
          .sort()
          .at(-1) ?? '';
      const hours = days.filter((day) => day > own).map((day) => instantAt({ day, hour, minute }, timeZone));
      return hours.find((at) => at >= soonest) ?? null;
    },
  };
}

/** Trees as lines, as far as they have a next step. */
export const treeLines = (trees: ReadonlyMap<Id, TreeStored>): TreeLine[] =>
  [...trees.values()].flatMap((tree) =>
    tree.next && tree.pieceIds.length > 0
      ? [{ ...tree.next, pieceIds: tree.pieceIds, alloyId: tree.alloyId, pourKg: tree.pourKg }]
      : [],
  );

/** What is asked about heats that cannot be kept, on every page that shows them, and what would fill those with room. */
export async function askedOfHeats(
  store: Store,
  known: Known & { readonly notes: readonly PlanNote[] },
): Promise<{ readonly asks: Question[]; readonly fills: Record<Id, HeatFill[]> }> {
  const ways = await heatWays(store, known);
  const open = known.heats.filter(({ pourings }) => pourings.every(({ outcome }) => outcome === null));
  return {
    asks: heatQuestions({ ...known, lines: treeLines(known.trees), ...ways }),
    fills: Object.fromEntries(open.map((heat) => [heat.id, ways.fillers(heat, [])])),
  };
}
