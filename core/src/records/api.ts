// What the server answers and what it is asked: one description for both sides.
import type { Figure } from '../units/figure.ts';
import type { Day, Instant } from '../units/instant.ts';
import type { Carrier, Id, Person, Room, ShopSettings } from './common.ts';
import type { PlanStand } from './api-plan.ts';
import type { OpenItemView } from './api-rooms.ts';
import type { PinKind } from './planning.ts';
import type { StepKindCode } from './step-kinds.ts';
import type { StepState } from './step.ts';
import type { CrewPlace, FiringState, LoadPurpose, PouringOutcome, Signs } from './tree.ts';
import type { ApprovalRule, Method, PieceState, Series } from './work.ts';

/** A rule passed on purpose, and why. */
export interface Override {
  readonly rule: string;
  readonly reason: string;
}

export type ErrorCode =
  | 'invalid'
  | 'not found'
  | 'stale'
  | 'refused'
  | 'key used'
  | 'unavailable'
  | 'who'
  | 'foreign'
  | 'too large'
  | 'failed';

/** The body of every answer that is not a success. */
export interface ErrorAnswer {
  readonly error: {
    readonly code: ErrorCode;
    readonly message: string;
    /** What is wrong, field by field. */
    readonly fields?: Readonly<Record<string, string>>;
    readonly rule?: string;
    readonly mayOverride?: boolean;
    readonly refusals?: readonly {
      readonly rule: string;
      readonly message: string;
      readonly mayOverride: boolean;
    }[];
    readonly current?: unknown;
    readonly yours?: unknown;
  };
}

/** Who, where and when: asked once when a screen opens. */
export interface ShopAnswer {
  readonly settings: ShopSettings;
  readonly people: readonly Person[];
  readonly now: Instant;
  readonly today: Day;
  readonly change: number;
}

/** The next step of a carrier, as a list or a card shows it. */
export interface NextStep {
  readonly stepId: Id;
  readonly kind: StepKindCode;
  readonly name: string;
  /** What it is done to. */
  readonly on: string;
  readonly carrier: Carrier;
  readonly carrierId: Id;
  readonly room: Room;
  readonly state: StepState;
  readonly waits: readonly string[];
  readonly held: boolean;
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
}

/** Where a section stands, as a ring shows it. */
export interface SectionSpot {
  readonly sectionId: Id;
  readonly name: string;
  readonly castId: Id;
  readonly attempt: number;
  readonly room: Room;
  readonly recast: boolean;
  readonly begun: boolean;
  readonly nextStepId: Id | null;
}

/** What is kept ready for each piece after every write that touches it. */
export interface PieceProjection {
  readonly behind: Room;
  readonly ahead: Room;
  readonly begun: boolean;
  readonly sections: readonly SectionSpot[];
  readonly next: readonly NextStep[];
  readonly since: Instant | null;
  readonly weight: Figure | null;
  readonly decisions: readonly { readonly text: string; readonly urgent: boolean }[];
}

export interface FloorPiece extends PieceProjection {
  readonly id: Id;
  readonly workId: Id;
  readonly series: Series;
  readonly number: number;
  readonly of: number;
  readonly state: PieceState;
  readonly dueDate: Day | null;
  /** Due already, or planned to be out after its due date. */
  readonly late: boolean;
  /** By how many days, by today or by its planned date. */
  readonly lateDays: number;
  /** When its last step is planned to end; null where no plan holds it. */
  readonly plannedFinish: Instant | null;
  readonly holdReason: string | null;
  readonly holdUntil: Day | null;
  readonly orderId: Id | null;
  readonly version: number;
}

export interface FloorWork {
  readonly id: Id;
  readonly code: string;
  readonly title: string;
  readonly artist: string;
  readonly editionSize: number;
  readonly artistProofs: number;
  readonly sectionCount: number;
  readonly alloyId: string;
  readonly method: Method;
  readonly glyph: string;
  readonly plannedKg: Figure | null;
  readonly notBegun: readonly { readonly id: Id; readonly mark: string }[];
  readonly delivered: number;
  readonly nextDue: Day | null;
  readonly pieces: readonly FloorPiece[];
}

/** A tree that is waiting for something, for the strip's lists. */
export interface TreeLine extends NextStep {
  readonly pieceIds: readonly Id[];
  readonly alloyId: string;
  readonly pourKg: number | null;
}

export interface HeatLine {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: FiringState;
  readonly plannedFor: Instant | null;
  readonly usableKg: number;
  readonly metalKg: number;
  readonly trees: readonly {
    readonly treeId: Id;
    readonly label: string;
    readonly plannedKg: number;
    readonly outcome: string | null;
  }[];
}

export interface FloorAnswer {
  readonly change: number;
  readonly now: Instant;
  readonly today: Day;
  readonly plan: PlanStand;
  /** The orders that pieces on the floor stand in, for filtering. */
  readonly orders: readonly {
    readonly id: Id;
    readonly number: number;
    readonly title: string;
    readonly clientId: Id;
    readonly client: string;
  }[];
  readonly works: readonly FloorWork[];
  readonly mouldsInUse: number;
  readonly decisions: readonly {
    readonly text: string;
    readonly urgent: boolean;
    readonly pieceId: Id | null;
  }[];
  /** Trees in the shell room, the soonest ready first. */
  readonly dips: readonly TreeLine[];
  /** Trees in burnout and pour. */
  readonly fire: readonly TreeLine[];
  readonly pour: readonly TreeLine[];
  readonly heats: readonly HeatLine[];
}

