import type { Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { FiringState } from './burnout.ts';
import type { Id } from './common.ts';

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

/** Where metal or a mould was when its temperature was read. */
export const TEMPERATURE_PLACES = ['furnace', 'ladle', 'cup', 'mould'] as const;
export type TemperaturePlace = (typeof TEMPERATURE_PLACES)[number];

/** How a temperature was read: dipped in, by what it radiates, or by its colour. */
export const MEANS = ['immersion', 'infrared', 'eye'] as const;
export type Means = (typeof MEANS)[number];

/** How far a reading can be off either way, K, where nobody says: a dipped thermocouple, an infrared one, a practised eye. */
export const MEANS_K: Readonly<Record<Means, number>> = { immersion: 3, infrared: 15, eye: 30 };

/** A temperature that was read during a heat. */
export interface HeatReading {
  readonly id: Id;
  readonly heatId: Id;
  /** Whose cup or mould; null for the crucible. */
  readonly treeId: Id | null;
  readonly at: Instant;
  readonly celsius: number;
  readonly where: TemperaturePlace;
  readonly means: Means;
  readonly plusMinusK: number;
  /** Which instrument it came from; nothing where it was typed. */
  readonly instrument: string;
  readonly voidReason: string | null;
  readonly version: number;
}

/** What is forgotten before a pour, asked one by one. */
export const POUR_CHECKS = ['crucible', 'tongs', 'warm', 'pit', 'way', 'skimmer'] as const;
export type PourCheck = (typeof POUR_CHECKS)[number];

export const POUR_CHECK_NAMES: Readonly<Record<PourCheck, string>> = {
  crucible: 'Crucible sits clamped in its ring; looked over for cracks',
  tongs: 'Tongs and shank looked at, pins in',
  warm: 'Ingots, skimmer, rods and pig moulds are warm and dry',
  pit: 'Pit or sand bed dry, trees stand firm, cups up and covered',
  way: 'The way from furnace to pit is free, exit free, sand at hand',
  skimmer: 'Skimmer ready, slag box dry',
};

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
  /** What was looked at before, as it was confirmed; null before. */
  readonly checks: readonly PourCheck[] | null;
  readonly pigKg: number | null;
  /** The pot it was melted in; null where the shop has entered none. */
  readonly crucibleId: Id | null;
  /** When the furnace was lit for it, and what its meter counted, kWh. */
  readonly litAt: Instant | null;
  readonly energyKwh: number | null;
  /** What the furnace's meter showed when it was lit, where one reports. */
  readonly meterFrom: number | null;
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
  /** Worked out, or typed over by a person who knows better; and how exact it is, kg. */
  readonly plannedSource: 'computed' | 'estimated' | 'typed';
  readonly plannedPlusMinusKg: number | null;
  readonly pouredKg: number | null;
  readonly metalC: number | null;
  readonly tempWhere: string | null;
  readonly startedAt: Instant | null;
  readonly seconds: number | null;
  readonly outcome: PouringOutcome | null;
  /** Its place in the pit; null where nobody gave it one. */
  readonly place: number | null;
  /** When its shell left the kiln. */
  readonly outAt: Instant | null;
  /** The tree's own step that was recorded with it; null before. */
  readonly stepId: Id | null;
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

/** From when a tree can be poured at the soonest, and what is still to be done of it. */
export interface TreeReady {
  /** Null where nobody can tell: it does not go on. */
  readonly from: Instant | null;
  /** `3 coats, dewax and fire, leak test`; nothing where it only waits for its heat. */
  readonly needs: Text;
  /** Why it does not go on, where it does not. */
  readonly held: string | null;
}
