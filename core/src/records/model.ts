import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';
import type { FileContent } from './files.ts';

/** Where a section's wax is known from before there is a wax. */
export const ESTIMATE_KINDS = ['model', 'displacement', 'size', 'similar'] as const;
export type EstimateKind = (typeof ESTIMATE_KINDS)[number];

export const ESTIMATE_NAMES: Readonly<Record<EstimateKind, string>> = {
  model: 'from the model',
  displacement: 'by water displacement',
  size: 'from its size',
  similar: 'like another work',
};

/** The volume of wax within a wall. */
export interface CurvePoint {
  readonly wallMm: number;
  readonly volumeCm3: number;
  readonly plusMinusCm3: number;
}

/** One way of knowing what a section's wax will weigh; none is erased when a better one comes. */
export interface SectionEstimate {
  readonly id: Id;
  readonly kind: EstimateKind;
  /** The wax at the section's wall, kg, where there is no curve; then it follows the wall. */
  readonly waxKg: number | null;
  readonly plusMinusKg: number | null;
  /** From a model: the wax's volume for walls that grow. */
  readonly curve: readonly CurvePoint[] | null;
  readonly areaCm2: number | null;
  /** How it came about. */
  readonly says: Text;
  readonly at: Instant;
  readonly modelId: Id | null;
  /** Why it does not count any more. */
  readonly voidReason: string | null;
}

/** A place on a model, mm along the file's axes at the size of the wax, with what it is for. */
export interface ModelPlace {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly words: string;
}

/** Which way up a section is poured, and where its metal comes in and its air goes out. */
export interface WayUp {
  readonly up: readonly [number, number, number];
  /** Height of the metal, mm. */
  readonly heightMm: number;
  readonly vents: readonly ModelPlace[];
  readonly gates: readonly ModelPlace[];
}

/** A plane that a model is cut by: a point p lies on it where normal·p = offset, in mm along the file's axes. */
export interface CutPlane {
  readonly normal: readonly [number, number, number];
  readonly offsetMm: number;
}

/** What a person says about a model's size. */
export interface ModelSizing {
  /** The unit of its coordinates. */
  readonly unit: 'micron' | 'mm' | 'cm' | 'm' | 'in' | 'ft';
  /** Wanted of the bronze along an axis of the file, mm; null where the model is the original as it is. */
  readonly bronzeMm: number | null;
  readonly axis: 'x' | 'y' | 'z';
  /** Code of the mould's rubber. */
  readonly rubber: string;
}

/** What was measured of a model at the size of the wax, kept as the page shows it. */
export interface ModelMeasured {
  readonly format: string;
  readonly triangles: number;
  readonly watertight: boolean;
  /** Volume of the solid; none where nothing is enclosed. */
  readonly volumeCm3: number | null;
  readonly volumePlusMinusCm3: number;
  readonly areaCm2: number;
  /** Along the file's axes. */
  readonly sizeMm: readonly [number, number, number];
  readonly up: 'y' | 'z';
  /** The file's coordinates, in its unit, are multiplied by this to give the wax. */
  readonly toWax: number;
  readonly curve: readonly CurvePoint[];
  /** Thickest metal, mm. */
  readonly thickestMm: number | null;
  readonly warnings: readonly string[];
}

/** A model of a work, or of one section of it. */
export interface WorkModel {
  readonly id: Id;
  readonly workId: Id;
  readonly sectionId: Id | null;
  readonly contentId: Id;
  readonly name: string;
  readonly sizing: ModelSizing;
  readonly measured: ModelMeasured;
  /** Planes that were tried, with the sections' names in the order of their size. */
  readonly planes: readonly CutPlane[];
  readonly cutNames: readonly string[];
  readonly wayUp: WayUp | null;
  readonly at: Instant;
  readonly byId: Id | null;
  /** Why it does not count any more: another took its place. */
  readonly voidReason: string | null;
  readonly version: number;
}

export interface SaveModel {
  readonly id: Id;
  readonly version: number;
  readonly workId: Id;
  readonly sectionId: Id | null;
  readonly contentId: Id;
  readonly name: string;
  readonly sizing: ModelSizing;
  readonly measured: ModelMeasured;
  readonly planes: readonly CutPlane[];
  readonly cutNames: readonly string[];
  readonly wayUp: WayUp | null;
}

/** Adds a way of knowing a section's wax, or puts one away. */
export interface EstimateSection {
  readonly version: number;
  readonly add: Omit<SectionEstimate, 'at' | 'voidReason'> | null;
  readonly putAway: { readonly id: Id; readonly reason: string } | null;
}

/** Which way up a section is poured, as it was worked out on its model. */
export interface SaveWayUp {
  readonly version: number;
  readonly wayUp: WayUp | null;
}

/** The silhouette of a work on the Floor. */
export interface SaveSilhouette {
  readonly version: number;
  readonly glyph: string;
}

export interface ModelView extends WorkModel {
  readonly content: FileContent;
  readonly by: string | null;
}

/** A model that the server measures, where a browser has no memory for it. */
export interface ModelJob {
  readonly id: Id;
  readonly contentId: Id;
  readonly name: string;
  readonly question: { readonly unit: ModelSizing['unit']; readonly scale: number };
  readonly state: 'waiting' | 'running' | 'done' | 'failed' | 'stopped';
  readonly share: number;
  readonly what: string;
  readonly error: string | null;
  readonly answer: ModelJobAnswer | null;
}

export interface ModelJobAnswer {
  readonly measured: ModelMeasured;
  /** From the front, the left, the back and above, as addresses of data. */
  readonly pictures: readonly string[];
}

export interface AskModelJob {
  readonly id: Id;
  readonly contentId: Id;
  readonly name: string;
  readonly question: ModelJob['question'];
}

/** What of the shop a section must fit: lengths in mm, weights in kg. */
export interface ShopFits {
  readonly crucibleUsableKg: number;
  readonly pigReserveKg: number;
  readonly liftLimitKg: number;
  readonly tankAcrossMm: number;
  readonly tankDeepMm: number;
  readonly kilnAcrossMm: number;
  readonly kilnHighMm: number;
  readonly mouldLongMm: number;
}

/** Everything the model's page works with. */
export interface ModelsAnswer {
  readonly change: number;
  readonly work: {
    readonly id: Id;
    readonly title: string;
    readonly alloyId: string;
    readonly method: string;
    readonly glyph: string;
    readonly version: number;
    /** Nothing of it is begun: its sections may come from a cut. */
    readonly mayBeCut: boolean;
  };
  readonly sections: readonly {
    readonly id: Id;
    readonly letter: string;
    readonly name: string;
    readonly wallMm: number;
    readonly metalHeightMm: number | null;
    readonly areaCm2: number | null;
    readonly expectedWaxKg: number | null;
    readonly estimates: readonly SectionEstimate[];
    readonly wayUp: WayUp | null;
    /** The waxes that were weighed, kg, the newest last. */
    readonly waxes: readonly { readonly label: string; readonly kg: number; readonly at: Instant }[];
    readonly version: number;
  }[];
  readonly models: readonly ModelView[];
  /** Other works, with what one of their sections' waxes weigh: for `similar`. */
  readonly similar: readonly { readonly title: string; readonly waxKg: number }[];
}
