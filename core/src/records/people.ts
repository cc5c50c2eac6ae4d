import type { Units } from '../units/system.ts';
import type { Id } from './common.ts';

/** Somebody who works here. Until sign-in comes, who one is is a statement, not a proof. */
export interface Person {
  readonly id: Id;
  readonly name: string;
  readonly shortName: string;
  /** May pass a rule that can be overridden, with a reason. */
  readonly mayOverride: boolean;
  readonly active: boolean;
  /** What they read and type in. */
  readonly units: Units;
  readonly version: number;
}
