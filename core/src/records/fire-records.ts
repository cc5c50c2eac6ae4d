import type { Instant } from '../units/instant.ts';
import type { Load } from './burnout.ts';
import type { Id } from './common.ts';
import type { HistoryLine } from './history.ts';
import type { Heat, Pouring } from './pour.ts';
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
  readonly pourings: readonly (TreeName & Omit<Pouring, 'heatId' | 'treeId' | 'version'>)[];
  readonly chargeLines: readonly ChargeGiven[];
  readonly history: readonly HistoryLine[];
}

/** A kiln load as its own page shows it, over or not. */
export interface LoadRecordPage extends Omit<Load, 'version'> {
  readonly change: number;
  readonly by: readonly string[];
  readonly note: string;
  readonly trees: readonly (TreeName & { readonly outcome: string | null })[];
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
