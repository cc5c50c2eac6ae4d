import type { Mould } from '../records/mould.ts';

/** Pulls a mould has made and still owes. */
export interface MouldCount {
  readonly used: number;
  readonly owed: number;
  readonly left: number | null;
}

/**
 * A mould's life in pulls: those used are counted with the ones before Kalvet, spoilt ones too.
 * @param pulled pulls that are not void
 * @param owed pulls still to be made that it serves alone or shares
 */
export function mouldCount(
  { pullsBefore, lifePulls }: Pick<Mould, 'pullsBefore' | 'lifePulls'>,
  pulled: number,
  owed: number,
): MouldCount {
  const used = pullsBefore + pulled;
  return { used, owed, left: lifePulls === null ? null : Math.max(0, lifePulls - used) };
}
