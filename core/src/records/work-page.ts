import type { Figure } from '../units/figure.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { Id } from './common.ts';
import type { HistoryLine } from './history.ts';
import type { MouldState } from './mould.ts';
import type { Likely, PlanStand } from './plan.ts';
import type { NextStep } from './route.ts';
import type { SetUpWork } from './work-writes.ts';
import type { ApprovalRule, Method, PieceState } from './work.ts';

/** A work as its page shows it. */
export interface WorkAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly plan: PlanStand;
  readonly work: {
    readonly id: Id;
    readonly code: string;
    readonly title: string;
    readonly artist: string;
    readonly alloyId: string;
    readonly method: Method;
    readonly approval: ApprovalRule;
    readonly finish: string;
    readonly glyph: string;
    readonly editionSize: number;
    readonly artistProofs: number;
    readonly version: number;
  };
  readonly sections: readonly {
    readonly id: Id;
    readonly name: string;
    readonly letter: string;
    readonly wallMm: number;
    readonly typed: Readonly<Record<string, string>>;
    readonly metalHeightMm: number | null;
    readonly expectedWaxKg: number | null;
    readonly areaCm2: number | null;
    readonly seamM: number | null;
    readonly deep: boolean;
    readonly plannedWax: Figure | null;
    readonly plannedCast: Figure | null;
    readonly coats: number | null;
    /** Every wax weighed of this section, the newest last. */
    readonly waxes: readonly { readonly label: string; readonly kg: number; readonly at: Instant }[];
    readonly casts: readonly { readonly label: string; readonly kg: number; readonly at: Instant }[];
    readonly attempts: number;
    readonly lost: number;
    readonly version: number;
  }[];
  readonly moulds: readonly {
    readonly id: Id;
    readonly label: string;
    readonly sections: readonly string[];
    readonly state: MouldState;
    readonly lifePulls: number | null;
    readonly used: number;
    readonly owed: number;
    readonly left: number | null;
    readonly inUse: boolean;
    readonly version: number;
  }[];
  readonly pieces: readonly {
    readonly id: Id;
    readonly mark: string;
    readonly state: PieceState;
    readonly room: string;
    readonly dueDate: Day | null;
    readonly plannedFinish: Instant | null;
    readonly likely: Likely | null;
    readonly lateDays: number;
    readonly deliveredAt: Instant | null;
  }[];
  readonly route: readonly {
    readonly name: string;
    readonly room: string;
    readonly minutes: number;
    /** Somebody's hands are on it; a kiln's hours are not. */
    readonly byHand: boolean;
    readonly wait: string;
  }[];
  readonly waxBand: number;
  /** As it was filled in, while nothing of it is begun: it can be set up anew, or taken away. */
  readonly setUp: SetUpWork | null;
  /** What comes first of its first piece, while nothing is begun. */
  readonly next: readonly NextStep[];
  readonly history: readonly HistoryLine[];
}
