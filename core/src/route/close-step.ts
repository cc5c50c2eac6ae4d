import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import { chainOf } from './chain.ts';
import { outcomeNamed } from './judge.ts';
import { insertAfter, loseCastOps, loseTree } from './lose.ts';
import type { ShopIndex } from './shop-index.ts';
import type { Closed, Closing, NewId, StepKind } from './step-kind.ts';

/** Of what was read, only that which no record of its own holds stays on the step. */
export const keptReadings = (kind: StepKind, readings: Readonly<Record<string, unknown>>): Record<string, unknown> => {
  const elsewhere = new Set(kind.readings.filter(({ keptIn }) => keptIn).map(({ key }) => key));
  return Object.fromEntries(Object.entries(readings).filter(([key]) => !elsewhere.has(key)));
};

/**
 * Everything that follows from a step's being done, as changes: the step itself, what grows after it (patch, refire, test
 * again …), what is lost with it and grown anew, and what its room says of its carrier. Judge first (`judge.ts`).
 */
export function closeStep(index: ShopIndex, step: Step, closing: Closing, newId: NewId): Op[] {
  const kind = index.kind(step);
  const outcome = outcomeNamed(kind, closing.outcome);
  const closed: Closed = { index, step, closing, outcome, newId };
  return [
    update('steps', step.id, {
      ...closing,
      readings: keptReadings(kind, closing.readings),
      readingsVersion: kind.readingsVersion,
      typed: closing.typed ?? {},
      taken: closing.taken ?? [],
      by: [...closing.by],
      flags: [...closing.flags],
      state: outcome.effect,
    }),
    ...passed(index, step).map(({ id }) => update('steps', id, { state: 'void' })),
    ...grown(closed, kind).map((made) => insert('steps', made)),
    ...(outcome.effect === 'lost' ? lostWith(closed, kind) : []),
    ...(outcome.effect === 'skipped' ? [] : (kind.close?.(closed) ?? [])),
  ];
}

/** What lay beside the way before this step and was not done: it never will be. */
function passed(index: ShopIndex, step: Step): Step[] {
  if (index.kind(step).aside) return [];
  const chain = chainOf(index, step.carrierId);
  const place = chain.findIndex(({ id }) => id === step.id);
  return chain.slice(0, Math.max(0, place)).filter((each) => each.state === 'planned' && index.kind(each).aside);
}

/** The steps that an outcome inserts behind the step; one that is done again comes last. */
function grown(closed: Closed, kind: StepKind): Step[] {
  const { step, outcome, closing, newId } = closed;
  const same: [StepKindCode, Partial<Step>] = [step.kind, { sequence: step.sequence, sectionId: step.sectionId }];
  const wanted: [StepKindCode, Partial<Step>][] = (outcome.inserts ?? []).map((code) => [code, {}]);
  if (outcome.effect === 'again') wanted.push(same);
  for (const code of kind.grows?.(closed) ?? []) wanted.push([code, {}]);
  return insertAfter(step, wanted, closing.note || outcome.label, newId);
}

function lostWith({ index, step, closing, outcome, newId }: Closed, { room }: StepKind): Op[] {
  const loss = { room, why: closing.note || outcome.label, at: closing.endedAt };
  const others = (op: Op) => !(op.op === 'update' && op.table === 'steps' && op.id === step.id);
  if (step.carrier === 'tree') return loseTree(index, step.carrierId, loss, newId).filter(others);
  if (step.carrier !== 'cast') return [];
  return loseCastOps(index, index.cast.get(step.carrierId)!, loss, newId).filter(others);
}
