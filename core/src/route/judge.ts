import type { Id } from '../records/common.ts';
import type { Mould, Pull } from '../records/mould.ts';
import { STEP_KINDS } from '../records/step-kinds.ts';
import type { Step } from '../records/step.ts';
import { isClosed, isOpen } from '../records/step.ts';
import type { Cast } from '../records/work.ts';
import type { Instant } from '../units/instant.ts';
import { spanInWords, toMs } from '../units/instant.ts';
import type { Closing } from './close.ts';
import { outcomeNamed } from './close.ts';
import { castLabel, stepLabel, stepName } from './labels.ts';
import type { Link } from './links.ts';
import { mouldsFor } from './links.ts';
import type { ShopIndex } from './shop-index.ts';
import { openItemLabel, openItemsOf } from './open-items.ts';
import { castsOfTree, treeOfCast } from './shop-index.ts';
import { piecesOfStep } from './standing.ts';
import { wetSince } from './wet.ts';

/** The rules that can refuse a record. */
export type Rule =
  | 'order'
  | 'min wait'
  | 'leak'
  | 'wet'
  | 'hold'
  | 'closed'
  | 'lost'
  | 'mould in use'
  | 'mould'
  | 'casts'
  | 'crew'
  | 'crucible'
  | 'kiln'
  | 'alloy'
  | 'twice'
  | 'skip'
  | 'through'
  | 'state'
  | 'follows'
  | 'open item';

/** Why a record is refused, in shop words. */
export interface Refusal {
  readonly rule: Rule;
  readonly message: string;
  /** Whether a person who may can pass it with a reason. */
  readonly mayOverride: boolean;
}

const never = (rule: Rule, message: string): Refusal => ({ rule, message, mayOverride: false });
const unless = (rule: Rule, message: string): Refusal => ({ rule, message, mayOverride: true });

/**
 * Whether a step may be recorded as said. Every broken rule is named; none means it may. Waits and order are judged on
 * the times done, not on when somebody types.
 */
export function judge(index: ShopIndex, links: readonly Link[], step: Step, closing: Closing): Refusal[] {
  const gone = judgeCarrier(index, step);
  if (gone.length > 0) return gone;
  const skipped = outcomeNamed(step.kind, closing.outcome).effect === 'skipped';
  return [
    ...(skipped
      ? [
          unless(
            'skip',
            `${stepName(index, step)} would be skipped: that needs a reason and somebody who may decide it.`,
          ),
        ]
      : []),
    ...judgeOrder(index, links, step, closing.startedAt ?? closing.endedAt, skipped),
    ...(skipped ? [] : judgeKind(index, step, closing)),
  ];
}

/** Whether work on a step may begin at an instant. */
export function judgeStart(
  index: ShopIndex,
  links: readonly Link[],
  step: Step,
  startedAt: Instant,
  mouldId?: Id,
): Refusal[] {
  const gone = judgeCarrier(index, step);
  if (gone.length > 0) return gone;
  return [
    ...judgeOrder(index, links, step, startedAt, false),
    ...(step.kind === 'pull' ? judgeMould(index, step, mouldId, startedAt, null) : []),
    ...(step.kind === 'pour' ? judgeWet(index, step) : []),
  ];
}

/** Rules about what the step is done to: those can never be overridden. */
function judgeCarrier(index: ShopIndex, step: Step): Refusal[] {
  if (!isOpen(step))
    return [never('closed', `${stepLabel(index, step)} is already recorded as ${step.outcome ?? step.state}.`)];
  const cast = step.carrier === 'cast' ? index.cast.get(step.carrierId) : undefined;
  if (cast?.state === 'lost')
    return [never('lost', `${castLabel(index, cast)} was lost (${cast.lostWhy}); a lost cast is not used again.`)];
  const pieces = piecesOfStep(index, step).map((id) => index.piece.get(id)!);
  if (pieces.length > 0 && pieces.every((piece) => piece.state === 'hold'))
    return [never('hold', `On hold: ${pieces[0]!.holdReason}. Take the hold off first.`)];
  if (pieces.length > 0 && pieces.every((piece) => piece.state === 'cancelled' || piece.state === 'lost'))
    return [never('state', `The piece is ${pieces[0]!.state}.`)];
  return [];
}

