import type { Figure } from '../units/figure.ts';
import type { Text } from '../units/words.ts';
import type { FiringState } from './burnout.ts';
import type { Id } from './common.ts';
import type { Expectation } from './expectation.ts';
import type { HeatAnswer } from './pour-page.ts';
import type { StepView } from './route.ts';
import type { TakenFigure } from './settings.ts';

/** A tree that could go into the same load or heat. */
export interface Companion {
  readonly stepId: Id;
  readonly treeId: Id;
  readonly label: string;
  readonly ready: boolean;
  readonly why: string;
  /** Its pour weight, worked out; null where a wax has no weight. */
  readonly pour: Figure | null;
  readonly alloyId: string;
}

/** A value that nobody has read off: planned, usual, or said last. It stands lightly in its field until somebody takes it over. */
export interface Ghost {
  readonly value: number | string;
  /** `last, Tue 24 Nov`, `planned`. */
  readonly from: Text;
}

/** How long a step is planned to take, in minutes of hands. */
export interface Effort {
  readonly planned: number;
  /** By the size of the work. */
  readonly bySize: number;
  /** By how much the shop takes longer or shorter than that, from so many logged hours; null where none are. */
  readonly learned: { readonly factor: number; readonly n: number } | null;
  /** The shop has set a figure of its own, whatever the size. */
  readonly isOwn: boolean;
}

/** One of a tray: what is its own. */
export interface TrayLine {
  readonly stepId: Id;
  readonly version: number;
  readonly name: string;
  readonly on: string;
  /** Readings as its own plan has them: slurry and stucco of this coat. Lines with the same are one group. */
  readonly own: Readonly<Record<string, unknown>>;
  readonly expects: readonly Expectation[];
  readonly moulds: StepForm['moulds'];
  readonly expectedWaxKg: number | null;
}

/** What recording several steps of one kind at once needs: the form of the first, and what differs. */
export interface TrayForm {
  readonly form: StepForm;
  readonly lines: readonly TrayLine[];
}

/** What the record panel needs for one step beside its definition. */
export interface StepForm {
  readonly step: StepView;
  readonly moulds: readonly {
    readonly id: Id;
    readonly label: string;
    readonly used: number;
    readonly left: number | null;
    readonly good: boolean;
  }[];
  readonly casts: readonly {
    readonly id: Id;
    readonly label: string;
    readonly waxKg: number | null;
    readonly onTree: boolean;
  }[];
  /** Trees for the kiln or the crucible, this one first. */
  readonly companions: readonly Companion[];
  readonly heats: readonly HeatAnswer[];
  readonly loads: readonly { readonly id: Id; readonly number: number; readonly state: FiringState }[];
  readonly lift: readonly Text[];
  /** What the form starts with, beside what was said at the begin. */
  readonly starts: Readonly<Record<string, unknown>>;
  /** What is offered in a field and not read off: by the reading's key. */
  readonly ghosts: Readonly<Record<string, Ghost>>;
  /** What its readings are likely to be. */
  readonly expects: readonly Expectation[];
  /** How the model says that what is joined here is to be poured; none where nobody worked it out. */
  readonly waysUp?: readonly {
    readonly workId: Id;
    readonly name: string;
    readonly heightMm: number;
    /** What each vent and gate is for, in their numbers' order. */
    readonly vents: readonly string[];
    readonly gates: readonly string[];
  }[];
  readonly expectedWaxKg: number | null;
  /** The density of the wax the cast is made of, g/cm³. */
  readonly waxDensity: number;
  /** The shop's own factor of its alloy and wax, where it has taken one over. */
  readonly ownFactor: TakenFigure | null;
  /** What waxes of the same section weighed before, the newest last. */
  readonly earlierWaxes: readonly { readonly label: string; readonly kg: number }[];
  readonly alloyId: string | null;
  /** The seam that a joining welds, m; null where it is not given. */
  readonly seamM: number | null;
  /** How long it is planned to take, and how that comes about; null where its size says nothing of it. */
  readonly effort: Effort | null;
  /** Clean returns of the alloy that are at hand, for the charge. */
  readonly returnsAtHandKg: number;
  /** Lots of ingot and additions for this alloy that have something left, the oldest first. */
  readonly lots: readonly { readonly mark: string; readonly what: 'ingot' | 'addition'; readonly leftKg: number }[];
  /** Pots in use that this alloy may be melted in. */
  readonly pots: readonly {
    readonly id: Id;
    readonly name: string;
    readonly usableKg: number;
    readonly holdsKg: number;
    readonly heats: number;
    readonly lifeHeats: number;
  }[];
}
