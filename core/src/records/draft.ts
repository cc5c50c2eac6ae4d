import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';
import type { Likely, Resource } from './plan.ts';
import type { HoldShells, Priority } from './work.ts';
import type { SetUpWork } from './work-writes.ts';

/** One thing that a shop could do, or that could happen to it. */
export type DraftChange =
  /** Hours open for a day more, as on their first day of a week: an extra pour day. */
  | { readonly kind: 'open day'; readonly calendarId: Id; readonly date: Day }
  /** A day on which hours stay shut: a pour that is cancelled, a day off for a room. */
  | { readonly kind: 'closed day'; readonly calendarId: Id; readonly date: Day }
  /** So many people, kilns or crucibles from now on. */
  | { readonly kind: 'count'; readonly resourceId: Id; readonly count: number }
  /** Hands more or fewer from one day to another, both included. */
  | {
      readonly kind: 'hands';
      readonly resourceId: Id;
      readonly more: number;
      readonly from: Day;
      readonly to: Day;
      readonly why: string;
    }
  /** A further mould like one that is there. */
  | { readonly kind: 'mould'; readonly mouldId: Id }
  | { readonly kind: 'due'; readonly pieceId: Id; readonly dueDate: Day | null }
  /** It goes before others, or after them, where two want the same. */
  | { readonly kind: 'priority'; readonly pieceId: Id; readonly priority: Priority }
  | { readonly kind: 'hold'; readonly pieceId: Id; readonly until: Day | null; readonly shells: HoldShells }
  /** A cast is lost, as far as it has come. It can be tried and not taken: a loss is recorded where it happens. */
  | { readonly kind: 'lost cast'; readonly castId: Id }
  /** Somebody asks for pieces: a work that is not set up yet, wanted by its due date. */
  | { readonly kind: 'enquiry'; readonly work: SetUpWork };

export type DraftKind = DraftChange['kind'];

export const DRAFT_STATES = ['open', 'taken', 'dropped'] as const;

export type DraftState = (typeof DRAFT_STATES)[number];

/** A plan that is thought of and not in use: changes by a name. */
export interface Draft {
  readonly id: Id;
  readonly name: string;
  readonly changes: readonly DraftChange[];
  readonly state: DraftState;
  readonly personId: Id | null;
  readonly madeAt: Instant;
  readonly version: number;
}

export interface SaveDraft {
  readonly id: Id;
  /** 0 for a new one. */
  readonly version: number;
  readonly name: string;
  readonly changes: readonly DraftChange[];
}

/** Takes a draft over: what it changes is changed, all or nothing. */
export interface TakeDraft {
  readonly version: number;
  /** The change its dates were worked out after: where the shop has moved on since, it is looked at again first. */
  readonly basis: number;
  /** Who orders what the draft's enquiries are for, and for when; absent where they are only set up. */
  readonly order?:
    { readonly id: Id; readonly clientId: Id; readonly title: string; readonly dueDate: Day } | undefined;
}

/** A piece whose dates a draft moves, or that there is only in it. */
export interface DraftPiece {
  readonly pieceId: Id;
  readonly label: string;
  readonly isNew: boolean;
  readonly dueDate: Day | null;
  readonly before: Instant | null;
  readonly after: Instant | null;
  readonly lateBefore: number;
  readonly lateAfter: number;
  /** For what is new: a promise wants more than the plan's day. */
  readonly likely: Likely | null;
}

/** What a draft does to the dates, against the plan in use planned the same way. */
export interface DraftOutcome {
  /** The change of the records that it was worked out after. */
  readonly basis: number;
  readonly feasible: boolean;
  /** Changes that cannot be made, by their place. */
  readonly faults: readonly { readonly place: number; readonly text: Text }[];
  /** What is new first, then by what it costs. */
  readonly pieces: readonly DraftPiece[];
  /** Pieces in work whose day stays. */
  readonly unmoved: number;
  readonly lateBefore: number;
  readonly lateAfter: number;
  /** What the plan cannot keep with it and can without. */
  readonly notes: readonly Text[];
}

/** A draft on its page. */
export interface DraftView extends Draft {
  readonly person: string | null;
  /** Its changes in words, in their order. */
  readonly words: readonly Text[];
}

/** What a change can be about. */
export interface DraftChoices {
  readonly hours: readonly { readonly id: Id; readonly name: string; readonly isPour: boolean }[];
  readonly resources: readonly Pick<Resource, 'id' | 'name' | 'kind' | 'count'>[];
  readonly moulds: readonly { readonly id: Id; readonly label: string }[];
  /** Pieces that are not out. */
  readonly pieces: readonly { readonly id: Id; readonly label: string; readonly dueDate: Day | null }[];
  /** Casts that are begun and not lost. */
  readonly casts: readonly { readonly id: Id; readonly label: string }[];
  /** Works that an enquiry can be like. */
  readonly works: readonly SetUpWork[];
}

export interface DraftsAnswer {
  readonly change: number;
  readonly choices: DraftChoices;
  readonly drafts: readonly DraftView[];
}
