import type { Unit } from '../units/figure.ts';
import type { Sight } from './rights.ts';

/**
 * What a reading is, beyond plain numbers, words and choices:
 * `mould` picks a mould · `casts` picks the casts joined to a tree · `perCast` is a number for each cast of a tree ·
 * `bars` a list of bar stock · `cup` one of the shop's cups, or none · `defects` a list of defects with their place, size and verdict · `codes` bare codes, as
 * older records keep them.
 */
export type ReadingKind =
  'number' | 'text' | 'choice' | 'yes' | 'mould' | 'casts' | 'perCast' | 'bars' | 'cup' | 'defects' | 'codes';

/** The definition of one reading: data from which forms are built and answers are checked. */
export interface ReadingDef {
  readonly key: string;
  readonly label: string;
  readonly kind: ReadingKind;
  readonly unit?: Unit;
  readonly decimals?: number;
  readonly min?: number;
  readonly max?: number;
  readonly required?: boolean;
  readonly choices?: readonly { readonly code: string; readonly label: string }[];
  /** The choice a form starts with; a number is only offered, since nobody has read it off yet. */
  readonly start?: string | number | boolean;
  /** What was read last is likely still so, for so many hours: the climate of a room, a pot that stands hot. */
  readonly lastsHours?: number;
  /** Of each carrier its own, and never of a whole tray: a weight, a mark. */
  readonly ofEach?: true;
  /** The record that holds it: the form asks for it here, the step keeps nothing of it. */
  readonly keptIn?: 'mould' | 'pull' | 'weight' | 'load' | 'pouring' | 'heat' | 'tree';
  /** Not everybody who sees the step sees this. */
  readonly sight?: Sight;
  /** Another outcome makes it another reading: what was said of it before is asked anew. */
  readonly byOutcome?: true;
  /** Only asked at the first of several of its kind: the coat that decides the surface. */
  readonly firstOnly?: true;
  /** Only asked for these outcomes; always where absent. */
  readonly outcomes?: readonly string[];
}

export const num = (
  key: string,
  label: string,
  unit: Unit,
  [min, max, decimals]: readonly [number, number, number],
  rest: Partial<ReadingDef> = {},
): ReadingDef => ({ key, label, kind: 'number', unit, min, max, decimals, ...rest });

export const text = (key: string, label: string, rest: Partial<ReadingDef> = {}): ReadingDef => ({
  key,
  label,
  kind: 'text',
  max: 500,
  ...rest,
});

export const choice = (
  key: string,
  label: string,
  choices: ReadingDef['choices'],
  rest: Partial<ReadingDef> = {},
): ReadingDef => ({
  key,
  label,
  kind: 'choice',
  choices,
  ...rest,
});

export const yes = (key: string, label: string, rest: Partial<ReadingDef> = {}): ReadingDef => ({
  key,
  label,
  kind: 'yes',
  ...rest,
});
