import { DEFAULT_ALLOY_ID, alloyOf } from '../materials/alloys.ts';
import { MeshFault } from '../mesh/fault.ts';
import type { Watch } from '../mesh/fault.ts';
import { SolidField } from '../mesh/field/solid-field.ts';
import { thicknessPerVertex } from '../mesh/field/thickness.ts';
import { measureModel, openModel } from '../mesh/measure.ts';
import type { ModelSource } from '../mesh/measure.ts';
import { bestWayUp } from '../mesh/pour/best-way-up.ts';
import { DEFAULT_PROMINENCE, Pourable, findTraps } from '../mesh/pour/traps.ts';
import type { Direction } from '../mesh/pour/traps.ts';
import { cutSections } from '../mesh/solid/cut.ts';
import type { CutSection } from '../mesh/solid/cut.ts';
import { loadKernel } from '../mesh/solid/kernel.ts';
import type { Plane } from '../mesh/solid/kernel.ts';
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
  cut: ModelSource & { readonly planes: readonly Plane[] };
  thicknessMap: ModelSource;
}

export interface ModelAnswers {
  measure: ModelReport;
  traps: TrapsReport;
  cut: readonly CutSection[];
  /** The repaired mesh in mm about `originMm`, and the thickness behind each vertex in mm. */
  thicknessMap: {
    readonly positions: Float64Array;
    readonly triangles: Uint32Array;
    readonly originMm: readonly [number, number, number];
    readonly thicknessMm: Float32Array;
  };
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
  async cut({ planes, ...source }, watch) {
    const { body } = await openModel(source, watch);
    return cutSections(body, planes, await loadKernel(source.wasmUrl));
  },
  async thicknessMap(source, watch) {
    const { body } = await openModel(source, watch);
    const { positions, triangles, capsFrom, originMm } = body;
    const thicknessMm = thicknessPerVertex(new SolidField(body), watch);
    return { positions, triangles: triangles.slice(0, 3 * capsFrom), originMm, thicknessMm };
  },
};

function known(alloyId: string) {
  try {
    return alloyOf(alloyId);
  } catch (error) {
    throw new MeshFault((error as Error).message);
  }
}
