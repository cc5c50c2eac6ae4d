import type { Text } from '../units/words.ts';
import type { Figure } from '../units/figure.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { OpenItemView } from './chasing-page.ts';
import type { Id, Room } from './common.ts';
import type { FloorPiece } from './floor-page.ts';
import type { HistoryLine } from './history.ts';
import type { PlanStand } from './plan.ts';
import type { StepView } from './route.ts';
import type { TreeView } from './sprue-page.ts';
import type { ApprovalRule, Method } from './work.ts';

/** One attempt at a section: its steps from the mould to the join, in order. */
export interface AttemptView {
  readonly castId: Id;
  readonly label: string;
  readonly attempt: number;
  readonly state: string;
  readonly lostRoom: Room | null;
  readonly lostWhy: string | null;
  readonly lostAt: Instant | null;
  readonly version: number;
  readonly tree: {
    readonly id: Id;
    readonly number: number;
    readonly state: string;
    readonly wetSince: Instant | null;
  } | null;
  readonly steps: readonly StepView[];
}

export interface LaneView {
  readonly sectionId: Id;
  readonly name: string;
  readonly letter: string;
  readonly method: Method;
  readonly attempts: readonly AttemptView[];
  readonly plannedWax: Figure | null;
  readonly plannedCast: Figure | null;
  readonly wax: Figure | null;
  readonly castFromWax: Figure | null;
  readonly cast: Figure | null;
  readonly wall: Figure | null;
  readonly wallTargetMm: number;
  readonly deviation: { readonly share: number; readonly flagged: boolean; readonly inWords: Text } | null;
}

export interface PieceAnswer {
  readonly change: number;
  readonly plan: PlanStand;
  readonly piece: FloorPiece & { readonly markInWax: string | null; readonly deliveredAt: Instant | null };
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
    readonly delivered: number;
    readonly of: number;
  };
  /** The order it stands in; whose it is, for those who keep the books. */
  readonly order: {
    readonly id: Id;
    readonly number: number;
    readonly title: string;
    readonly client: string | null;
    readonly dueDate: Day | null;
  } | null;
  readonly lanes: readonly LaneView[];
  readonly pieceSteps: readonly StepView[];
  readonly trees: readonly TreeView[];
  /** What must be put back or taken out, closed lines too. */
  readonly openItems: readonly OpenItemView[];
  readonly history: readonly HistoryLine[];
  readonly waxBand: number;
}
