import type { Instant } from '../units/instant.ts';
import type { Id } from './common.ts';

/** What must be put back or taken out again before patina. */
export const OPEN_ITEM_KINDS = ['window', 'cut off', 'pins', 'core', 'armature', 'vent'] as const;

export type OpenItemKind = (typeof OPEN_ITEM_KINDS)[number];

export const OPEN_ITEM_NAMES: Readonly<Record<OpenItemKind, string>> = {
  window: 'window cut out',
  'cut off': 'part cut off',
  pins: 'core pins',
  core: 'core',
  armature: 'armature',
  vent: 'vent or hook left on',
};

/** How a line of the ledger ends. */
export const OPEN_ITEM_ENDS = ['put back', 'taken out', 'left inside'] as const;

export type OpenItemEnd = (typeof OPEN_ITEM_ENDS)[number];

/** A line of the ledger of a cast: opened when it was made, closed when it is put back, taken out, or left on purpose. */
export interface OpenItem {
  readonly id: Id;
  readonly castId: Id;
  readonly kind: OpenItemKind;
  readonly what: string;
  readonly openedAt: Instant;
  readonly closedAt: Instant | null;
  readonly closedHow: OpenItemEnd | null;
  readonly closedNote: string;
  readonly version: number;
}

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
