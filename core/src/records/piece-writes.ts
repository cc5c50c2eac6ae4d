import type { Day, Instant } from '../units/instant.ts';
import type { Room } from './common.ts';
import type { HoldShells, Priority } from './work.ts';

export interface Versioned {
  readonly version: number;
}

export interface WithReason extends Versioned {
  readonly reason: string;
}

export interface HoldPiece extends WithReason {
  readonly until: Day | null;
  /** What happens to its shells half dipped; stopped where nobody says. */
  readonly shells?: HoldShells | undefined;
}

export interface ChangePiece extends Versioned {
  readonly dueDate: Day | null;
  /** Left out, it stays. */
  readonly priority?: Priority | undefined;
}

export interface LoseCast extends Versioned {
  readonly room: Room;
  readonly why: string;
  readonly at: Instant;
}
