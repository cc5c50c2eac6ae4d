import type { Id } from '../records/common.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import type { OutcomeDef, StepKindCode } from '../records/step-kinds.ts';
import { STEP_KINDS, outcomeOf } from '../records/step-kinds.ts';
import type { Step } from '../records/step.ts';
import type { Cast, Weight } from '../records/work.ts';
import { markOf } from '../records/work.ts';
import type { Instant } from '../units/instant.ts';
import type { NewId } from './grow.ts';
import { plannedStep } from './grow.ts';
import { joinTree } from './join.ts';
import { insertAfter, loseCast, loseTree, refuseWaxes, roomOfLoss } from './lose.ts';
import type { ShopIndex } from './shop-index.ts';
import { castsOfTree } from './shop-index.ts';

/** What a person says when a step is done: when, who, how it came out, and the readings. */
export interface Closing {
  readonly startedAt: Instant | null;
  readonly endedAt: Instant;
  readonly by: readonly Id[];
  readonly recordedBy: Id | null;
  readonly outcome: string;
  readonly readings: Readonly<Record<string, unknown>>;
  readonly note: string;
  readonly flags: readonly string[];
}

/** `skipped` may be said of any step, by a person who may override, with a reason. */
export const SKIPPED: OutcomeDef = { code: 'skipped', label: 'Skipped', effect: 'skipped', why: true };

/** The outcome that a closing names. @throws RangeError where the kind has no such outcome */
export function outcomeNamed(kind: StepKindCode, code: string): OutcomeDef {
  const found = code === SKIPPED.code ? SKIPPED : outcomeOf(kind, code);
  if (!found) throw new RangeError(`${STEP_KINDS[kind].name} has no outcome "${code}"`);
  return found;
}

/**
 * Everything that follows from a step's being done, as changes: the step itself, what grows after it (patch, refire, test
 * again …), what is lost with it and grown anew, and what it does to its carrier. Judge first (`judge.ts`).
 */
export function closeStep(index: ShopIndex, step: Step, closing: Closing, newId: NewId): Op[] {
  const outcome = outcomeNamed(step.kind, closing.outcome);
  const closed = update('steps', step.id, {
    ...closing,
    by: [...closing.by],
    flags: [...closing.flags],
    state: outcome.effect,
  });
  return [
    closed,
    ...grown(step, outcome, closing, newId).map((made) => insert('steps', made)),
    ...(outcome.effect === 'lost' ? lost(index, step, closing, outcome, newId) : []),
    ...(outcome.effect === 'skipped' ? [] : consequences(index, step, closing, outcome, newId)),
  ];
}

/** The steps that an outcome inserts behind the step. */
function grown(step: Step, outcome: OutcomeDef, closing: Closing, newId: NewId): Step[] {
  const same: [StepKindCode, Partial<Step>] = [step.kind, { sequence: step.sequence, sectionId: step.sectionId }];
  const kinds: [StepKindCode, Partial<Step>][] = (outcome.inserts ?? []).map((kind) => [kind, {}]);
  if (outcome.effect === 'again') kinds.push(same);
  if (step.kind === 'leak-test' && outcome.effect === 'done' && closing.readings['how'] === 'water')
    kinds.push(['dry', {}]);
  return insertAfter(step, kinds, closing.note || outcome.label, newId);
}

function lost(index: ShopIndex, step: Step, closing: Closing, outcome: OutcomeDef, newId: NewId): Op[] {
  const loss = { room: roomOfLoss(step.kind), why: closing.note || outcome.label, at: closing.endedAt };
  const others = (op: Op) => !(op.op === 'update' && op.table === 'steps' && op.id === step.id);
  if (step.carrier === 'tree') return loseTree(index, step.carrierId, loss, newId).filter(others);
  if (step.carrier !== 'cast') return [];
  return loseCast(index, index.cast.get(step.carrierId)!, loss, newId).filter(others);
}

type Consequence = (index: ShopIndex, step: Step, closing: Closing, outcome: OutcomeDef, newId: NewId) => Op[];

