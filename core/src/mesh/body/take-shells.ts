import { listUnder } from '../../units/lists.ts';
import { settleCrowds } from './crowds.ts';
import { OPEN, nextHalf } from './edges.ts';
import type { Edges } from './edges.ts';
import { closeHoles } from './holes.ts';
import type { Caps, Rim } from './holes.ts';
import { gatherShells } from './shells.ts';
import { sumUp } from './sums.ts';
import type { Sums } from './sums.ts';
import { counted, volumeInWords } from './words.ts';

/** An open shell is a body when what its holes leave open is less than this share of its volume. */
const LEAST_SURE = 0.8;

/** Shells with their sums; sheets have no number in `of`. */
export interface Shells {
  readonly count: number;
  /** The shell of each triangle, cap triangles after the mesh's; −1 for sheets and collapsed triangles. */
  readonly of: Int32Array;
  readonly turned: Uint8Array;
  /** Volume with caps, area without; one a shell that bounds something. */
  readonly sums: readonly Sums[];
  readonly plusMinus: readonly number[];
  readonly isOpen: readonly boolean[];
  readonly caps: Caps;
  readonly positions: Float64Array;
}

/** Takes a mesh apart into shells, settles crowded edges, closes holes, and sets aside what bounds nothing. */
export function takeShells(positions: Float64Array, triangles: Uint32Array, edges: Edges, warnings: string[]): Shells {
  const gathered = gatherShells(triangles, edges);
  const { of: shellOf } = gathered;
  const turned = Uint8Array.from(gathered.turned);
  if (gathered.turnedCount > 0)
    warnings.push(
      `${counted(gathered.turnedCount, 'triangle')} faced the wrong way and ${gathered.turnedCount === 1 ? 'was' : 'were'} turned over`,
    );
  if (gathered.twisted > 0)
    warnings.push(
      `${counted(gathered.twisted, 'shell')} cannot face one way all over (a twisted band); their volume is not sure`,
    );
  const collapsed = shellOf.reduce((sum, shell) => sum + (shell < 0 ? 1 : 0), 0);
  if (collapsed > 0) warnings.push(`${counted(collapsed, 'triangle')} without area (two corners in one) left out`);

  const group = Int32Array.from({ length: gathered.count }, (_, i) => i);
  const sheet = new Uint8Array(gathered.count);
  const unpaired: (readonly [number, number])[] = [];
  const rimShell: number[] = [];
  const openShell = new Uint8Array(gathered.count);
  const unpair = (half: number) => {
    const [from, to] = [triangles[half]!, triangles[nextHalf(half)]!];
    unpaired.push(turned[(half / 3) | 0] ? [to, from] : [from, to]);
    rimShell.push(shellOf[(half / 3) | 0]!);
  };
  if (edges.open > 0 || edges.nonManifold > 0) {
    if (edges.open > 0)
      for (let half = 0; half < edges.other.length; half++)
        if (edges.other[half] === OPEN) openShell[shellOf[(half / 3) | 0]!] = 1;
    if (edges.nonManifold > 0) {
      const areas = sumUp(
        positions,
        triangles,
        gathered.count,
        (t) => shellOf[t]!,
        () => false,
      );
      const settled = settleCrowds(
        triangles,
        edges,
        gathered,
        Float64Array.from(areas, ({ area }) => area),
        openShell,
      );
      for (let t = 0; t < shellOf.length; t++)
        if (shellOf[t]! >= 0 && settled.turnedShell[shellOf[t]!]) turned[t] = turned[t]! ^ 1;
      group.set(settled.joined);
      sheet.set(settled.sheet);
      for (const half of settled.unmatched) {
        unpair(half);
        openShell[group[shellOf[(half / 3) | 0]!]!] = 1;
      }
    }
    for (let half = 0; half < edges.other.length; half++)
      if (edges.other[half] === OPEN && !sheet[shellOf[(half / 3) | 0]!]) unpair(half);
  }
  return groupShells(
    positions,
    triangles,
    { shellOf, turned, group, sheet, openShell, unpaired, rimShell, shells: gathered.count },
    warnings,
  );
}

interface Raw {
  readonly shells: number;
  readonly shellOf: Int32Array;
  readonly turned: Uint8Array;
  readonly group: Int32Array;
  readonly sheet: Uint8Array;
  readonly openShell: Uint8Array;
  readonly unpaired: readonly (readonly [number, number])[];
  readonly rimShell: readonly number[];
}

