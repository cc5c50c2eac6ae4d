import type { Instant } from '../units/instant.ts';
import type { DryingPlace, DrynessMeans } from './climate.ts';
import type { Id } from './common.ts';

/** The air as somebody read it off. */
export interface TypeClimate {
  readonly placeId: Id;
  readonly at: Instant;
  readonly celsius: number;
  readonly humidityPercent: number;
}

/** A data logger's file. */
export interface ImportClimate {
  readonly placeId: Id;
  readonly name: string;
  readonly text: string;
}

/** What became of a file: how many readings were new, how many were there already, what was left out. */
export interface ImportedClimate {
  readonly added: number;
  readonly known: number;
  readonly left: readonly { readonly line: number; readonly why: string }[];
  readonly notes: readonly string[];
  readonly from: Instant;
  readonly until: Instant;
}

export type SaveDryingPlace = DryingPlace;

/** Trees are hung somewhere else, or on other hooks. */
export interface HangTrees {
  readonly treeIds: readonly Id[];
  readonly placeId: Id;
  readonly hook: string;
  readonly at: Instant;
}

/** Somebody looked whether a coat is dry. */
export interface LookAtCoat {
  readonly id: Id;
  readonly stepId: Id;
  readonly at: Instant;
  readonly means: DrynessMeans;
  readonly dry: boolean;
  /** 0 to 1, where scale or meter told it. */
  readonly share: number | null;
  readonly note: string;
}
