import type { Day, Instant } from '../units/instant.ts';
import type { Id, Room } from './common.ts';
import type { SectionEstimate, WayUp } from './model.ts';

/** How a section becomes metal: ceramic shell, block investment, or modelled straight in wax (then shelled). */
export const METHODS = ['shell', 'block', 'direct'] as const;

export type Method = (typeof METHODS)[number];

export const METHOD_NAMES: Readonly<Record<Method, string>> = {
  shell: 'ceramic shell',
  block: 'block investment',
  direct: 'direct wax',
};

/** Whose waxes are shown for approval before sprueing. */
export const APPROVALS = ['first', 'each', 'none'] as const;

export type ApprovalRule = (typeof APPROVALS)[number];
export const APPROVAL_NAMES: Readonly<Record<ApprovalRule, string>> = {
  first: 'the first wax',
  each: 'each wax',
  none: 'no wax',
};

export const FINISHINGS = ['patina', 'raw'] as const;
export type Finishing = (typeof FINISHINGS)[number];
export const FINISHING_NAMES: Readonly<Record<Finishing, string>> = {
  patina: 'patina here',
  raw: 'raw, the artist finishes',
};

/** A sculpture that is being editioned. */
export interface Work {
  readonly id: Id;
  readonly number: number;
  /** Three letters for tags: `OTT`. */
  readonly code: string;
  readonly title: string;
  readonly artist: string;
  readonly editionSize: number;
  readonly artistProofs: number;
  readonly alloyId: string;
  readonly method: Method;
  readonly approval: ApprovalRule;
  readonly finish: string;
  /** How the metal is finished: patinated here, or delivered raw. */
  readonly finishing: Finishing;
  /** Which small drawing stands for it on the Floor. */
  readonly glyph: string;
  readonly routeVersion: number;
  readonly version: number;
}

/** The parts of a section that push hardest on its shell, mm: the radius of the widest round one, the side of the largest flat. */
export interface SectionShape {
  readonly roundMm: number | null;
  readonly flatMm: number | null;
}

/** A part of the work that is cast by itself, the same for every piece. */
export interface Section {
  readonly id: Id;
  readonly workId: Id;
  readonly ordinal: number;
  readonly name: string;
  readonly method: Method;
  readonly wallMm: number;
  readonly metalHeightMm: number | null;
  /** Its widest round part and its largest flat, for the strength of its shell; nothing where nobody said. */
  readonly shape?: SectionShape | null;
  readonly expectedWaxKg: number | null;
  readonly areaCm2: number | null;
  /** Length of the seam that joins it to the rest, m. */
  readonly seamM: number | null;
  /** A deep, narrow hollow: its coats dry three times as long. */
  readonly deep: boolean;
  /** What was typed in another unit than the one that is kept, by field. */
  readonly typed: Readonly<Record<string, string>>;
  /** Ways in which its wax is known before it is weighed; none where nobody said one. */
  readonly estimates?: readonly SectionEstimate[];
  /** Which way up it is poured, where that was worked out on its model. */
  readonly wayUp?: WayUp | null;
  readonly version: number;
}

export const SERIES = ['edition', 'ap', 'fp', 'unique'] as const;

export type Series = (typeof SERIES)[number];

export const PIECE_STATES = ['not begun', 'in work', 'hold', 'delivered', 'cancelled', 'lost'] as const;

export type PieceState = (typeof PIECE_STATES)[number];

/** A hold stops the piece; its green coats go on to the seal coat, or stop with it. */
export const HOLD_SHELLS = ['on', 'stop'] as const;

export type HoldShells = (typeof HOLD_SHELLS)[number];

/** Which piece waits where two want the same hands, metal or fire: beside its due date. */
export const PRIORITIES = ['first', 'usual', 'last'] as const;

export type Priority = (typeof PRIORITIES)[number];

export const PRIORITY_WORDS: Readonly<Record<Priority, string>> = {
  first: 'goes first',
  usual: 'in its turn',
  last: 'can wait',
};

/** One bronze of the edition. */
export interface Piece {
  readonly id: Id;
  readonly workId: Id;
  readonly series: Series;
  readonly number: number;
  readonly of: number;
  readonly state: PieceState;
  /** Kept as it was cut into the wax; never worked out again. */
  readonly markInWax: string | null;
  readonly dueDate: Day | null;
  readonly priority: Priority;
  readonly holdReason: string | null;
  readonly holdUntil: Day | null;
  /** What happens to its shells half dipped meanwhile. */
  readonly holdShells: HoldShells | null;
  readonly deliveredAt: Instant | null;
  readonly orderId: Id | null;
  readonly routeVersion: number;
  readonly version: number;
}

/** Three letters of a title for the tags, its article left out: `OTT` of “The Otter”. */
export const codeOfTitle = (title: string): string =>
  title
    .normalize('NFD')
    .toUpperCase()
    .replace(/^(THE|A|AN) /, '')
    .replace(/[^A-Z0-9]/g, '')
    .slice(0, 3);

/** `3/8`, `AP 1/2`, `FP`, `unique`. */
export function markOf(piece: Pick<Piece, 'series' | 'number' | 'of'>): string {
  if (piece.series === 'unique') return 'unique';
  if (piece.series === 'fp') return piece.of > 1 ? `FP ${piece.number}/${piece.of}` : 'FP';
  return `${piece.series === 'ap' ? 'AP ' : ''}${piece.number}/${piece.of}`;
}

/** What stands inside a disc: `3`, `AP1`, `U`. */
export function shortMarkOf(piece: Pick<Piece, 'series' | 'number'>): string {
  if (piece.series === 'unique') return 'U';
  return { edition: '', ap: 'AP', fp: 'FP' }[piece.series] + String(piece.number);
}

export const CAST_STATES = ['planned', 'wax', 'metal', 'lost', 'void'] as const;

export type CastState = (typeof CAST_STATES)[number];

/** One section of one piece, as a thing: first wax, then metal. A lost one is made again as the next attempt. */
export interface Cast {
  readonly id: Id;
  readonly sectionId: Id;
  readonly pieceId: Id;
  readonly attempt: number;
  readonly state: CastState;
  readonly lostRoom: Room | null;
  readonly lostWhy: string | null;
  readonly lostAt: Instant | null;
  /** Lost after the pour: the metal was there and was not good. */
  readonly recast: boolean;
  readonly version: number;
}

/** A section's letter by its place: A, B … Z, then A2 …. */
export const sectionLetter = (ordinal: number): string => {
  const round = Math.floor((ordinal - 1) / 26);
  return String.fromCharCode(65 + ((ordinal - 1) % 26)) + (round > 0 ? String(round + 1) : '');
};
