import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id, Room } from './common.ts';
import type { ResourceKind } from './plan.ts';
import type { PinKind, StepKindCode } from './step.ts';

/** A step, or a load with all its steps, on the hands or the fire that it is planned on. */
export interface LaneBar {
  readonly name: string;
  readonly steps: readonly {
    readonly id: Id;
    readonly version: number;
    readonly pinKind: PinKind | null;
    readonly pinAt: Instant | null;
  }[];
  readonly kind: StepKindCode;
  /** What is done, and to what. */
  readonly what: string;
  readonly on: string;
  readonly pieceIds: readonly Id[];
  /** When it is worked on: once, or in turns where it is laid down for a pour and taken up again. */
  readonly spells: readonly (readonly [from: Instant, to: Instant])[];
  readonly isRunning: boolean;
  /** It is part of a heat or load that somebody has set up: its hour is set there. */
  readonly isSet: boolean;
  /** How full a load or heat is, 0 … 1; null for work of hands. */
  readonly full: number | null;
}

/** The hands of a room, the kilns or the furnaces, with what is planned on them. */
export interface Lane {
  readonly resourceId: Id;
  readonly name: string;
  readonly kind: ResourceKind;
  readonly room: Room;
  readonly count: number;
  /** When there is somebody at work, or it may be lit; null for always. */
  readonly open: readonly (readonly [from: Instant, to: Instant])[] | null;
  readonly bars: readonly LaneBar[];
}

/** What is planned on everybody's hands and on every fire, from a day to another. */
export interface LanesAnswer {
  readonly change: number;
  readonly from: Day;
  readonly to: Day;
  readonly lanes: readonly Lane[];
}

/** How far planned work can be moved, as the plan stands. */
export interface Reach {
  /** What it cannot begin before, and why; null where nothing holds it. */
  readonly notBefore: { readonly at: Instant; readonly because: Text } | null;
  /** By when it must end, or what follows is put off. */
  readonly endBy: { readonly at: Instant; readonly before: Text } | null;
  /** When it is too late after what was done before it. */
  readonly tooOldAt: { readonly at: Instant; readonly because: Text } | null;
}

/** Steps of the plan moved together, each with the pin that it gets; null takes one off. */
export interface MoveSteps {
  readonly steps: readonly {
    readonly id: Id;
    readonly version: number;
    readonly kind: PinKind | null;
    readonly at: Instant | null;
  }[];
}
