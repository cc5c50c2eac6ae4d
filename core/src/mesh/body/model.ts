import { MeshFault } from '../fault.ts';
import { LENGTH_UNITS, unitAsked, unitInWords } from '../length.ts';
import type { LengthUnit } from '../length.ts';
import type { FileMesh } from '../read/file.ts';
import { boxOf, sidesOf } from './box.ts';

/** What a person says about a model. */
export interface Sizing {
  /** The unit of the coordinates; needed where the file does not say it, and taken before the file's. */
  readonly unit?: LengthUnit;
  /** How many times larger it is to be. */
  readonly scale?: number;
  /** How high it is to be, in mm, along the axis that the format calls up; instead of a scale. */
  readonly heightMm?: number;
}

/** A model in millimetres. */
export interface Model {
  /** The file's name, for what is said about it. */
  readonly name: string;
  /** Vertices in mm about `originMm`: far from the file's origin nothing is lost. */
  readonly positions: Float64Array;
  readonly triangles: Uint32Array;
  /** Where the middle of the model's box lies, in mm along the file's axes. */
  readonly originMm: readonly [number, number, number];
  readonly up: 'y' | 'z';
  readonly unit: LengthUnit;
  /** What the coordinates were multiplied by after the unit. */
  readonly scale: number;
  /** How exactly the file can say a place, in mm: single precision at the farthest coordinate. */
  readonly grainMm: number;
  readonly warnings: readonly string[];
}

/** Longest sides that make one ask whether the unit is right, in mm. */
const ODD_MM = { small: 5, large: 20_000 };

/**
 * Puts a file's mesh into millimetres.
 * @throws MeshFault where the unit is not known (with a guess), or a scale or height is not above zero
 */
export function sizeModel(file: FileMesh, name: string, { unit: said, scale, heightMm }: Sizing = {}): Model {
  for (const [what, value] of Object.entries({ scale, height: heightMm }))
    if (value !== undefined && !(Number.isFinite(value) && value > 0))
      throw new MeshFault(`the ${what} must be above zero, not ${value}`);
  if (scale !== undefined && heightMm !== undefined) throw new MeshFault('give a scale or a height, not both');
  const box = boxOf(file.positions);
  const sides = sidesOf(box);
  const warnings = [...file.warnings];
  // Where the height is said the unit makes no difference.
  const unit = said ?? file.unit ?? (heightMm === undefined ? undefined : 'mm');
  if (unit === undefined) throw unitAsked(sides, name);
  if (said !== undefined && file.unit !== undefined && said !== file.unit)
    warnings.push(`the file says ${unitInWords(file.unit)}; ${unitInWords(said)} were taken, as asked`);
  const high = sides[file.up === 'y' ? 1 : 2] * LENGTH_UNITS[unit];
  if (heightMm !== undefined && !(high > 0))
    throw new MeshFault(`${name} has no height that could be made ${heightMm} mm`);
  const times = heightMm === undefined ? (scale ?? 1) : heightMm / high;
  const k = LENGTH_UNITS[unit] * times;
  const middle = ([0, 1, 2] as const).map((axis) => (box.min[axis] + box.max[axis]) / 2);
  const positions = new Float64Array(file.positions.length);
  for (let i = 0; i < positions.length; i += 3)
    for (let axis = 0; axis < 3; axis++) positions[i + axis] = (file.positions[i + axis]! - middle[axis]!) * k;
  const longest = Math.max(...sides) * k;
  if (!(longest > 0)) throw new MeshFault(`${name}: all of its vertices lie at one place`);
  if (longest < ODD_MM.small || longest > ODD_MM.large)
    warnings.push(`the model is ${Number((longest / 1000).toPrecision(3))} m long: is the unit right?`);
  const farthest = Math.max(...box.min.map(Math.abs), ...box.max.map(Math.abs));
  return {
    name,
    positions,
    triangles: file.triangles,
    originMm: [middle[0]! * k, middle[1]! * k, middle[2]! * k],
    up: file.up,
    unit,
    scale: times,
    grainMm: farthest * 2 ** -23 * k,
    warnings,
  };
}
