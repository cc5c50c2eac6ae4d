import type { Units } from '../units/system.ts';
import type { Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';
import type { How } from './how.ts';
import type { Person, Skill } from './people.ts';
import type { Gate, Role } from './rights.ts';

export interface AddPerson {
  readonly id: Id;
  readonly name: string;
  readonly shortName: string;
  readonly roles: readonly Role[];
  readonly rooms: readonly Room[];
  readonly gates: readonly Gate[];
  readonly skills?: readonly Skill[] | undefined;
}

/** What somebody is called, is and may; their units they change themselves. */
export interface ChangePerson {
  readonly version: number;
  readonly name?: string | undefined;
  readonly shortName?: string | undefined;
  readonly roles?: readonly Role[] | undefined;
  readonly rooms?: readonly Room[] | undefined;
  readonly gates?: readonly Gate[] | undefined;
  readonly skills?: readonly Skill[] | undefined;
  readonly active?: boolean | undefined;
  readonly units?: Units | undefined;
}

/** The first person sets up the shop and manages it. */
export interface SetUpShop {
  /** What the shop is called, on screens and papers. */
  readonly shopName?: string | undefined;
  readonly name: string;
  readonly shortName: string;
  readonly password: string;
}

export interface SignIn {
  readonly name: string;
  readonly password: string;
}

export interface SignInByPin {
  readonly personId: Id;
  readonly pin: string;
}

export interface ChangePassword {
  readonly before: string;
  readonly password: string;
}

export interface SetPin {
  readonly password: string;
  readonly pin: string;
}

export interface PairTablet {
  readonly name: string;
  readonly room: Room | null;
}

/** Who can be chosen on a room's tablet or in the demo. */
export type Choice = Pick<Person, 'id' | 'name' | 'shortName'> & { readonly roles: readonly Role[] };

/** How a browser stands: nobody's yet, to be signed in at, or somebody's. */
export interface SessionAnswer {
  readonly state: 'set up' | 'out' | 'in' | 'new password';
  readonly person: Person | null;
  readonly how: How | null;
  /** Goes with every write of this session. */
  readonly token: string;
  /** A paired tablet offers those who have a PIN. */
  readonly tablet: { readonly name: string; readonly room: Room | null } | null;
  readonly choices: readonly Choice[];
  /** The demo: one tap, no proof. */
  readonly demo: boolean;
  /** The name of the shop's own sign-in, where it has one. */
  readonly openid: string | null;
  readonly shopName: string;
}

/** One place where somebody is signed in. */
export interface SessionLine {
  readonly id: string;
  readonly how: How;
  readonly since: Instant;
  readonly lastSeen: Instant;
  readonly agent: string;
  readonly address: string;
  readonly tablet: string | null;
  readonly here: boolean;
}

export interface SessionsAnswer {
  readonly sessions: readonly SessionLine[];
  readonly hasPassword: boolean;
  readonly hasPin: boolean;
}

/** Somebody as the manager sees them. */
export interface PersonLine extends Person {
  readonly hasPassword: boolean;
  readonly hasPin: boolean;
  readonly openid: string | null;
  readonly lastSeen: Instant | null;
}

export interface TabletLine {
  readonly id: Id;
  readonly name: string;
  readonly room: Room | null;
  readonly pairedAt: Instant;
  readonly pairedBy: string;
  readonly lastSeen: Instant | null;
}

export interface PeopleAnswer {
  readonly people: readonly PersonLine[];
  readonly tablets: readonly TabletLine[];
  readonly openid: boolean;
  readonly now: Instant;
}

/** One line of the audit. */
export interface AuditLine {
  readonly id: Id;
  readonly at: Instant;
  readonly what: AuditWhat;
  readonly name: string;
  readonly how: How | null;
  readonly text: string;
  readonly address: string;
  readonly agent: string;
}

/** What the audit holds: a closed list. */
export const AUDITED = [
  'sign in',
  'failed',
  'sign out',
  'password',
  'pin',
  'tablet',
  'rights',
  'override',
  'export',
  'backup',
  'restore',
] as const;
export type AuditWhat = (typeof AUDITED)[number];

export interface AuditAnswer {
  readonly lines: readonly AuditLine[];
  readonly more: boolean;
  readonly now: Instant;
}
