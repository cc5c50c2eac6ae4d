import type { Day } from '../units/instant.ts';
import type { Override } from './answers.ts';
import type { Id } from './common.ts';
import type { ApprovalRule, Finishing, Method } from './work.ts';

/** A section's figures as they are entered. */
export interface SectionGiven {
  readonly name: string;
  readonly wallMm: number;
  readonly metalHeightMm: number | null;
  readonly expectedWaxKg: number | null;
  readonly areaCm2: number | null;
  readonly seamM: number | null;
  readonly deep: boolean;
  /** What was typed in other units, by field. */
  readonly typed?: Readonly<Record<string, string>> | undefined;
}

/** What somebody fills in to set up a work. */
export interface SetUpWork {
  readonly id: Id;
  readonly code: string;
  readonly title: string;
  readonly artist: string;
  readonly editionSize: number;
  readonly artistProofs: number;
  readonly alloyId: string;
  readonly method: Method;
  readonly approval: ApprovalRule;
  readonly finish: string;
  readonly glyph: string;
  readonly dueDate: Day | null;
  readonly finishing: Finishing;
  readonly sections: readonly SectionGiven[];
  /** Moulds by name, each with the places (from 1) of the sections it makes; none for a direct wax. */
  readonly moulds: readonly {
    readonly name: string;
    readonly sections: readonly number[];
    readonly pullsBefore: number;
  }[];
  /** Unlikely figures that are so. */
  readonly override?: readonly Override[];
}

/** A work set up anew while nothing of it is begun. */
export interface SetUpAnew extends SetUpWork {
  readonly version: number;
}

/** What of a section can be changed after it was set up. */
export interface ChangeSection extends SectionGiven {
  readonly version: number;
}

export interface ChangeWork {
  readonly version: number;
  readonly title: string;
  readonly artist: string;
  readonly finish: string;
  readonly approval: ApprovalRule;
}

/** What a change would do, before it is made: steps that come and go, in words. */
export interface Consequences {
  readonly lines: readonly string[];
}
