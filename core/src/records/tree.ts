import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';
import type { Method } from './work.ts';

export const TREE_STATES = ['planned', 'joined', 'poured', 'knocked out', 'lost', 'void'] as const;
export type TreeState = (typeof TREE_STATES)[number];

/** One or more casts joined with runners, vents and a cup: what is shelled, burnt out and poured. One alloy, one method. */
export interface Tree {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly method: Exclude<Method, 'direct'>;
  readonly state: TreeState;
  readonly version: number;
}

/** A cast's time in a tree; `until` is null while it is in it. */
export interface TreeCast {
  readonly id: Id;
  readonly treeId: Id;
  readonly castId: Id;
  readonly since: Instant | null;
  readonly until: Instant | null;
  readonly version: number;
}

export const FIRING_STATES = ['planned', 'charged', 'running', 'done', 'abandoned'] as const;
export type FiringState = (typeof FIRING_STATES)[number];

export const LOAD_PURPOSES = ['fire', 'fire-block', 'refire'] as const;
export type LoadPurpose = (typeof LOAD_PURPOSES)[number];

/** A kiln firing with the trees in it. */
export interface Load {
  readonly id: Id;
  readonly number: number;
  readonly purpose: LoadPurpose;
  readonly state: FiringState;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant | null;
  readonly profile: string;
  readonly topC: number | null;
  readonly reason: string | null;
  readonly version: number;
}

export interface LoadPlace {
  readonly id: Id;
  readonly loadId: Id;
  readonly treeId: Id;
  readonly outcome: string | null;
  readonly version: number;
}

/** Who does what at the pour. The lead must be named; the others are asked for. */
export const CREW_ROLES = ['lead', 'second', 'skimmer', 'spotter'] as const;
export type CrewRole = (typeof CREW_ROLES)[number];
export const CREW_ROLE_NAMES: Readonly<Record<CrewRole, string>> = {
  lead: 'leads the pour',
  second: 'second at the crucible',
  skimmer: 'skims and holds back',
  spotter: 'watches and speaks the signs',
};

/** Somebody in a role, and who stands in for them. */
export interface CrewPlace {
  readonly role: CrewRole;
  readonly personId: Id;
  readonly deputyId: Id | null;
}

export const SIGNS = ['spoken', 'by hand'] as const;
/** How start and stop are told. */
export type Signs = (typeof SIGNS)[number];

/** One crucible of metal: its charge, its melt, and the trees poured from it. */
export interface Heat {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: FiringState;
  readonly plannedFor: Instant | null;
  readonly holdsKg: number;
  readonly usableKg: number;
  readonly meltLoss: number;
  readonly pigReserveKg: number;
  readonly startedAt: Instant | null;
  readonly endedAt: Instant | null;
  /** Who leads, and who confirmed crew and cover: names, since this is a statement of a person. */
  readonly leadId: Id | null;
  /** Everybody's role with deputies, and how start and stop are told, as they were confirmed; null before. */
  readonly crew: readonly CrewPlace[] | null;
  readonly signs: Signs | null;
  readonly coverConfirmedById: Id | null;
  readonly coverConfirmedAt: Instant | null;
  readonly pigKg: number | null;
  readonly reason: string | null;
  readonly version: number;
}

export const POURING_OUTCOMES = ['poured', 'short', 'run out', 'not poured'] as const;
export type PouringOutcome = (typeof POURING_OUTCOMES)[number];

/** A tree's place in a heat, in pouring order. */
export interface Pouring {
  readonly id: Id;
  readonly heatId: Id;
  readonly treeId: Id;
  readonly order: number;
  /** The pour weight that the heat was charged with, kg. */
  readonly plannedKg: number;
  readonly pouredKg: number | null;
  readonly metalC: number | null;
  readonly tempWhere: string | null;
  readonly startedAt: Instant | null;
  readonly seconds: number | null;
  readonly outcome: PouringOutcome | null;
  readonly version: number;
}

/** Something that went into the crucible. */
export interface ChargeLine {
  readonly id: Id;
  readonly heatId: Id;
  readonly what: 'ingot' | 'returns' | 'addition';
  /** Null where nobody knows what returns they are; those never go in. */
  readonly alloyId: string | null;
  readonly kg: number;
  readonly lot: string;
  /** Confirmed dry and preheated. */
  readonly dry: boolean;
  readonly version: number;
}