const CONSEQUENCES: Partial<Record<StepKindCode, Consequence>> = {
  'make-mould': (_, step, { readings }, { effect }) =>
    effect === 'done'
      ? [
          update('moulds', step.carrierId, {
            state: 'good',
            lifePulls: numberOr(readings['lifePulls'], null),
          }),
        ]
      : [],
  'repair-mould': (_, step, __, { code }) => [
    update('moulds', step.carrierId, { state: code === 'retire' ? 'retired' : 'good' }),
  ],
  'model-wax': (index, step, closing, { effect }) =>
    effect === 'done' ? beginWax(index, index.cast.get(step.carrierId)!) : [],
  pull: pulled,
  'chase-wax': (index, step, closing, { effect }, newId) => {
    const cast = index.cast.get(step.carrierId)!;
    const kg = closing.readings['waxKg'];
    const piece = index.piece.get(cast.pieceId)!;
    const mark = effect === 'done' && closing.readings['markPutIn'] === true && piece.markInWax === null;
    return [
      ...(typeof kg === 'number' ? [insert('weights', scaleWeight(newId(), 'wax', cast, kg, closing, step))] : []),
      ...(mark ? [update('pieces', piece.id, { markInWax: markOf(piece) })] : []),
    ];
  },
  'approve-wax': (index, step, closing, { code }, newId) =>
    code === 'refused'
      ? refuseWaxes(
          index,
          index.piece.get(step.carrierId)!,
          { room: 'wax', why: closing.note, at: closing.endedAt },
          newId,
        )
      : [],
  'join-tree': (index, step, { readings, endedAt }, _, newId) => [
    ...joinTree(index, step.carrierId, readings['castIds'] as Id[], endedAt, newId),
    update('trees', step.carrierId, { state: 'joined' }),
  ],
  pour: (index, step, _, { effect }) =>
    effect === 'done'
      ? [
          update('trees', step.carrierId, { state: 'poured' }),
          ...castsOfTree(index, step.carrierId).map((cast) => update('casts', cast.id, { state: 'metal' })),
        ]
      : [],
  'knock-out': (index, step, closing, _, newId) => {
    const weighed = (closing.readings['castKg'] ?? {}) as Record<Id, number>;
    return [
      update('trees', step.carrierId, { state: 'knocked out' }),
      ...castsOfTree(index, step.carrierId).flatMap((cast) => {
        const kg = weighed[cast.id];
        return kg === undefined ? [] : [insert('weights', scaleWeight(newId(), 'cast', cast, kg, closing, step))];
      }),
    ];
  },
  'join-section': (index, step, closing, { effect }, newId) => {
    if (effect !== 'again') return [];
    const casts = index.castsOf.get(step.carrierId) ?? [];
    const cast = casts.filter((each) => each.sectionId === step.sectionId && each.state === 'metal').at(-1);
    const last = (index.stepsOf.get(cast?.id ?? '') ?? []).filter((each) => each.kind === 'inspect').at(-1);
    return last
      ? [
          insert(
            'steps',
            plannedStep(newId, 'inspect', 'cast', cast!.id, {
              insertedAfter: last.id,
              insertedWhy: closing.note,
            }),
          ),
        ]
      : [];
  },
  deliver: (_, step, { endedAt }) => [update('pieces', step.carrierId, { state: 'delivered', deliveredAt: endedAt })],
};

function consequences(index: ShopIndex, step: Step, closing: Closing, outcome: OutcomeDef, newId: NewId): Op[] {
  return CONSEQUENCES[step.kind]?.(index, step, closing, outcome, newId) ?? [];
}

/** A pull begins the wax, and with the first one the piece; it counts on the mould even when it was spoilt. */
function pulled(index: ShopIndex, step: Step, closing: Closing, { effect }: OutcomeDef, newId: NewId): Op[] {
  const cast = index.cast.get(step.carrierId)!;
  const started = pullOf(index, cast.id);
  const outcome = effect === 'done' ? ('good' as const) : ('spoilt' as const);
  const pull: Op = started
    ? update('pulls', started.id, { endedAt: closing.endedAt, outcome })
    : insert('pulls', {
        id: newId(),
        number: 0,
        mouldId: String(closing.readings['mouldId']),
        castIds: [cast.id],
        startedAt: closing.startedAt ?? closing.endedAt,
        endedAt: closing.endedAt,
        wax: String(closing.readings['wax'] ?? ''),
        outcome,
        version: 1,
      });
  const begun = beginWax(index, cast).filter((op) => effect === 'done' || op.table === 'pieces');
  return [pull, ...begun];
}

/** A cast's pull that was begun and not yet taken out. */
export const pullOf = (index: ShopIndex, castId: Id) =>
  index.shop.pulls.find((pull) => pull.endedAt === null && pull.castIds.includes(castId));

/** The cast is wax from here on, and its piece in work. */
export function beginWax(index: ShopIndex, cast: Cast): Op[] {
  const piece = index.piece.get(cast.pieceId)!;
  return [
    ...(cast.state === 'planned' ? [update('casts', cast.id, { state: 'wax' })] : []),
    ...(piece.state === 'not begun' ? [update('pieces', piece.id, { state: 'in work' })] : []),
  ];
}

/** What a scale is good for: half a per cent, and never better than 5 g. */
const scaleSpread = (kg: number): number => Math.max(0.005, kg * 0.005);

function scaleWeight(id: Id, of: 'wax' | 'cast', cast: Cast, kg: number, closing: Closing, step: Step): Weight {
  return {
    id,
    of,
    castId: cast.id,
    treeId: null,
    kind: 'scale',
    kg,
    plusMinusKg: scaleSpread(kg),
    at: closing.endedAt,
    voidReason: null,
    stepId: step.id,
    version: 1,
  };
}

const numberOr = <T>(value: unknown, other: T): number | T => (typeof value === 'number' ? value : other);