/** A step with its people and standing, as the Piece page draws it. */
export interface StepView {
  readonly id: Id;
  readonly kind: StepKindCode;
  readonly name: string;
  readonly on: string;
  readonly room: Room;
  readonly carrier: Carrier;
  readonly carrierId: Id;
  readonly sequence: number;
  readonly state: StepState;
  readonly outcome: string | null;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant | null;
  readonly by: readonly string[];
  readonly readings: Readonly<Record<string, unknown>>;
  readonly note: string;
  readonly flags: readonly string[];
  readonly insertedWhy: string | null;
  readonly through: 'load' | 'heat' | null;
  readonly waits: readonly string[];
  readonly held: boolean;
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
  readonly pinKind: PinKind | null;
  readonly pinAt: Instant | null;
  readonly plannedStart: Instant | null;
  readonly plannedEnd: Instant | null;
  readonly version: number;
}

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
  readonly deviation: { readonly share: number; readonly flagged: boolean; readonly inWords: string } | null;
}

export interface TreeView {
  readonly id: Id;
  readonly number: number;
  readonly casts: readonly string[];
  /** Since when its shell or block is wet; null when it is dry, or has been poured. */
  readonly wetSince: Instant | null;
  readonly pourWeight: Figure | null;
  readonly yield: Figure | null;
  readonly shell: Figure | null;
  readonly dipping: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: string } | null;
  readonly poured: { readonly weight: Figure; readonly tooHeavy: boolean; readonly inWords: string } | null;
}

export interface HistoryLine {
  readonly number: number;
  readonly verb: string;
  readonly text: string;
  readonly room: Room | null;
  readonly at: Instant;
  readonly typedAt: Instant;
  readonly actor: string;
  readonly reason: string | null;
  readonly bad: boolean;
  readonly takenBack: boolean;
  readonly mayTakeBack: boolean;
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
  readonly lanes: readonly LaneView[];
  readonly pieceSteps: readonly StepView[];
  readonly trees: readonly TreeView[];
  /** What must be put back or taken out, closed lines too. */
  readonly openItems: readonly OpenItemView[];
  readonly history: readonly HistoryLine[];
  readonly waxBand: number;
}

/** A tree that could go into the same load or heat. */
export interface Companion {
  readonly stepId: Id;
  readonly treeId: Id;
  readonly label: string;
  readonly ready: boolean;
  readonly why: string;
  readonly pourKg: number | null;
  readonly pourWords: string;
  readonly alloyId: string;
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
  readonly lift: readonly string[];
  readonly expectedWaxKg: number | null;
  /** What waxes of the same section weighed before, the newest last. */
  readonly earlierWaxes: readonly { readonly label: string; readonly kg: number }[];
  readonly alloyId: string | null;
  /** The seam that a joining welds, m; null where it is not given. */
  readonly seamM: number | null;
  /** Clean returns of the alloy that are at hand, for the charge. */
  readonly returnsAtHandKg: number;
}

export interface HeatAnswer {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: FiringState;
  readonly plannedFor: Instant | null;
  readonly holdsKg: number;
  readonly usableKg: number;
  readonly leadId: Id | null;
  readonly crew: readonly CrewPlace[] | null;
  readonly signs: Signs | null;
  readonly coverConfirmedById: Id | null;
  readonly pigKg: number | null;
  readonly reason: string | null;
  readonly version: number;
  readonly pourings: readonly {
    readonly id: Id;
    readonly treeId: Id;
    readonly stepId: Id | null;
    readonly label: string;
    readonly order: number;
    readonly plannedKg: number;
    readonly pouredKg: number | null;
    readonly outcome: PouringOutcome | null;
  }[];
  readonly chargeLines: readonly {
    readonly what: string;
    readonly alloyId: string | null;
    readonly kg: number;
    readonly lot: string;
    readonly dry: boolean;
  }[];
  readonly charge: Figure;
  readonly freeKg: number;
  readonly returnsKg: number;
  readonly ingotKg: number;
  readonly warnings: readonly string[];
}

export interface LoadAnswer {
  readonly id: Id;
  readonly number: number;
  readonly purpose: LoadPurpose;
  readonly state: FiringState;
  readonly trees: readonly { readonly treeId: Id; readonly label: string; readonly outcome: string | null }[];
  readonly version: number;
}

export interface EventAnswer {
  /** The change number, by which a wrong record is taken back. */
  readonly change: number;
  readonly flags?: readonly string[];
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
  readonly sections: readonly {
    readonly name: string;
    readonly wallMm: number;
    readonly metalHeightMm: number | null;
    readonly expectedWaxKg: number | null;
    readonly areaCm2: number | null;
    readonly seamM: number | null;
    readonly deep: boolean;
  }[];
  /** Moulds by name, each with the places (from 1) of the sections it makes; none for a direct wax. */
  readonly moulds: readonly {
    readonly name: string;
    readonly sections: readonly number[];
    readonly pullsBefore: number;
  }[];
}

/** What the record panel sends. */
export interface RecordStep {
  readonly version: number;
  readonly outcome: string;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly readings: Readonly<Record<string, unknown>>;
  readonly note: string;
  readonly override?: readonly Override[];
}

export interface ChangeMessage {
  readonly change: number;
  readonly rooms: readonly Room[];
  readonly pieces: readonly Id[];
}
