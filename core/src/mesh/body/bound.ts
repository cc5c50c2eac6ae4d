import type { Watch } from '../fault.ts';
import { step } from '../fault.ts';
import { buildTree } from '../field/bvh.ts';
import type { Body, ShellMesh } from './body.ts';
import type { Box } from './box.ts';
import { faceShells } from './facing.ts';
import type { Facing } from './facing.ts';
import type { Model } from './model.ts';
import { apart, nestShells } from './nesting.ts';
import { noSums, sumUp } from './sums.ts';
import type { Shells } from './take-shells.ts';
import { counted } from './words.ts';

/** Above this many shells their boxes are not compared each with each: the tree does it. */
const MANY = 200;

export interface Solid {
  readonly body: Body;
  readonly facing: Facing;
  readonly overlapping?: readonly ShellMesh[];
}

/** Puts the shells together to the body they bound. */
export function boundSolid(
  model: Model,
  triangles: Uint32Array,
  shells: Shells,
  warnings: string[],
  watch: Watch | undefined,
): Solid {
  const { sums, of, positions } = shells;
  const capsAt = triangles.length / 3;
  const cornersOf = (t: number, k: number) =>
    t < capsAt ? triangles[3 * t + k]! : shells.caps.triangles[3 * (t - capsAt) + k]!;
  const { inside, crossing } = relate(shells, of.length, cornersOf, watch);
  const volumes = sums.map(({ volume }) => volume);
  const facing = faceShells(volumes, inside);
  if (facing.insideOut.length > 0)
    warnings.push(
      facing.insideOut.length === 1 && sums.length === 1
        ? 'the model was inside out and was turned over'
        : `${counted(facing.insideOut.length, 'shell')} inside out, turned over`,
    );
  if (facing.sameWay.length > 0)
    warnings.push(
      `${counted(facing.sameWay.length, 'shell')} inside another, facing outward like it: read as solid, adding nothing; a hollow would face inward`,
    );
  // Positive for metal, negative for a hollow, whatever way the shell faced.
  const sign = facing.part.map((part) => (part === 'swallowed' ? 0 : part === 'cavity' ? -1 : 1));
  const taken = new Uint32Array(3 * of.length);
  let filled = 0;
  let capsFrom = 0;
  for (let t = 0; t < of.length; t++) {
    if (t === capsAt) capsFrom = filled / 3;
    const shell = of[t]!;
    if (shell < 0 || sign[shell] === 0) continue;
    const over = (t < capsAt && shells.turned[t] === 1) !== facing.turn[shell]!;
    taken[filled] = cornersOf(t, 0);
    taken[filled + 1] = cornersOf(t, over ? 2 : 1);
    taken[filled + 2] = cornersOf(t, over ? 1 : 2);
    filled += 3;
  }
  if (of.length === capsAt) capsFrom = filled / 3;
  const total = noSums();
  let plusMinus = 0;
  sums.forEach((sum, shell) => {
    if (sign[shell] === 0) return;
    const way = sign[shell]! * Math.sign(sum.volume);
    total.volume += way * sum.volume;
    total.area += sum.area;
    plusMinus += shells.plusMinus[shell]!;
    for (let k = 0; k < 3; k++) total.moment[k]! += way * sum.moment[k]!;
  });
  const nothing = sums.length === 0;
  const all = nothing
    ? sumUp(
        model.positions,
        triangles,
        1,
        () => 0,
        () => false,
      )[0]!
    : total;
  if (nothing) warnings.push('the surface encloses nothing: no volume can be told');
  const centroid = ([0, 1, 2] as const).map(
    (k) => model.originMm[k] + (nothing ? all.areaMoment[k] / all.area : total.moment[k] / total.volume),
  ) as [number, number, number];
  if (crossing.length > 0) warnings.push(`${counted(crossing.length, 'pair')} of shells overlap`);
  const body: Body = {
    positions,
    triangles: filled === taken.length ? taken : taken.slice(0, filled),
    capsFrom,
    originMm: model.originMm,
    up: model.up,
    ...(nothing ? {} : { volumeMm3: total.volume }),
    volumePlusMinusMm3: plusMinus,
    areaMm2: all.area,
    centroidMm: centroid,
    isOpen: shells.isOpen.some((open, shell) => open && sign[shell] !== 0),
  };
  return { body, facing, ...(crossing.length > 0 ? { overlapping: separate(body, of, sign, facing, inside) } : {}) };
}

