import type { Units } from '../units/system.ts';
import type { Id, Room } from './common.ts';
import type { Gate, Role } from './rights.ts';

/** Somebody who works here. */
export interface Person {
  readonly id: Id;
  readonly name: string;
  readonly shortName: string;
  /** What they are; nobody at all may do nothing. */
  readonly roles: readonly Role[];
  /** Where a lead or a hand works; none for everywhere. */
  readonly rooms: readonly Room[];
  /** Decisions that were given to them by name. */
  readonly gates: readonly Gate[];
  readonly active: boolean;
  /** What they read and type in. */
  readonly units: Units;
  readonly version: number;
}
