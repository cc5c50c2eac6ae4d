import { DEFAULT_ALLOY_ID, alloyOf } from '../materials/alloys.ts';
import { MeshFault } from '../mesh/fault.ts';
import type { Watch } from '../mesh/fault.ts';
import { boxOf, sidesOf } from '../mesh/body/box.ts';
import type { LengthUnit } from '../mesh/length.ts';
import { guessUnit } from '../mesh/length.ts';
import { measureModel, openFile, openModel } from '../mesh/measure.ts';
import type { Look, Pixels, View } from '../mesh/picture/render.ts';
import { renderMesh } from '../mesh/picture/render.ts';
import { silhouetteOf } from '../mesh/picture/silhouette.ts';
import type { FileMesh } from '../mesh/read/file.ts';
import { readModel } from '../mesh/read/read.ts';
import { CURVE_WALLS_MM } from '../wax/volume-curve.ts';
import type { ModelSource, Opened } from '../mesh/measure.ts';
import { bestWayUp } from '../mesh/pour/best-way-up.ts';
import { DEFAULT_PROMINENCE, Pourable, findTraps } from '../mesh/pour/traps.ts';
import type { Direction } from '../mesh/direction.ts';
import type { Traps } from '../mesh/pour/traps.ts';
import type { Plane } from '../mesh/solid/kernel.ts';
import { compareWays, cutModel, lookAtModel, mapThickness, proposeCuts } from './model-jobs.ts';
import type { CutQuestion, ModelLook, PartReport, ThicknessReport } from './model-jobs.ts';
import { reportModel } from './report.ts';
import type { ModelReport, TrapsReport } from './report.ts';

/** What can be asked about a model. */
export interface ModelQuestions {
  measure: ModelSource & {
    readonly wallsMm?: readonly number[];
    readonly thickness?: boolean;
    readonly alloyId?: string;
  };
  traps: ModelSource & {
    /** The way up; the format's own where it is not said. */
    readonly up?: Direction;
    readonly prominence?: number;
    /** Looks for the best way up instead. */
    readonly best?: boolean;
  };
  /** How large the file says it is, and in which unit, before anything is measured. */
  ask: ModelSource;
  /** Measured for its page: sizes, the wax of each wall (of the usual ones), and what is shown; without walls only shown. */
  look: ModelSource & { readonly wallsMm?: readonly number[] };
  picture: ModelSource & { readonly view: View; readonly look: Look };
  silhouette: ModelSource & { readonly view: View };
  cut: ModelSource & CutQuestion;
  suggest: ModelSource & Omit<CutQuestion, 'planes' | 'wallsMm'>;
  ways: ModelSource & { readonly prominence?: number };
  thickness: ModelSource & {
    readonly wallMm: number;
    /** Where the hollow is open, mm along the file's axes, and how wide. */
    readonly openings?: readonly (readonly [number, number, number])[];
    readonly acrossMm?: number;
  };
}

export interface ModelAnswers {
  measure: ModelReport;
  traps: TrapsReport;
  ask: {
    readonly format: string;
    /** The file's own; null where it does not say. */
    readonly unit: LengthUnit | null;
    readonly guess: LengthUnit;
    /** In the file's unit. */
    readonly sides: readonly [number, number, number];
    readonly up: 'y' | 'z';
  };
  look: ModelLook;
  picture: Pixels;
  silhouette: string;
  cut: readonly PartReport[];
  suggest: readonly Plane[];
  ways: readonly Traps[];
  thickness: ThicknessReport;
}

export type ModelJobKind = keyof ModelQuestions;

/** Does one job on a model. @throws MeshFault where the file or the question is wrong; Cancelled */
export async function runModelJob<K extends ModelJobKind>(
  kind: K,
  question: ModelQuestions[K],
  watch?: Watch,
): Promise<ModelAnswers[K]> {
  return (await JOBS[kind](question as never, watch)) as ModelAnswers[K];
}