/** How the shells lie in each other; a single one, or boxes that do not meet, need no look. */
function relate(shells: Shells, count: number, cornersOf: (t: number, k: number) => number, watch: Watch | undefined) {
  const { sums, of, positions } = shells;
  const boxes = shellBoxes(shells, count, cornersOf);
  const alone = boxes.length <= MANY && boxes.every((box, i) => boxes.every((other, j) => j <= i || apart(box, other)));
  if (alone) return { inside: sums.map(() => new Set<number>()), crossing: [] };
  step(watch, 0.7, 'looking which shell lies in which');
  const all = new Uint32Array(3 * count);
  const place: [number, number, number][] = [];
  for (let t = 0; t < count; t++) {
    for (let k = 0; k < 3; k++) all[3 * t + k] = cornersOf(t, k);
    const shell = of[t]!;
    if (shell < 0 || place[shell]) continue;
    place[shell] = ([0, 1, 2] as const).map(
      (axis) =>
        (positions[3 * all[3 * t]! + axis]! +
          positions[3 * all[3 * t + 1]! + axis]! +
          positions[3 * all[3 * t + 2]! + axis]!) /
        3,
    ) as [number, number, number];
  }
  return nestShells(buildTree(positions, all), of, boxes, place);
}

function shellBoxes(
  { sums, of, positions }: Shells,
  count: number,
  cornersOf: (t: number, k: number) => number,
): Box[] {
  const boxes = sums.map(() => ({ min: [Infinity, Infinity, Infinity], max: [-Infinity, -Infinity, -Infinity] }));
  if (boxes.length > 1)
    for (let t = 0; t < count; t++) {
      const box = boxes[of[t]!];
      if (!box) continue;
      for (let k = 0; k < 3; k++)
        for (let axis = 0; axis < 3; axis++) {
          const value = positions[3 * cornersOf(t, k) + axis]!;
          if (value < box.min[axis]!) box.min[axis] = value;
          if (value > box.max[axis]!) box.max[axis] = value;
        }
    }
  return boxes as unknown as Box[];
}

/** The shells of the body one by one, every one facing out of what it bounds. */
function separate(
  body: Body,
  of: Int32Array,
  sign: readonly number[],
  facing: Facing,
  inside: readonly ReadonlySet<number>[],
): ShellMesh[] {
  const lists = facing.part.map(() => [] as number[]);
  let at = 0;
  for (let t = 0; t < of.length; t++) {
    const shell = of[t]!;
    if (shell < 0 || sign[shell] === 0) continue;
    const [a, b, c] = [body.triangles[at]!, body.triangles[at + 1]!, body.triangles[at + 2]!];
    // A cavity's triangles face into it in the body; by itself it is a solid.
    lists[shell]!.push(...(facing.part[shell] === 'cavity' ? [a, c, b] : [a, b, c]));
    at += 3;
  }
  const kept = facing.part.map((part, shell) => ({ part, shell })).filter(({ part }) => part !== 'swallowed');
  return kept.map(({ part, shell }) => {
    const holders = [...inside[shell]!].filter((other) => facing.part[other] === 'body');
    const holder = holders.sort((a, b) => inside[b]!.size - inside[a]!.size)[0];
    return {
      triangles: Uint32Array.from(lists[shell]!),
      part: part as 'body' | 'cavity',
      ...(part === 'cavity' && holder !== undefined ? { holder: kept.findIndex((each) => each.shell === holder) } : {}),
    };
  });
}
