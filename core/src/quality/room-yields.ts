import type { Room } from '../records/common.ts';
import { isClosed } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { roomOfStep } from '../route/standing.ts';
import type { OutcomeDef } from '../route/step-kind.ts';
import { outcomeOf } from '../route/step-kind.ts';
import type { Instant } from '../units/instant.ts';

/** What went through a room, and whether nothing of it had to be done again, mended or given up there. */
export interface Passed {
  readonly at: Instant;
  readonly good: boolean;
}

/** An outcome that asks why was not good at once: done again, patched, poured short, lost. */
const isGood = ({ why }: OutcomeDef): boolean => why !== true;

/** Casts, trees and pieces that went through each room, by when they were last worked on there; moulds are counted by their pulls. */
export function passedRooms(index: ShopIndex): Map<Room, Passed[]> {
  const rooms = new Map<Room, Map<string, Passed>>();
  for (const step of index.shop.steps) {
    if (step.carrier === 'mould' || !isClosed(step) || step.endedAt === null || step.outcome === null) continue;
    const outcome = outcomeOf(index.kind(step), step.outcome);
    if (!outcome || outcome.effect === 'skipped') continue;
    const room = roomOfStep(index, step);
    const known = rooms.get(room) ?? new Map<string, Passed>();
    const before = known.get(step.carrierId);
    known.set(step.carrierId, {
      at: before && before.at > step.endedAt ? before.at : step.endedAt,
      good: (before?.good ?? true) && isGood(outcome),
    });
    rooms.set(room, known);
  }
  return new Map(
    [...rooms].map(([room, passed]) => [room, [...passed.values()].sort((a, b) => (a.at < b.at ? -1 : 1))]),
  );
}
