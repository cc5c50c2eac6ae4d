import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id, Room } from './common.ts';

/** Whose calendar: `pour days`, `room:shell`, `person:` and an id. */
export type FeedSubject = string;

/** An address at which a calendar of the plan is read without signing in, by whoever knows it. */
export interface Feed {
  readonly id: Id;
  readonly subject: FeedSubject;
  readonly secret: string;
  readonly madeAt: Instant;
  readonly version: number;
}

/** A calendar that somebody can have, and its address where it has one. */
export interface FeedLine {
  readonly subject: FeedSubject;
  readonly name: string;
  readonly room: Room | null;
  /** From the root of the server on; null until it is made. */
  readonly path: string | null;
  readonly madeAt: Instant | null;
  /** Whether who asks may make it and renew it. */
  readonly own: boolean;
}

/** Guests in the foundry. */
export interface Visit {
  readonly id: Id;
  readonly day: Day;
  /** `14:00`, the shop's clock. */
  readonly from: string;
  readonly to: string;
  readonly who: string;
  readonly note: string;
  readonly version: number;
}

/** A visit as it is entered; `gone` takes it away. */
export interface SaveVisit extends Visit {
  readonly gone: boolean;
}

/** A visit that is still to come, and what is to be said to it: that it is on a pour day. */
export interface VisitLine extends Visit {
  readonly caution: Text | null;
}

export interface FeedsAnswer {
  readonly feeds: readonly FeedLine[];
  readonly visits: readonly VisitLine[];
}
