import type { Type } from '@angular/core';
import { InjectionToken } from '@angular/core';
import type { PieceAnswer, ReadingKind, ShopSettings, StepForm, StepKind } from '@kalvet/core';
import type { ReadingEntry } from './reading-control';

type Inputs = Readonly<Record<string, unknown>>;

/** What a panel stands at while a step is recorded. */
export interface Recording {
  readonly kind: StepKind;
  readonly form: StepForm;
  readonly draft: Readonly<Record<string, unknown>>;
  readonly settings: ShopSettings;
  readonly outcome: string;
  /** The outcome ends the cast: it is made anew. */
  readonly loses: boolean;
}

/**
 * What the rooms bring to the route's panels and to the page of a piece. The mechanics know none of them: each is entered
 * in `step-parts.ts`, the one list of the screens.
 */
export interface StepParts {
  /** How each kind of reading is filled in; a kind without its control does not compile. */
  readonly readings: Readonly<Record<ReadingKind, ReadingEntry>>;
  /** Shown under the fields of a step while it is recorded. */
  readonly beside: readonly {
    readonly when: (at: Recording) => boolean;
    readonly component: Type<unknown>;
    readonly inputs: (at: Recording) => Inputs;
  }[];
  /** The panels of what is recorded with a whole load or heat; take `form`, tell `done`, `cancelled` and `reload`. */
  readonly panels: Readonly<Record<'load' | 'heat', Type<unknown>>>;
  /** Sections of the page of a piece; tell `changed`. */
  readonly onPiece: readonly {
    readonly title: string;
    readonly component: Type<unknown>;
    readonly inputs: (answer: PieceAnswer) => Inputs;
  }[];
}

export const STEP_PARTS = new InjectionToken<StepParts>('what the rooms bring to the panels of their steps');
