import type { Instant } from '../units/instant.ts';
import type { Load } from './burnout.ts';
import type { Id } from './common.ts';
import type { LoadFire } from './kiln-page.ts';
import type { HistoryLine } from './history.ts';
import type { Figure } from '../units/figure.ts';
import type { Heat, HeatReading, Pouring } from './pour.ts';
import type { ChargeGiven } from './pour-writes.ts';

/** A tree of a heat or load, by its name, with the pieces that hang on it. */
export interface TreeName {
  readonly treeId: Id;
  readonly label: string;
  readonly title: string;
  readonly pieceIds: readonly Id[];
}

/** A heat as its own page shows it, over or not. */
export interface HeatRecord extends Omit<Heat, 'leadId' | 'coverConfirmedById' | 'version'> {
  readonly change: number;
  readonly crewNames: readonly { readonly what: string; readonly name: string; readonly deputy: string | null }[];
  readonly coverConfirmedBy: string | null;
  readonly pourings: readonly (TreeName &
    Omit<Pouring, 'heatId' | 'treeId' | 'version'> & {
      /** What it was aimed at at the cup, by alloy and wall. */
      readonly cup: Figure;
      /** Casts and returns that came of it once its shell was off, kg; null before. */
      readonly castsKg: number | null;
      readonly returnsKg: number | null;
      /** What was written down with it, and why casts of it were lost. */
      readonly note: string;
      readonly losses: readonly { readonly label: string; readonly why: string }[];
    })[];
  readonly crucible: string | null;
  readonly readings: readonly HeatReading[];
  readonly chargeLines: readonly ChargeGiven[];
  readonly history: readonly HistoryLine[];
}

/** A heat of the year. */
export interface BookedHeat {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: Heat['state'];
  readonly at: Instant;
  readonly trees: number;
  /** Trees that came short, ran out or were not poured. */
  readonly troubled: number;
  readonly chargeKg: number;
  /** Of the charge, kg. */
  readonly returnsKg: number;
  readonly pouredKg: number;
  readonly pigKg: number | null;
  /** Weighed of those trees whose shells are off, with what was poured into these; null where none is. */
  readonly castsKg: number | null;
  readonly castsPouredKg: number;
  readonly energyKwh: number | null;
}

/** A figure that heats taught, beside the one that is counted with. */
export interface TaughtFigure {
  readonly key: 'crucibleLossK' | 'transferK' | 'furnaceEfficiency' | 'liningMinutes';
  readonly now: number;
  readonly learned: number;
  readonly spread: number;
  readonly n: number;
}

/** The heats of a year, and what all heats so far teach of the furnace. */
export interface HeatBook {
  readonly change: number;
  readonly year: number;
  readonly years: readonly number[];
  readonly heats: readonly BookedHeat[];
  readonly taught: readonly TaughtFigure[];
  readonly settingsVersion: number;
}

/** A kiln load as its own page shows it, over or not. */
export interface LoadRecordPage extends Omit<Load, 'version'> {
  readonly change: number;
  readonly by: readonly string[];
  readonly note: string;
  readonly trees: readonly (TreeName & { readonly outcome: string | null })[];
  readonly fire: LoadFire;
  readonly history: readonly HistoryLine[];
}

/** A heat in the list of those that are over. */
export interface PastHeat {
  readonly id: Id;
  readonly number: number;
  readonly alloyId: string;
  readonly state: Heat['state'];
  readonly at: Instant | null;
  readonly trees: number;
  readonly pouredKg: number;
}

/** What the finding gives: what it is, how it is called, and where it is. */
export interface FoundLine {
  readonly what: 'piece' | 'work' | 'order' | 'client' | 'heat' | 'load' | 'lot' | 'person';
  readonly label: string;
  readonly beside: string;
  readonly path: string;
  readonly query?: Readonly<Record<string, string>>;
}
