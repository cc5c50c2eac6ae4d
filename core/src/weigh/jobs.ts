import { DEFAULT_ALLOY_ID, alloyOf } from '../materials/alloys.ts';
import { MeshFault } from '../mesh/fault.ts';
import type { Watch } from '../mesh/fault.ts';
import { measureModel, openModel } from '../mesh/measure.ts';
import type { ModelSource, Opened } from '../mesh/measure.ts';
import { bestWayUp } from '../mesh/pour/best-way-up.ts';
import { DEFAULT_PROMINENCE, Pourable, findTraps } from '../mesh/pour/traps.ts';
import type { Direction, Traps } from '../mesh/pour/traps.ts';
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
  /** Measured for its page: sizes, the wax of each wall, and what is shown. */
  look: ModelSource;
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
  look: ModelLook;
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
  async look(source, watch) {
    return lookAtModel(await opened(source, watch), part(watch));
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

/** The model opened last, for questions that follow about the same one. */
let kept: { key: string; opened: Opened } | undefined;

/** What is said where a model is asked about that this worker does not hold any more. */
export const NOT_KEPT = 'the model is not here any more; send it again';

/** Opens a model; one that was kept under the same name, unit and scale is not read again, and need not be sent again. */
async function opened(source: ModelSource, watch?: Watch): Promise<Opened> {
  const { keep, unit, scale, heightMm } = source;
  const key = keep === undefined ? undefined : JSON.stringify([keep, unit, scale, heightMm]);
  if (key !== undefined && kept?.key === key) return kept.opened;
  if (keep !== undefined && source.bytes.length === 0) throw new MeshFault(NOT_KEPT);
  kept = undefined;
  const found = await openModel(source, {
    onProgress: (done, what) => watch?.onProgress?.(done * OPENING, what),
    cancelled: () => watch?.cancelled?.() ?? false,
  });
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
