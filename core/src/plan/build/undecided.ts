import type { Id } from '../../records/common.ts';
import { isOpen } from '../../records/step.ts';
import type { Piece } from '../../records/work.ts';
import { coatOf } from '../../route/coat-of.ts';
import { treeOfCast } from '../../route/shop-index.ts';
import { piecesOfStep } from '../../route/standing.ts';
import { pieceDecisions } from '../../shop/decisions.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { workingDaysAfter } from './working-days.ts';

const GONE: readonly Piece['state'][] = ['cancelled', 'lost', 'delivered'];

/** What is planned on the assumption that somebody decides in time. */
export interface Undecided {
  /** When a decision can be expected, in minutes. */
  readonly decided: number;
  /** Steps that wait for one. */
  readonly steps: ReadonlySet<Id>;
  /** Pieces whose dates rest on one. */
  readonly pieces: ReadonlySet<Id>;
}

/**
 * What waits for a person's decision: the open steps of the cast that is asked about, and of its tree, begin when a decision
 * can be expected, and so do the dips of every tree in a tank that is blocked. Everything of the piece behind them is an assumption until then: that it goes on as it was meant to.
 */
export function undecidedOf(snapshot: PlanSnapshot, now: number): Undecided {
  const { index, settings } = snapshot;
  const steps = new Set<Id>();
  const pieces = new Set<Id>();
  for (const piece of index.shop.pieces) {
    if (GONE.includes(piece.state)) continue;
    for (const { castId } of pieceDecisions(index, piece, settings.waxBand)) {
      if (castId === undefined) continue;
      pieces.add(piece.id);
      for (const carrierId of [castId, treeOfCast(index, castId)?.id])
        for (const step of index.stepsOf.get(carrierId ?? '') ?? []) if (isOpen(step)) steps.add(step.id);
    }
  }
  // Nothing is dipped in a tank that is out of its limits until a named person has decided it.
  const blocked = new Set<string | undefined>(
    (index.shop.tanks ?? []).flatMap(({ slurry, blockedSince }) => (blockedSince === null ? [] : [slurry])),
  );
  if (blocked.size > 0)
    for (const step of index.shop.steps)
      if (isOpen(step) && index.kind(step).coat && blocked.has(coatOf(index, step)?.slurry)) {
        steps.add(step.id);
        for (const id of piecesOfStep(index, step)) pieces.add(id);
      }
  return { decided: workingDaysAfter(snapshot, now, settings.decisionDays), steps, pieces };
}
