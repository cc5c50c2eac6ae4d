import type { Units } from '../units/system.ts';
import type { Id, Room } from './common.ts';
import type { Gate, Role } from './rights.ts';

/** What only some can do. */
export const SKILLS = ['weld', 'pour', 'patina'] as const;
export type Skill = (typeof SKILLS)[number];

export const SKILL_NAMES: Readonly<Record<Skill, string>> = {
  weld: 'welds',
  pour: 'pours',
  patina: 'patinates',
};

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
  /** What only some can do; absent where nobody said. */
  readonly skills?: readonly Skill[];
  readonly active: boolean;
  /** What they read and type in. */
  readonly units: Units;
  readonly version: number;
}
