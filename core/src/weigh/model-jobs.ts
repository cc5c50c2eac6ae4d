import { alloyOf } from '../materials/alloys.ts';
import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import { boxOf, sidesOf } from '../mesh/body/box.ts';
import type { Watch } from '../mesh/fault.ts';
import { hollowVolumes, partOf } from '../mesh/field/hollow.ts';
import type { Divide, Hollow } from '../mesh/field/hollow.ts';
import { largestInscribed } from '../mesh/field/inscribed.ts';
import { metalPlaces, metalThickness } from '../mesh/field/metal-places.ts';
import type { MetalPlace } from '../mesh/field/metal-places.ts';
import { SolidField } from '../mesh/field/solid-field.ts';
import { thicknessPerVertex } from '../mesh/field/thickness.ts';
import { proposeWindows } from '../mesh/field/windows.ts';
import type { WindowPlace } from '../mesh/field/windows.ts';
import { vertexNormals } from '../mesh/picture/render.ts';
import { standIn } from '../mesh/picture/stand-in.ts';
import type { Opened } from '../mesh/measure.ts';
import { Pourable } from '../mesh/pour/traps.ts';
import type { Traps } from '../mesh/pour/traps.ts';
import { waysUp } from '../mesh/pour/best-way-up.ts';
import { cutSections } from '../mesh/solid/cut.ts';
import type { CutSection } from '../mesh/solid/cut.ts';
import { loadKernel } from '../mesh/solid/kernel.ts';
import type { Plane } from '../mesh/solid/kernel.ts';
import { suggestCuts } from '../mesh/solid/suggest.ts';
import type { CurvePoint, ModelMeasured, ShopFits } from '../records/model.ts';
import { volumeAt } from '../wax/volume-curve.ts';
import { excessOf, judgePart } from './judge-part.ts';
import type { PartFinding } from './judge-part.ts';

const MM3 = 1000;
const MM2 = 100;
/** Where no ball of a wall's radius fits, all of the metal is within the wall; a ball is found within this share. */
const BALL_SHARE = 0.003;

/** A surface to be shown: vertices in mm about `originMm`. */
export interface ShownMesh {
  readonly positions: Float32Array;
  readonly triangles: Uint32Array;
  /** Each vertex's direction outward, of length 1. */
  readonly normals: Float32Array;
  readonly originMm: readonly [number, number, number];
}

/** A model measured for its page, at the size of the wax. */
export interface ModelLook {
  readonly measured: ModelMeasured;
  readonly mesh: ShownMesh;
  /** Fewer triangles over the same vertices, to turn. */
  readonly standIn: Uint32Array;
}

/** A part that planes cut off, weighed and held against the shop's limits. */
export interface PartReport {
  readonly mesh: ShownMesh;
  readonly volumeCm3: number;
  /** Skin, without what the planes left. */
  readonly areaCm2: number;
  readonly sizeMm: readonly [number, number, number];
  readonly centroidMm: readonly [number, number, number];
  readonly cuts: CutSection['cuts'];
  /** Length of all its seams, m. */
  readonly seamM: number;
  readonly curve: readonly CurvePoint[];
  readonly opening: { readonly acrossMm: number; readonly deepMm: number } | null;
  readonly findings: readonly PartFinding[];
}

const shown = (
  { positions, triangles }: { readonly positions: Float64Array; readonly triangles: Uint32Array },
  originMm: readonly [number, number, number],
): ShownMesh => ({
  positions: Float32Array.from(positions),
  triangles: Uint32Array.from(triangles),
  normals: unitNormals(positions, triangles),
  originMm,
});

/** Worked out here, so that the page need not. */
function unitNormals(positions: Float64Array, triangles: Uint32Array): Float32Array {
  const normals = Float32Array.from(vertexNormals(positions, triangles));
  for (let i = 0; i < normals.length; i += 3) {
    const length = Math.hypot(normals[i]!, normals[i + 1]!, normals[i + 2]!) || 1;
    for (let k = 0; k < 3; k++) normals[i + k]! /= length;
  }
  return normals;
}

/** The part of a computation from one share of the whole to another. */
const share = (watch: Watch | undefined, from: number, to: number): Watch => ({
  onProgress: (done, what) => watch?.onProgress?.(from + done * (to - from), what),
  cancelled: () => watch?.cancelled?.() ?? false,
});

function pointsOf(
  found: readonly Hollow[],
  walls: readonly number[],
  whole: { mm3: number; plusMinus: number },
): CurvePoint[] {
  return walls.map((wallMm) => {
    const hollow = found.find((each) => each.wallMm === wallMm);
    return {
      wallMm,
      volumeCm3: (hollow?.volumeMm3 ?? whole.mm3) / MM3,
      plusMinusCm3: (hollow?.errorMm3 ?? whole.plusMinus) / MM3,
    };
  });
}

