import type { Body, Examined, Findings } from './body/body.ts';
import { examine } from './body/examine.ts';
import type { Model, Sizing } from './body/model.ts';
import { sizeModel } from './body/model.ts';
import type { Watch } from './fault.ts';
import { step } from './fault.ts';
import type { Hollow } from './field/hollow.ts';
import { hollowVolumes } from './field/hollow.ts';
import { largestInscribed } from './field/inscribed.ts';
import { SolidField } from './field/solid-field.ts';
import type { Thickness } from './field/thickness.ts';
import { measureThickness } from './field/thickness.ts';
import type { FileMesh } from './read/file.ts';
import { readModel } from './read/read.ts';
import { loadKernel } from './solid/kernel.ts';
import { uniteShells } from './solid/unite.ts';

/** A model file and what is said about it. */
export interface ModelSource extends Sizing {
  readonly bytes: Uint8Array;
  /** The file's name: its ending tells the format where the first bytes do not. */
  readonly name: string;
  /** A name under which it is kept for further questions, which need not send its bytes again. */
  readonly keep?: string;
  /** Where the kernel's program lies, for a browser. */
  readonly wasmUrl?: string;
}

export interface Opened extends Examined {
  readonly format: FileMesh['format'];
  readonly model: Model;
}

/** Reads, sizes and examines a model, and unites shells that overlap. @throws MeshFault, Cancelled */
export const openModel = (source: ModelSource, watch?: Watch): Promise<Opened> =>
  openFile(readModel(source.bytes, source.name, share(watch, 0, 0.4)), source, watch);

/** The same for a file that was read already. @throws MeshFault, Cancelled */
export async function openFile(file: FileMesh, source: ModelSource, watch?: Watch): Promise<Opened> {
  const model = sizeModel(file, source.name.replace(/^.*[/\\]/, ''), source);
  let examined = examine(model, share(watch, 0.4, 0.9));
  if (examined.overlapping) {
    step(watch, 0.9, 'uniting shells that overlap');
    examined = uniteShells(examined, await loadKernel(source.wasmUrl));
  }
  return { ...examined, format: file.format, model };
}

/** Everything that is measured of a model. */
export interface Measures {
  readonly format: FileMesh['format'];
  readonly unit: Model['unit'];
  readonly scale: number;
  readonly findings: Findings;
  readonly body: Body;
  readonly hollow: readonly Hollow[];
  /** Told where a wall was asked for. */
  readonly maxInscribedRadiusMm?: number;
  readonly thickness?: Thickness;
}

/** How much of the metal is thicker than a wall is told from a ball that is found within this share. */
const BALL_SHARE = 0.003;

/**
 * Measures a model: what its triangles bound, the metal within each wall, and on request its thickness.
 * @throws MeshFault where the file, its unit or a wall is wrong; Cancelled
 */
export async function measureModel(
  source: ModelSource & { readonly wallsMm?: readonly number[]; readonly thickness?: boolean },
  watch?: Watch,
): Promise<Measures> {
  const wallsMm = source.wallsMm ?? [];
  const asked = wallsMm.length > 0 || source.thickness === true;
  const { format, model, findings, body } = await openModel(source, share(watch, 0, asked ? 0.3 : 1));
  const known = { format, unit: model.unit, scale: model.scale, findings, body };
  if (!asked || body.volumeMm3 === undefined) return { ...known, hollow: [] };
  const volumeMm3 = body.volumeMm3;
  const field = new SolidField(body);
  const { radiusMm } = largestInscribed(field, share(watch, 0.3, 0.4));
  // Where no ball of the wall's radius fits, all of the metal is within the wall.
  const isSolid = (wall: number) => wall > radiusMm * (1 + BALL_SHARE);
  const found = hollowVolumes(
    field,
    wallsMm.filter((wall) => !isSolid(wall)),
    share(watch, 0.4, 0.9),
  );
  const hollow = wallsMm.map(
    (wallMm) =>
      found.find((each) => each.wallMm === wallMm) ?? { wallMm, volumeMm3, errorMm3: body.volumePlusMinusMm3 },
  );
  const thickness = source.thickness ? measureThickness(field, share(watch, 0.9, 1)) : undefined;
  return { ...known, hollow, maxInscribedRadiusMm: radiusMm, ...(thickness ? { thickness } : {}) };
}

/** The part of a computation from one share of the whole to another. */
function share(watch: Watch | undefined, from: number, to: number): Watch | undefined {
  if (!watch) return undefined;
  const { onProgress, cancelled } = watch;
  return {
    ...(onProgress ? { onProgress: (done, what) => onProgress(from + done * (to - from), what) } : {}),
    ...(cancelled ? { cancelled } : {}),
  };
}