/** Closes holes shell by shell and sets aside what bounds nothing. */
function groupShells(positions: Float64Array, triangles: Uint32Array, raw: Raw, warnings: string[]): Shells {
  const number = new Int32Array(raw.shells).fill(-1);
  let count = 0;
  for (let shell = 0; shell < raw.shells; shell++)
    if (!raw.sheet[shell] && raw.group[shell] === shell) number[shell] = count++;
  const groupOf = (shell: number) => (shell < 0 || raw.sheet[shell] ? -1 : number[raw.group[shell]!]!);
  const caps = capByShell(positions, raw, groupOf);
  const all = positionsWith(positions, caps.middles);
  const capShell = caps.rim.map((rim) => caps.shellOfRim[rim]!);
  const surface = sumUp(
    positions,
    triangles,
    count,
    (t) => groupOf(raw.shellOf[t]!),
    (t) => raw.turned[t] === 1,
  );
  const lids = sumUp(
    all,
    caps.triangles,
    count,
    (t) => capShell[t]!,
    () => false,
  );
  const plusMinus = new Array<number>(count).fill(0);
  const open = new Array<boolean>(count).fill(false);
  caps.rims.forEach(({ plusMinusMm3 }, rim) => {
    plusMinus[caps.shellOfRim[rim]!]! += plusMinusMm3;
    open[caps.shellOfRim[rim]!] = true;
  });
  const sums = surface.map((each, shell) => withLid(each, lids[shell]!));
  const isBody = sums.map(
    ({ volume }, shell) => Math.abs(volume) > 0 && plusMinus[shell]! <= LEAST_SURE * Math.abs(volume),
  );
  let bodies = 0;
  const kept = isBody.map((is) => (is ? bodies++ : -1));
  sayHoles(caps, isBody, sums, plusMinus, warnings);
  const sheets = isBody.filter((is) => !is).length + raw.sheet.reduce((sum, each) => sum + each, 0);
  if (sheets > 0)
    warnings.push(
      `${counted(sheets, 'open sheet')} that ${sheets === 1 ? 'encloses' : 'enclose'} nothing left out of the volume`,
    );
  const of = new Int32Array(triangles.length / 3 + capShell.length);
  for (let t = 0; t < triangles.length / 3; t++) {
    const shell = groupOf(raw.shellOf[t]!);
    of[t] = shell < 0 ? -1 : kept[shell]!;
  }
  capShell.forEach((shell, t) => (of[triangles.length / 3 + t] = kept[shell]!));
  const pick = <T>(list: readonly T[]) => list.filter((_, shell) => isBody[shell]);
  return {
    count: count + raw.sheet.reduce((sum, each) => sum + each, 0),
    of,
    turned: raw.turned,
    sums: pick(sums),
    plusMinus: pick(plusMinus),
    isOpen: pick(open),
    caps,
    positions: all,
  };
}

/** The caps of every shell; a rim never runs from one shell into another. */
function capByShell(
  positions: Float64Array,
  raw: Raw,
  groupOf: (shell: number) => number,
): Caps & { shellOfRim: number[] } {
  const byShell = new Map<number, (readonly [number, number])[]>();
  raw.unpaired.forEach((pair, i) => {
    const shell = groupOf(raw.rimShell[i]!);
    if (shell >= 0) listUnder(byShell, shell, pair);
  });
  const caps = {
    middles: [] as number[],
    triangles: [] as number[],
    rim: [] as number[],
    rims: [] as Rim[],
    shellOfRim: [] as number[],
  };
  for (const [shell, pairs] of byShell) {
    const own = closeHoles(positions, pairs, positions.length / 3 + caps.middles.length / 3);
    for (const rim of own.rim) caps.rim.push(rim + caps.rims.length);
    caps.middles.push(...own.middles);
    for (const vertex of own.triangles) caps.triangles.push(vertex);
    for (const rim of own.rims) {
      caps.rims.push(rim);
      caps.shellOfRim.push(shell);
    }
  }
  return caps;
}

function positionsWith(positions: Float64Array, middles: readonly number[]): Float64Array {
  if (middles.length === 0) return positions;
  const all = new Float64Array(positions.length + middles.length);
  all.set(positions);
  all.set(middles, positions.length);
  return all;
}

function withLid(surface: Sums, lid: Sums): Sums {
  const moment = ([0, 1, 2] as const).map((k) => surface.moment[k] + lid.moment[k]) as [number, number, number];
  return { ...surface, volume: surface.volume + lid.volume, moment };
}

function sayHoles(
  caps: Caps & { shellOfRim: readonly number[] },
  isBody: readonly boolean[],
  sums: readonly Sums[],
  plusMinus: readonly number[],
  warnings: string[],
): void {
  const rims = caps.rims.filter((_, i) => isBody[caps.shellOfRim[i]!]);
  if (rims.length > 0) {
    const volume = sums.reduce((sum, each, i) => sum + (isBody[i] ? Math.abs(each.volume) : 0), 0);
    const unsure = plusMinus.reduce((sum, each, i) => sum + (isBody[i] ? each : 0), 0);
    warnings.push(
      `the model is open: ${counted(rims.length, 'hole')} closed by a fan over ${rims.length === 1 ? 'its' : 'their'} rim for the volume, which leaves ± ${volumeInWords(unsure)} (${((100 * unsure) / volume).toPrecision(2)} %)`,
    );
  }
}