const JOBS: { [K in ModelJobKind]: (question: ModelQuestions[K], watch?: Watch) => Promise<ModelAnswers[K]> } = {
  async measure(question, watch) {
    const alloy = known(question.alloyId ?? DEFAULT_ALLOY_ID);
    return reportModel(await measureModel(question, watch), alloy, question.name);
  },
  async traps({ up, prominence = DEFAULT_PROMINENCE, best, ...source }, watch) {
    const { body, model, findings } = await openModel(source, watch);
    const pourable = new Pourable(body);
    const own: Direction = body.up === 'y' ? [0, 1, 0] : [0, 0, 1];
    const found = best ? bestWayUp(pourable, prominence, watch) : findTraps(pourable, up ?? own, prominence, watch);
    return { file: source.name, unit: model.unit, prominence, ...found, warnings: findings.warnings };
  },
  async ask(source, watch) {
    const { unit = null, up, format, positions } = fileOf(source, watch);
    const sides = sidesOf(boxOf(positions));
    return { format, unit, up, sides, guess: guessUnit(Math.max(...sides)) };
  },
  async look({ wallsMm = CURVE_WALLS_MM, ...source }, watch) {
    wallsMm.forEach((wall) => above('wall', wall));
    return lookAtModel(await opened(source, watch), wallsMm, part(watch));
  },
  async picture({ view, look, ...source }, watch) {
    return renderMesh((await opened(source, watch)).body, view, look);
  },
  async silhouette({ view, ...source }, watch) {
    const size = { width: OUTLINE_PX, height: OUTLINE_PX };
    return silhouetteOf(renderMesh((await opened(source, watch)).body, view, size));
  },
  async cut({ planes, wallMm, wallsMm = [], alloyId, fits, ...source }, watch) {
    known(alloyId);
    wallsMm.forEach((wall) => above('wall', wall));
    const question = { planes, wallMm: above('wall', wallMm), wallsMm, alloyId, fits, wasmUrl: source.wasmUrl };
    return cutModel(await opened(source, watch), question, part(watch));
  },
  async suggest({ wallMm, alloyId, fits, ...source }, watch) {
    known(alloyId);
    const question = { wallMm: above('wall', wallMm), alloyId, fits, wasmUrl: source.wasmUrl };
    return proposeCuts(await opened(source, watch), question, part(watch));
  },
  async ways({ prominence = DEFAULT_PROMINENCE, ...source }, watch) {
    return compareWays(await opened(source, watch), prominence, part(watch));
  },
  async thickness({ wallMm, openings = [], acrossMm = USUAL_OPENING_MM, ...source }, watch) {
    const question = { wallMm: above('wall', wallMm), openings, acrossMm: above('opening', acrossMm) };
    return mapThickness(await opened(source, watch), question, part(watch));
  },
};

/** Fine enough for an outline of thirty-two. */
const OUTLINE_PX = 240;
/** A window that a hand can reach into. */
const USUAL_OPENING_MM = 60;
/** Of a job the reading and mending of the file takes about so much. */
const OPENING = 0.3;

const part = (watch: Watch | undefined): Watch => ({
  onProgress: (done, what) => watch?.onProgress?.(OPENING + done * (1 - OPENING), what),
  cancelled: () => watch?.cancelled?.() ?? false,
});

function above(what: string, value: number): number {
  if (!(Number.isFinite(value) && value > 0)) throw new MeshFault(`the ${what} must be above zero, not ${value}`);
  return value;
}

/** The model opened last, and its file as it was read, for questions that follow about the same one. */
let kept: { key: string; opened: Opened } | undefined;
let keptFile: { key: string; file: FileMesh } | undefined;

/** What is said where a model is asked about that this worker does not hold any more. */
export const NOT_KEPT = 'the model is not here any more; send it again';

/** Opens a model; one that was kept under the same name, unit and scale is not read again, and need not be sent again. */
async function opened(source: ModelSource, watch?: Watch): Promise<Opened> {
  const { keep, unit, scale, heightMm } = source;
  const key = keep === undefined ? undefined : JSON.stringify([keep, unit, scale, heightMm]);
  if (key !== undefined && kept?.key === key) return kept.opened;
  kept = undefined;
  const reading: Watch = {
    onProgress: (done, what) => watch?.onProgress?.(done * OPENING, what),
    cancelled: () => watch?.cancelled?.() ?? false,
  };
  const found = await openFile(fileOf(source, reading), source, reading);
  if (key !== undefined) kept = { key, opened: found };
  return found;
}

function known(alloyId: string) {
  try {
    return alloyOf(alloyId);
  } catch (error) {
    throw new MeshFault((error as Error).message);
  }
}

/** A file as it was read: read once while the questions are about the same one. */
function fileOf(source: ModelSource, watch?: Watch): FileMesh {
  const { keep } = source;
  if (keep !== undefined && keptFile?.key === keep) return keptFile.file;
  if (keep !== undefined && source.bytes.length === 0) throw new MeshFault(NOT_KEPT);
  const file = readModel(source.bytes, source.name, watch);
  if (keep !== undefined) keptFile = { key: keep, file };
  return file;
}