/** Measures an opened model for its page: sizes, faults, how much wax each wall holds, and what is shown of it. */
export async function lookAtModel(
  { model, body, findings, format }: Opened,
  wallsMm: readonly number[],
  watch?: Watch,
): Promise<ModelLook> {
  const { min, max } = findings.boxMm;
  const sizeMm = [0, 1, 2].map((k) => max[k]! - min[k]!) as [number, number, number];
  let curve: CurvePoint[] = [];
  let thickestMm: number | null = null;
  if (body.volumeMm3 !== undefined) {
    const field = new SolidField(body);
    const { radiusMm } = largestInscribed(field, share(watch, 0, 0.1));
    thickestMm = 2 * radiusMm;
    const walls = wallsMm.filter((wall) => wall <= radiusMm * (1 + BALL_SHARE));
    const found = hollowVolumes(field, walls, share(watch, 0.1, 0.95));
    curve = pointsOf(found, wallsMm, { mm3: body.volumeMm3, plusMinus: body.volumePlusMinusMm3 });
  }
  const mesh = { positions: body.positions, triangles: body.triangles.slice(0, 3 * body.capsFrom) };
  return {
    measured: {
      format,
      triangles: findings.triangles,
      watertight: findings.watertight,
      volumeCm3: body.volumeMm3 === undefined ? null : body.volumeMm3 / MM3,
      volumePlusMinusCm3: body.volumePlusMinusMm3 / MM3,
      areaCm2: body.areaMm2 / MM2,
      sizeMm,
      up: body.up,
      toWax: model.scale,
      curve,
      thickestMm,
      warnings: findings.warnings,
    },
    mesh: shown(mesh, body.originMm),
    standIn: await standIn(mesh),
  };
}

/** What a cut is judged by. */
export interface CutQuestion {
  readonly planes: readonly Plane[];
  /** The wall that counts, mm, and others to be measured for a curve. */
  readonly wallMm: number;
  readonly wallsMm?: readonly number[] | undefined;
  readonly alloyId: string;
  readonly fits: ShopFits;
  readonly wasmUrl?: string | undefined;
}

/** Cuts an opened model, weighs every part at each wall, and holds it against the shop's limits. Parts add up to the whole. */
export async function cutModel({ body }: Opened, question: CutQuestion, watch?: Watch): Promise<PartReport[]> {
  const { planes, wallMm, fits } = question;
  const alloy = alloyOf(question.alloyId);
  const sections = cutSections(body, planes, await loadKernel(question.wasmUrl));
  const divides = planes.map(({ normal, offsetMm }): Divide => {
    const length = Math.hypot(...normal);
    const origin = normal.reduce((sum, each, k) => sum + each * body.originMm[k]!, 0);
    return {
      normal: normal.map((each) => each / length) as [number, number, number],
      offset: (offsetMm - origin) / length,
    };
  });
  const field = new SolidField(body);
  const { radiusMm } = largestInscribed(field, share(watch, 0.1, 0.2));
  const walls = [...new Set([...(question.wallsMm ?? []), wallMm])].sort((a, b) => a - b);
  const thin = walls.filter((wall) => wall <= radiusMm * (1 + BALL_SHARE));
  const found = hollowVolumes(field, thin, share(watch, 0.2, 1), divides);
  return sections.map((section): PartReport => {
    const part = partOf(divides.map((divide) => isAbove(section, divide)));
    const curve = walls.map((wall): CurvePoint => {
      const hollow = found.find((each) => each.wallMm === wall);
      const mm3 = Math.max(0, section.volumeMm3 - (hollow?.deeperIn?.[part] ?? 0));
      // Of the doubt about the whole each part has its share.
      const doubt = hollow
        ? (hollow.errorMm3 * mm3) / hollow.volumeMm3
        : (body.volumePlusMinusMm3 * mm3) / body.volumeMm3!;
      return { wallMm: wall, volumeCm3: mm3 / MM3, plusMinusCm3: doubt / MM3 };
    });
    const cutArea = section.cuts.reduce((sum, { areaMm2 }) => sum + areaMm2, 0);
    const sizeMm = sidesOf(boxOf(section.mesh.positions)) as [number, number, number];
    const opening = openingOf(section, divides, wallMm);
    const areaCm2 = (section.areaMm2 - cutArea) / MM2;
    const { volumeCm3 } = volumeAt(curve, wallMm);
    const findings = judgePart(
      {
        waxKg: (volumeCm3 * PATTERN_WAX_DENSITY) / 1000,
        sizeMm,
        areaCm2,
        opening,
        isHollow: volumeCm3 < 0.98 * (section.volumeMm3 / MM3),
      },
      alloy,
      fits,
    );
    return {
      mesh: shown(section.mesh, section.originMm),
      volumeCm3: section.volumeMm3 / MM3,
      areaCm2,
      sizeMm,
      centroidMm: section.centroidMm,
      cuts: section.cuts,
      seamM: section.cuts.reduce((sum, { outlineMm }) => sum + outlineMm, 0) / 1000,
      curve,
      opening,
      findings,
    };
  });
}

