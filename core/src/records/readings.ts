import type { Unit } from '../units/figure.ts';

/**
 * What a reading is, beyond plain numbers, words and choices:
 * `mould` picks a mould · `casts` picks the casts joined to a tree · `perCast` is a number for each cast of a tree ·
 * `bars` a list of bar stock · `defects` a list of defects with their place, size and verdict.
 */
export type ReadingKind = 'number' | 'text' | 'choice' | 'yes' | 'mould' | 'casts' | 'perCast' | 'bars' | 'defects';

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
  /** The choice or number a form starts with. */
  readonly start?: string | number | boolean;
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

/** What can be wrong with a cast; the list that every inspection picks from. */
export const DEFECTS = [
  { code: 'misrun', label: 'misrun / cold shut' },
  { code: 'draw', label: 'draw / shrinkage' },
  { code: 'gas', label: 'gas porosity' },
  { code: 'inclusion', label: 'inclusion' },
  { code: 'fin', label: 'fin / flash' },
  { code: 'break', label: 'shell break / run-out' },
  { code: 'core shift', label: 'core shift' },
  { code: 'warp', label: 'warp' },
  { code: 'crack', label: 'crack' },
] as const;

/** What is decided of a defect, the mildest first. */
export const VERDICTS = ['accept', 'weld', 'recast'] as const;
export type Verdict = (typeof VERDICTS)[number];

/** A defect as an inspection writes it down. */
export interface Defect {
  readonly code: (typeof DEFECTS)[number]['code'];
  readonly where: string;
  readonly mm: number | null;
  readonly verdict: Verdict;
}
