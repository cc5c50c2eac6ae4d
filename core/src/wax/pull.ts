import type { Id } from '../records/common.ts';
import type { Pull } from '../records/mould.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { Instant } from '../units/instant.ts';
import { toMs } from '../units/instant.ts';

/** What is said of a pull when its mould is filled. */
export interface PullBegun {
  readonly id: Id;
  readonly castId: Id;
  readonly stepId: Id;
  readonly startedAt: Instant;
  readonly mouldId: Id;
  readonly wax: string;
}

/** A mould is filled: from now on it is in use, and the pull counts on it even if it is spoilt. */
export const startPull = ({ castId, ...begun }: PullBegun): Op =>
  insert('pulls', { ...begun, castIds: [castId], number: 0, endedAt: null, outcome: null, version: 1 });

/** The wax is taken out, good or spoilt; the mould is free. */
export const endPull = (
  pullId: Id,
  said: { readonly endedAt: Instant; readonly good: boolean; readonly wax?: string | undefined },
): Op =>
  update('pulls', pullId, {
    endedAt: said.endedAt,
    outcome: said.good ? 'good' : 'spoilt',
    ...(said.wax ? { wax: said.wax } : {}),
  });

/** Whether a pull was in its mould at any time of a span; of the very same minute are two pulls at once too. */
export function overlaps(pull: Pick<Pull, 'startedAt' | 'endedAt' | 'outcome'>, from: number, until: number): boolean {
  if (pull.outcome === 'void') return false;
  const [a, b] = [toMs(pull.startedAt), pull.endedAt === null ? Infinity : toMs(pull.endedAt)];
  return (a < until && from < b) || (a === from && b === until);
}