function judgeOrder(
  index: ShopIndex,
  links: readonly Link[],
  step: Step,
  startedAt: Instant,
  skipped: boolean,
): Refusal[] {
  const start = toMs(startedAt);
  const into = links.filter((link) => link.to.id === step.id);
  const open = [...new Set(into.filter((link) => !isClosed(link.from)).map((link) => link.from))];
  const refusals: Refusal[] = open.map((before) =>
    before.kind === 'leak-test' && step.kind === 'pour'
      ? unless('leak', `The leak test is not passed: ${stepLabel(index, before)}.`)
      : unless('order', `${stepName(index, step)} comes after ${stepLabel(index, before)}, which is not done.`),
  );
  for (const { from, minLag, physical } of into) {
    if (!isClosed(from) || from.endedAt === null) continue;
    const since = (start - toMs(from.endedAt)) / 60_000;
    if (since < 0)
      refusals.push(
        unless('order', `${stepLabel(index, from)} was done only ${spanInWords(since)} after the time given.`),
      );
    else if (!skipped && physical && since < minLag)
      refusals.push(
        unless(
          'min wait',
          `${stepLabel(index, from)} needs ${spanInWords(minLag)}; only ${spanInWords(since)} have passed: ${spanInWords(minLag - since)} too early.`,
        ),
      );
  }
  return refusals;
}

/** What to note on a step that was done later than the one before it allows. */
export function tooOld(index: ShopIndex, links: readonly Link[], step: Step, startedAt: Instant): string[] {
  return links
    .filter(
      (link) => link.to.id === step.id && link.maxLag !== null && link.from.endedAt !== null && isClosed(link.from),
    )
    .filter((link) => (toMs(startedAt) - toMs(link.from.endedAt!)) / 60_000 > link.maxLag!)
    .map((link) => {
      const waited = (toMs(startedAt) - toMs(link.from.endedAt!)) / 60_000;
      return `too old: ${spanInWords(waited)} after ${stepName(index, link.from)}, at most ${spanInWords(link.maxLag!)}`;
    });
}

function judgeKind(index: ShopIndex, step: Step, closing: Closing): Refusal[] {
  if (step.kind === 'pull' && step.state !== 'running')
    return judgeMould(
      index,
      step,
      closing.readings['mouldId'] as Id | undefined,
      closing.startedAt ?? closing.endedAt,
      closing.endedAt,
    );
  if (step.kind === 'join-tree') return judgeCasts(index, step, (closing.readings['castIds'] ?? []) as Id[]);
  if (step.kind === 'pour' && closing.outcome !== 'not poured') return judgeWet(index, step);
  if (step.kind === 'patina')
    return openItemsOf(index, step.carrierId).map((item) =>
      never(
        'open item',
        `Still open: ${openItemLabel(index, item)}. Put it back, take it out, or say that it stays inside on purpose.`,
      ),
    );
  return [];
}

/** A wet shell, core or block is never poured; nobody can override it. */
export function judgeWet(index: ShopIndex, step: Step): Refusal[] {
  const since = wetSince(index.stepsOf.get(step.carrierId) ?? []);
  return since === null
    ? []
    : [
        never(
          'wet',
          `The mould is wet since ${since.slice(0, 16).replace('T', ' ')} UTC: dry or fire it first. A wet mould is never poured.`,
        ),
      ];
}

/** One mould makes one wax at a time. */
function judgeMould(
  index: ShopIndex,
  step: Step,
  mouldId: Id | undefined,
  from: Instant,
  until: Instant | null,
): Refusal[] {
  const cast = index.cast.get(step.carrierId)!;
  const mould = index.mould.get(mouldId ?? '');
  if (!mould) return [never('mould', 'Say which mould the wax comes from.')];
  if (!mould.sectionIds.includes(cast.sectionId))
    return [
      never('mould', `Mould M-${mould.number} ${mould.name} does not make ${index.section.get(cast.sectionId)?.name}.`),
    ];
  const usable = mouldsFor(index, cast.sectionId).some((each) => each.id === mould.id && each.state === 'good');
  if (!usable) return [unless('order', `Mould M-${mould.number} ${mould.name} is ${mould.state}.`)];
  const clash = index.shop.pulls.find((pull) => pull.mouldId === mould.id && overlaps(pull, from, until));
  return clash ? [never('mould in use', inUse(mould, clash))] : [];
}

