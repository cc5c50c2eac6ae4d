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

/** How sure it is who did something. */
export const HOWS = ['password', 'pin', 'openid', 'demo', 'stated', 'server'] as const;
export type How = (typeof HOWS)[number];

export const HOW_WORDS: Readonly<Record<How, string>> = {
  password: 'signed in by password',
  pin: 'by PIN at a room’s tablet',
  openid: 'signed in by OpenID',
  demo: 'chosen in the demo, not proven',
  stated: 'as stated, before there was a sign-in',
  server: 'at the server itself',
};
