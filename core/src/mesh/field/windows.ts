import { boxOf, sidesOf } from '../body/box.ts';
import { step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { SolidField } from './solid-field.ts';

type Place = readonly [number, number, number];

/** A window that lets a shell's inside dry, mm along the file's axes: a place on the surface, and how far it is into the hollow. */
export interface WindowPlace {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  /** To the next opening; null where there is none. */
  readonly reachesMm: number | null;
}

/** How far air comes into a hollow from an opening, in widths of it: beyond, slurry stays wet. */
export const DRIES_WITHIN_WIDTHS = 3;
const MOST = 4;
/** The hollow is looked at on a grid of so many places along its longest side. */
const PLACES = 26;
/** Room behind the wall that counts as hollow at all, mm. */
const LEAST_ROOM_MM = 4;

/**
 * Proposes windows where a hollow cast's inside is farther from every opening than air reaches.
 *
 * In other words: one goes to the point of the hollow that is farthest from all openings and cuts through the wall beside it,
 * until nothing is too far.
 *
 * @param openings places where the hollow is open, mm along the file's axes: bases, cuts; @param acrossMm how wide they are
 * @returns none where the cast is solid, or dries
 */
export function proposeWindows(
  field: SolidField,
  {
    wallMm,
    openings,
    acrossMm,
  }: { readonly wallMm: number; readonly openings: readonly Place[]; readonly acrossMm: number },
  watch?: Watch,
): WindowPlace[] {
  const { originMm } = field.body;
  const hollow = hollowPlaces(field, wallMm, watch);
  const open: Place[] = openings.map(([x, y, z]) => [x - originMm[0], y - originMm[1], z - originMm[2]]);
  const within = DRIES_WITHIN_WIDTHS * acrossMm;
  const found: WindowPlace[] = [];
  const far = (place: Place) =>
    open.reduce((least, [x, y, z]) => Math.min(least, Math.hypot(place[0] - x, place[1] - y, place[2] - z)), Infinity);
  while (found.length < MOST && hollow.length > 0) {
    // Without any opening the first one goes where there is most room.
    const at = hollow.reduce((best, each) =>
      open.length === 0 ? (each.depth > best.depth ? each : best) : far(each.place) > far(best.place) ? each : best,
    );
    const reachesMm = far(at.place);
    if (reachesMm <= within) break;
    field.ask(...at.place, 1);
    const { x, y, z } = field.nearest;
    open.push([x, y, z]);
    found.push({
      x: x + originMm[0],
      y: y + originMm[1],
      z: z + originMm[2],
      reachesMm: Number.isFinite(reachesMm) ? reachesMm : null,
    });
  }
  return found;
}

function hollowPlaces(field: SolidField, wallMm: number, watch?: Watch): { place: Place; depth: number }[] {
  const box = boxOf(field.body.positions);
  const step_ = Math.max(...sidesOf(box)) / PLACES;
  const found: { place: Place; depth: number }[] = [];
  for (let x = box.min[0] + step_ / 2; x < box.max[0]; x += step_) {
    step(watch, (x - box.min[0]) / (box.max[0] - box.min[0]), 'looking into the hollow');
    for (let y = box.min[1] + step_ / 2; y < box.max[1]; y += step_)
      for (let z = box.min[2] + step_ / 2; z < box.max[2]; z += step_) {
        field.ask(x, y, z);
        if (field.depth >= wallMm + LEAST_ROOM_MM) found.push({ place: [x, y, z], depth: field.depth });
      }
  }
  return found;
}
