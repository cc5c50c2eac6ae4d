import type { Id } from '../records/common.ts';
import { positive, within } from '../units/figure.ts';

/** What stands on a kiln's floor: its footprint with the cup down, mm. */
export interface Footprint {
  readonly id: Id;
  readonly acrossMm: number;
  readonly deepMm: number;
  /** It may not be turned by a quarter. */
  readonly fixed?: boolean;
}

/** One that is tried the other way round first. */
interface Laid extends Footprint {
  readonly laid?: boolean;
}

/** Where it stands: its left front corner, and how far it reaches; turned by a quarter or not. */
export interface FloorPlace {
  readonly id: Id;
  readonly xMm: number;
  readonly yMm: number;
  readonly acrossMm: number;
  readonly deepMm: number;
  readonly turned: boolean;
}

export interface Floor {
  readonly acrossMm: number;
  readonly deepMm: number;
  /** Between two shells, and between a shell and the wall: the fire must come round them. */
  readonly gapMm: number;
}

export interface Packed {
  readonly placed: readonly FloorPlace[];
  readonly left: readonly Id[];
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly d: number;
}

/** Orders in which footprints are laid; each is tried, and the best one taken. */
const ORDERS: readonly ((a: Footprint, b: Footprint) => number)[] = [
  (a, b) => surface(b) - surface(a),
  (a, b) => Math.max(b.acrossMm, b.deepMm) - Math.max(a.acrossMm, a.deepMm),
  (a, b) => Math.min(b.acrossMm, b.deepMm) - Math.min(a.acrossMm, a.deepMm),
  (a, b) => b.acrossMm + b.deepMm - a.acrossMm - a.deepMm,
];
/** After them the best one is changed so often, by chance from a seed, so that the same shells stand the same. */
const CHANGES = 700;
const NEAR = 1e-6;

/**
 * Lays footprints on a kiln's floor, as much of them as goes: with a gap round each, turned by a quarter where they may be.
 *
 * In other words: they are laid one after another, each where the free rectangle fits it best or as far in front as it goes, in
 * several orders; the order that covers most is then changed again and again.
 *
 * @returns what stands where, mm from the left front corner, and what found no place
 * @throws RangeError where a size is not above zero
 * Source: maximal rectangles, best short side (J. Jylänki, A Thousand Ways to Pack the Bin, 2010).
 */
export function packFloor(items: readonly Footprint[], floor: Floor): Packed {
  positive('kiln across', floor.acrossMm);
  positive('kiln deep', floor.deepMm);
  within('gap', floor.gapMm, 0, floor.acrossMm);
  for (const { acrossMm, deepMm } of items) {
    positive('footprint', acrossMm);
    positive('footprint', deepMm);
  }
  const total = items.reduce((sum, each) => sum + surface(each), 0);
  let best: Packed = { placed: [], left: items.map(({ id }) => id) };
  let order: readonly Laid[] = items;
  const attempt = (next: readonly Laid[]) => {
    for (const score of [shortSide, low]) {
      const packed = lay(next, floor, score);
      // As good is taken too: from there another change may help.
      if (covered(packed) < covered(best) - NEAR) continue;
      best = packed;
      order = next;
    }
    return covered(best) >= total - NEAR;
  };
  for (const compare of ORDERS) if (attempt([...items].sort(compare))) return best;
  const random = chance();
  for (let i = 0; i < CHANGES; i++) if (attempt(changed(order, random))) return best;
  return best;
}

function chance(): () => number {
  let state = 1907;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/** Two change places, or one is laid the other way round. */
function changed(order: readonly Laid[], random: () => number): Laid[] {
  const next = [...order];
  const [i, j] = [Math.floor(random() * next.length), Math.floor(random() * next.length)];
  const [a, b] = [next[i]!, next[j]!];
  if (i === j) next[i] = a.fixed ? a : { ...a, acrossMm: a.deepMm, deepMm: a.acrossMm, laid: !a.laid };
  else [next[i], next[j]] = [b, a];
  return next;
}

const surface = ({ acrossMm, deepMm }: Pick<Footprint, 'acrossMm' | 'deepMm'>): number => acrossMm * deepMm;
const covered = ({ placed }: Packed): number => placed.reduce((sum, each) => sum + surface(each), 0);

/** How badly a footprint stands in a free rectangle; the least is taken. */
type Score = (free: Box, w: number, d: number) => number;
const shortSide: Score = (free, w, d) => Math.min(free.w - w, free.d - d) + Math.max(free.w - w, free.d - d) / 1e4;
const low: Score = (free, _, d) => free.y + d + free.x / 1e4;

/** Laid in an order: each reaches over its gap to the right and behind, so that a gap is left round every one. */
function lay(order: readonly Laid[], { acrossMm, deepMm, gapMm }: Floor, score: Score): Packed {
  let free: Box[] = [{ x: gapMm, y: gapMm, w: acrossMm - gapMm, d: deepMm - gapMm }];
  const placed: FloorPlace[] = [];
  const left: Id[] = [];
  for (const item of order) {
    const found = bestPlace(free, item, gapMm, score);
    if (!found) {
      left.push(item.id);
      continue;
    }
    placed.push(found);
    const taken = { x: found.xMm, y: found.yMm, w: found.acrossMm + gapMm, d: found.deepMm + gapMm };
    free = withoutInner(free.flatMap((box) => cut(box, taken)));
  }
  return { placed, left };
}

function bestPlace(free: readonly Box[], item: Laid, gapMm: number, score: Score): FloorPlace | undefined {
  let [best, least]: [FloorPlace | undefined, number] = [undefined, Infinity];
  const isLaid = item.laid === true;
  const ways = [
    { w: item.acrossMm, d: item.deepMm, turned: isLaid },
    ...(item.fixed || item.acrossMm === item.deepMm ? [] : [{ w: item.deepMm, d: item.acrossMm, turned: !isLaid }]),
  ];
  for (const box of free)
    for (const { w, d, turned } of ways) {
      if (w + gapMm > box.w + NEAR || d + gapMm > box.d + NEAR) continue;
      const own = score(box, w + gapMm, d + gapMm);
      if (own >= least) continue;
      [best, least] = [{ id: item.id, xMm: box.x, yMm: box.y, acrossMm: w, deepMm: d, turned }, own];
    }
  return best;
}

/** What is left free of a rectangle where another is taken out: up to four that overlap one another. */
function cut(box: Box, taken: Box): Box[] {
  const [right, back, takenRight, takenBack] = [box.x + box.w, box.y + box.d, taken.x + taken.w, taken.y + taken.d];
  if (taken.x >= right || takenRight <= box.x || taken.y >= back || takenBack <= box.y) return [box];
  return [
    { ...box, w: taken.x - box.x },
    { ...box, x: takenRight, w: right - takenRight },
    { ...box, d: taken.y - box.y },
    { ...box, y: takenBack, d: back - takenBack },
  ].filter(({ w, d }) => w > NEAR && d > NEAR);
}

const inside = (a: Box, b: Box): boolean =>
  a.x >= b.x - NEAR && a.y >= b.y - NEAR && a.x + a.w <= b.x + b.w + NEAR && a.y + a.d <= b.y + b.d + NEAR;

/** Free rectangles that lie in no other one; of two that are the same the first. */
const withoutInner = (boxes: readonly Box[]): Box[] =>
  boxes.filter((box, i) => !boxes.some((other, j) => i !== j && inside(box, other) && (!inside(other, box) || j < i)));