/** Which side of a plane a part lies on: told by its vertex that is farthest from it. */
function isAbove({ mesh: { positions } }: CutSection, { normal, offset }: Divide): boolean {
  let far = 0;
  for (let i = 0; i < positions.length; i += 3) {
    const away = normal[0] * positions[i]! + normal[1] * positions[i + 1]! + normal[2] * positions[i + 2]! - offset;
    if (Math.abs(away) > Math.abs(far)) far = away;
  }
  return far > 0;
}

/** The largest hole that cuts leave in a hollow part, as wide as a circle of its area, and how deep the part is behind it. */
function openingOf(section: CutSection, divides: readonly Divide[], wallMm: number): PartReport['opening'] {
  const open = section.cuts
    .map(({ plane, areaMm2, outlineMm }) => ({ plane, areaMm2: areaMm2 - outlineMm * wallMm }))
    .filter(({ areaMm2 }) => areaMm2 > 0)
    .sort((a, b) => b.areaMm2 - a.areaMm2)[0];
  if (!open) return null;
  const { normal, offset } = divides[open.plane]!;
  const { positions } = section.mesh;
  let deepMm = 0;
  for (let i = 0; i < positions.length; i += 3)
    deepMm = Math.max(
      deepMm,
      Math.abs(normal[0] * positions[i]! + normal[1] * positions[i + 1]! + normal[2] * positions[i + 2]! - offset),
    );
  return { acrossMm: 2 * Math.sqrt(open.areaMm2 / Math.PI), deepMm };
}

/** Proposes where to cut an opened model, so that every part fits the shop. */
export async function proposeCuts(
  { body }: Opened,
  { wallMm, alloyId, fits, wasmUrl }: Omit<CutQuestion, 'planes' | 'wallsMm'>,
  watch?: Watch,
): Promise<Plane[]> {
  const alloy = alloyOf(alloyId);
  return suggestCuts(
    body,
    await loadKernel(wasmUrl),
    ({ sizeMm, skinMm2 }) => {
      const waxKg = Math.max(1e-6, (skinMm2 / MM2) * (wallMm / 10) * PATTERN_WAX_DENSITY * 1e-3);
      const part = { waxKg, sizeMm, areaCm2: skinMm2 / MM2, opening: null, isHollow: false };
      return excessOf(judgePart(part, alloy, fits));
    },
    watch,
  );
}

/** How thick the metal is all over once it is cast at a wall, and where that is too little or too much. */
export interface ThicknessReport {
  readonly mesh: ShownMesh;
  /** Behind each vertex: of the body, and of the metal, mm; 0 where none was measured. */
  readonly bodyMm: Float32Array;
  readonly metalMm: Float32Array;
  /** Thinner than this runs short, thicker than that draws, mm. */
  readonly thinMm: number;
  readonly thickMm: number;
  readonly thin: readonly MetalPlace[];
  readonly thick: readonly MetalPlace[];
  readonly windows: readonly WindowPlace[];
}

/** Metal thinner than this share of the wall is thin; thicker than that is a thick spot, which freezes last. */
const THIN_SHARE = 0.7;
const THICK_SHARE = 1.5;

export function mapThickness(
  { body }: Opened,
  {
    wallMm,
    openings,
    acrossMm,
  }: {
    readonly wallMm: number;
    readonly openings: readonly (readonly [number, number, number])[];
    readonly acrossMm: number;
  },
  watch?: Watch,
): ThicknessReport {
  const field = new SolidField(body);
  const bodyMm = thicknessPerVertex(field, share(watch, 0, 0.85));
  const metalMm = metalThickness(bodyMm, wallMm);
  const surface = {
    positions: body.positions,
    triangles: body.triangles.slice(0, 3 * body.capsFrom),
    originMm: body.originMm,
  };
  const [thinMm, thickMm] = [THIN_SHARE * wallMm, THICK_SHARE * wallMm];
  return {
    mesh: shown(surface, body.originMm),
    bodyMm,
    metalMm,
    thinMm,
    thickMm,
    thin: metalPlaces(surface, metalMm, (mm) => mm < thinMm, Math.min, wallMm),
    thick: metalPlaces(surface, metalMm, (mm) => mm > thickMm, Math.max, wallMm),
    windows: proposeWindows(field, { wallMm, openings, acrossMm }, share(watch, 0.85, 1)),
  };
}

/** Ways up that differ, with what air each traps, the best first. */
export const compareWays = ({ body }: Opened, prominence: number, watch?: Watch): Traps[] =>
  waysUp(new Pourable(body), prominence, watch);