function overlaps(pull: Pull, from: Instant, until: Instant | null): boolean {
  if (pull.outcome === 'void') return false;
  const [a, b] = [toMs(pull.startedAt), pull.endedAt === null ? Infinity : toMs(pull.endedAt)];
  const [c, d] = [toMs(from), until === null ? Infinity : toMs(until)];
  // Two records of the very same minute are two pulls at once too.
  return (a < d && c < b) || (a === c && b === d);
}

const inUse = (mould: Mould, pull: Pull) =>
  `Mould M-${mould.number} ${mould.name} is in use: pull ${pull.number} ${pull.endedAt === null ? 'has not been taken out yet' : 'was in it at that time'}.`;

/** What may be joined to one tree: chased waxes of one alloy and one way of investing, not yet shelled elsewhere. */
function judgeCasts(index: ShopIndex, step: Step, castIds: readonly Id[]): Refusal[] {
  const tree = index.tree.get(step.carrierId)!;
  if (castIds.length === 0) return [never('casts', 'A tree needs at least one cast.')];
  if (new Set(castIds).size !== castIds.length) return [never('casts', 'A cast is on the list twice.')];
  return castIds.flatMap((id) => {
    const cast = index.cast.get(id);
    return cast ? judgeCast(index, tree.id, cast) : [never('casts', 'One of the casts does not exist.')];
  });
}

function judgeCast(index: ShopIndex, treeId: Id, cast: Cast): Refusal[] {
  const name = castLabel(index, cast);
  const tree = index.tree.get(treeId)!;
  if (cast.state === 'lost' || cast.state === 'void')
    return [never('lost', `${name} was lost; a lost cast is not used again.`)];
  const section = index.section.get(cast.sectionId)!;
  const work = index.work.get(section.workId)!;
  if (work.alloyId !== tree.alloyId) return [never('casts', `${name} is of another alloy: one tree, one alloy.`)];
  if ((section.method === 'block') !== (tree.method === 'block'))
    return [never('casts', `${name} is invested in another way than this tree.`)];
  const from = treeOfCast(index, cast.id);
  if (
    from &&
    from.id !== treeId &&
    (index.stepsOf.get(from.id) ?? []).some((step) => step.state !== 'planned' && step.state !== 'void')
  )
    return [
      never('casts', `${name} is already on T-${from.number}: a cast may change its tree only until that is joined.`),
    ];
  const chased = (index.stepsOf.get(cast.id) ?? []).filter((step) => step.kind === 'chase-wax').at(-1);
  return chased && isClosed(chased) && cast.state === 'wax'
    ? []
    : [unless('order', `${name} is not chased and weighed yet.`)];
}

/** Whether a cast is in a tree that could take it along, for lists to choose from. */
export function mayJoin(index: ShopIndex, treeId: Id, cast: Cast): boolean {
  return judgeCast(index, treeId, cast).length === 0;
}

/** The trees that could go through the kiln or the crucible with another one: their next step is of the same kind. */
export function companions(index: ShopIndex, step: Step, ready: (candidate: Step) => boolean): Step[] {
  return index.shop.steps.filter(
    (candidate) =>
      candidate.kind === step.kind &&
      isOpen(candidate) &&
      candidate.id !== step.id &&
      castsOfTree(index, candidate.carrierId).length > 0 &&
      ready(candidate),
  );
}

/** A step's kind in words for a refusal made elsewhere. */
export const throughWhat = (step: Step): string =>
  STEP_KINDS[step.kind].through === 'load'
    ? 'This is recorded with its kiln load, which holds all the trees that are fired together.'
    : 'This is recorded with its heat, which holds all the trees that are poured from one crucible.';
