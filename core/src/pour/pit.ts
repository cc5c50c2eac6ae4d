import type { Id } from '../records/common.ts';
import { positive, within } from '../units/figure.ts';

/** The bed of sand: how many places, how many of them side by side, and how far from middle to middle. */
export interface PitBed {
  readonly places: number;
  readonly across: number;
  readonly pitchMm: number;
}

/** A numbered place seen from above, mm from the corner at the furnace: `x` along the bed's side there, `y` away from the furnace. */
export interface PitPlace {
  readonly number: number;
  readonly xMm: number;
  readonly yMm: number;
}

/** The places of a bed: row by row away from the furnace, every other row the other way, so that neighbours in number are neighbours. */
export function pitPlaces({ places, across, pitchMm }: PitBed): PitPlace[] {
  const row = Math.max(1, Math.min(within('places side by side', across, 1, 100), positive('places', places)));
  const pitch = positive('from place to place, mm', pitchMm);
  return Array.from({ length: Math.floor(places) }, (_, i) => {
    const line = Math.floor(i / row);
    const along = i % row;
    return {
      number: i + 1,
      xMm: ((line % 2 === 0 ? along : row - 1 - along) + 0.5) * pitch,
      yMm: (line + 0.5) * pitch,
    };
  });
}

/**
 * Where trees are set, in their pouring order: in the free places nearest to the furnace, the first to be poured farthest from it, so
 * that nobody carries metal past moulds that are full. Trees that find no place are left out.
 */
export function setInPit(treeIds: readonly Id[], places: number, taken: ReadonlySet<number>): Map<Id, number> {
  const free = Array.from({ length: Math.floor(places) }, (_, i) => i + 1).filter((number) => !taken.has(number));
  const own = free.slice(0, treeIds.length);
  const placed = treeIds.slice(0, own.length);
  return new Map(placed.map((id, i) => [id, own[own.length - 1 - i]!]));
}

/** How far the crucible goes from the furnace, beside the bed's corner, to each place in turn and back, m. */
export function crucibleWayM(inOrder: readonly PitPlace[]): number {
  const stops = [{ xMm: 0, yMm: 0 }, ...inOrder, { xMm: 0, yMm: 0 }];
  return (
    stops.slice(1).reduce((sum, to, i) => sum + Math.hypot(to.xMm - stops[i]!.xMm, to.yMm - stops[i]!.yMm), 0) / 1000
  );
}
