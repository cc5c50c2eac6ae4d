import type { Alloy } from '../materials/alloys.ts';
import type { Measures } from '../mesh/measure.ts';
import type { LengthUnit } from '../mesh/length.ts';
import type { Traps } from '../mesh/pour/traps.ts';
import { usualOriginalScale } from '../mould/original-scale.ts';
import type { Figure } from '../units/figure.ts';
import { castFromWax } from '../wax/bronze-from-wax.ts';
import { metalOfVolume, waxOfVolume } from '../wax/from-volume.ts';

/** What a body of a volume weighs, as numbers and with how they came about. */
export interface Weighed {
  readonly volumeCm3: number;
  /** How far the volume may be off either way. */
  readonly errorCm3: number;
  /** Wax and metal of exactly these dimensions. */
  readonly waxKg: number;
  readonly metalKg: number;
  readonly figures: {
    readonly wax: Figure;
    readonly metal: Figure;
    /** What is cast from a wax of these dimensions: smaller by the metal's contraction. */
    readonly castFromWax: Figure;
  };
}

/** A weighed model: what the command line prints as JSON and the worker answers. Lengths after unit and scale. */
export interface ModelReport {
  readonly file: string;
  readonly format: string;
  readonly unit: LengthUnit;
  readonly scale: number;
  readonly alloy: string;
  /** Counts are of the file's triangles after welding, before anything is repaired. */
  readonly triangles: number;
  readonly vertices: number;
  readonly openEdges: number;
  readonly nonManifoldEdges: number;
  readonly shells: number;
  readonly cavities: number;
  readonly watertight: boolean;
  readonly insideOut: boolean;
  readonly insideOutShells: number;
  readonly weldToleranceMm: number;
  /** None where the model encloses nothing. */
  readonly volumeCm3: number | null;
  readonly volumeErrorCm3: number;
  readonly areaCm2: number;
  readonly centroidMm: readonly [number, number, number];
  readonly bboxMm: { readonly min: readonly number[]; readonly max: readonly number[] };
  readonly maxInscribedRadiusMm?: number;
  readonly thicknessMm?: { readonly thinnest: number; readonly typical: number; readonly thickest: number };
  readonly solid?: Weighed;
  readonly hollow: readonly (Weighed & { readonly wallMm: number })[];
  /** By how much the original is to be larger than the bronze, for a common silicone mould and wax. */
  readonly originalScale: Figure;
  readonly warnings: readonly string[];
}

const MM3 = 1000;
const MM2 = 100;

/** Hands a model's volumes to the rooms that know what wax and metal weigh. */
export function reportModel(measures: Measures, alloy: Alloy, file: string): ModelReport {
  const { findings, body, thickness, maxInscribedRadiusMm } = measures;
  const weighed = (volumeMm3: number, errorMm3: number, of: string): Weighed => {
    const volume = { volumeCm3: volumeMm3 / MM3, plusMinusCm3: errorMm3 / MM3, of };
    const [wax, metal] = [waxOfVolume(volume), metalOfVolume(volume, alloy)];
    const figures = { wax, metal, castFromWax: widened(castFromWax(wax.value, alloy), errorMm3 / volumeMm3) };
    return {
      volumeCm3: volume.volumeCm3,
      errorCm3: volume.plusMinusCm3,
      waxKg: wax.value,
      metalKg: metal.value,
      figures,
    };
  };
  return {
    file,
    format: measures.format,
    unit: measures.unit,
    scale: measures.scale,
    alloy: alloy.id,
    triangles: findings.triangles,
    vertices: findings.vertices,
    openEdges: findings.openEdges,
    nonManifoldEdges: findings.nonManifoldEdges,
    shells: findings.shells,
    cavities: findings.cavities,
    watertight: findings.watertight,
    insideOut: findings.insideOutShells > 0,
    insideOutShells: findings.insideOutShells,
    weldToleranceMm: findings.weldToleranceMm,
    volumeCm3: body.volumeMm3 === undefined ? null : body.volumeMm3 / MM3,
    volumeErrorCm3: body.volumePlusMinusMm3 / MM3,
    areaCm2: body.areaMm2 / MM2,
    centroidMm: body.centroidMm,
    bboxMm: findings.boxMm,
    ...(maxInscribedRadiusMm === undefined ? {} : { maxInscribedRadiusMm }),
    ...(thickness
      ? {
          thicknessMm: {
            thinnest: thickness.thinnestMm,
            typical: thickness.typicalMm,
            thickest: thickness.thickestMm,
          },
        }
      : {}),
    ...(body.volumeMm3 === undefined
      ? {}
      : { solid: weighed(body.volumeMm3, body.volumePlusMinusMm3, 'the solid model') }),
    hollow: measures.hollow.map(({ wallMm, volumeMm3, errorMm3 }) => ({
      wallMm,
      ...weighed(volumeMm3, errorMm3, `a wall of ${wallMm} mm`),
    })),
    originalScale: usualOriginalScale(alloy),
    warnings: findings.warnings,
  };
}

/** A figure whose input is itself off by a share: the two spreads do not know of each other. */
const widened = (figure: Figure, share: number): Figure => ({
  ...figure,
  plusMinus: Math.hypot(figure.plusMinus ?? 0, share * figure.value),
});

/** Where air is trapped, as the command line prints it and the worker answers. */
export interface TrapsReport extends Traps {
  readonly file: string;
  readonly unit: LengthUnit;
  readonly prominence: number;
  readonly warnings: readonly string[];
}
