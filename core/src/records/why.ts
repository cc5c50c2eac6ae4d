import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id, Room } from './common.ts';
import type { DraftChange } from './draft.ts';

/** What a step waits for before it can begin: nothing, hands, a machine, a mould, time that must pass, hours … */
export const HOLDS = [
  'free',
  'hands',
  'kiln',
  'furnace',
  'mould',
  'wait',
  'approval',
  'pour day',
  'hours',
  'mates',
  'follower',
  'fixed',
] as const;

export type HoldKind = (typeof HOLDS)[number];

/** A step of the chain that holds a piece's day, with what it waited for. */
export interface WhyLink {
  readonly stepId: Id | null;
  /** `Chase metal · OTT 3/8 Body`. */
  readonly what: string;
  readonly room: Room | null;
  /** A step of the piece itself, of its sections or their trees; else of others, on which its own waits. */
  readonly own: boolean;
  /** When what holds it let it wait from; its start where it waits for nothing. */
  readonly waitsFrom: Instant;
  readonly startsAt: Instant;
  readonly endsAt: Instant;
  readonly hold: HoldKind;
  /** The wait in a sentence; empty where there is none. */
  readonly words: Text;
}

/** Something that the shop could do, and what it gains; the same change tried as a draft gives the same. */
export interface WhyRelief {
  readonly change: DraftChange;
  readonly words: Text;
  readonly finishesAt: Instant;
  readonly soonerMinutes: number;
  /** Pieces late with it, beside those without it. */
  readonly lateAfter: number;
}

/** Why a piece is out when it is. */
export interface WhyAnswer {
  readonly basis: number;
  readonly pieceId: Id;
  readonly label: string;
  readonly finishesAt: Instant | null;
  readonly dueDate: Day | null;
  readonly lateDays: number;
  readonly lateBefore: number;
  /** The first step first. */
  readonly links: readonly WhyLink[];
  readonly reliefs: readonly WhyRelief[];
}
