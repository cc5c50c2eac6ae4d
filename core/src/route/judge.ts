import { never, unless } from '../records/refusal.ts';
import type { Refusal } from '../records/refusal.ts';
import type { Step } from '../records/step.ts';
import { isClosed, isOpen } from '../records/step.ts';
import type { Piece } from '../records/work.ts';
import type { Instant } from '../units/instant.ts';
import { spanInWords, toMs } from '../units/instant.ts';
import { say, span } from '../units/words.ts';
import { castLabel, stepLabel, stepName } from './labels.ts';
import type { Link } from './links.ts';
import { openItemLabel, openItemsOf } from './open-items.ts';
import type { ShopIndex } from './shop-index.ts';
import { castsOfTree } from './shop-index.ts';
import { piecesOfStep } from './standing.ts';
import type { Closing, OutcomeDef, StepKind } from './step-kind.ts';
import { outcomeOf } from './step-kind.ts';

/** The outcome that a closing names. @throws RangeError where the kind has no such outcome */
export function outcomeNamed(kind: StepKind, code: string): OutcomeDef {
  const found = outcomeOf(kind, code);
  if (!found) throw new RangeError(`${kind.name} has no outcome "${code}"`);
  return found;
}

/**
 * Whether a step may be recorded as said. Every broken rule is named; none means it may. Waits and order are judged on
 * the times done, not on when somebody types.
 */
export function judge(index: ShopIndex, links: readonly Link[], step: Step, closing: Closing): Refusal[] {
  const gone = judgeCarrier(index, step);
  if (gone.length > 0) return gone;
  const kind = index.kind(step);
  const start = closing.startedAt ?? closing.endedAt;
  if (outcomeNamed(kind, closing.outcome).effect === 'skipped')
    return [
      unless(
        'skip',
        say`${stepName(index, step)} would be skipped: that needs a reason and somebody who may decide it.`,
      ),
      ...judgeOrder(index, links, step, start, true),
    ];
  const { endedAt, outcome, readings } = closing;
  return [
    ...judgeOrder(index, links, step, start, false),
    ...judgeLedger(index, step),
    ...(kind.judge?.(index, step, { startedAt: start, endedAt, outcome, readings }) ?? []),
  ];
}

/** Whether work on a step may begin at an instant, with what is said at its begin. */
export function judgeStart(
  index: ShopIndex,
  links: readonly Link[],
  step: Step,
  startedAt: Instant,
  readings: Readonly<Record<string, unknown>> = {},
): Refusal[] {
  const gone = judgeCarrier(index, step);
  if (gone.length > 0) return gone;
  return [
    ...judgeOrder(index, links, step, startedAt, false),
    ...judgeLedger(index, step),
    ...(index.kind(step).judge?.(index, step, { startedAt, endedAt: null, outcome: null, readings }) ?? []),
  ];
}

/** Rules about what the step is done to: those can never be overridden. */
function judgeCarrier(index: ShopIndex, step: Step): Refusal[] {
  if (!isOpen(step))
    return [never('closed', say`${stepLabel(index, step)} is already recorded as ${step.outcome ?? step.state}.`)];
  const cast = step.carrier === 'cast' ? index.cast.get(step.carrierId) : undefined;
  if (cast?.state === 'lost')
    return [
      never('lost', say`${castLabel(index, cast)} was lost (${cast.lostWhy ?? '?'}); a lost cast is not used again.`),
    ];
  const pieces = piecesOfStep(index, step).map((id) => index.piece.get(id)!);
  const dipsOn = (piece: Piece) => index.kind(step).coat === true && piece.holdShells === 'on';
  if (pieces.length > 0 && pieces.every((piece) => piece.state === 'hold' && !dipsOn(piece)))
    return [never('hold', say`On hold: ${pieces[0]!.holdReason ?? 'no reason given'}. Take the hold off first.`)];
  if (pieces.length > 0 && pieces.every((piece) => piece.state === 'cancelled' || piece.state === 'lost'))
    return [never('state', say`The piece is ${pieces[0]!.state}.`)];
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
  const poured = index.kind(step).through === 'heat';
  const refusals: Refusal[] = open.map((before) => {
    const label = stepLabel(index, before);
    const { gate } = index.kind(before);
    return poured && gate
      ? unless(gate.rule, gate.says(label))
      : unless('order', say`${stepName(index, step)} comes after ${label}, which is not done.`);
  });
  for (const { from, minLag, physical, why } of into) {
    if (!isClosed(from) || from.endedAt === null) continue;
    const since = (start - toMs(from.endedAt)) / 60_000;
    if (since < 0)
      refusals.push(unless('order', say`${stepLabel(index, from)} was done only ${span(since)} after the time given.`));
    else if (!skipped && physical && since < minLag)
      refusals.push(
        unless(
          'min wait',
          say`${stepLabel(index, from)} needs ${span(minLag)}${why === undefined ? '' : say` (${why})`}; only ${span(since)} have passed: ${span(minLag - since)} too early.`,
        ),
      );
  }
  return refusals;
}

/** What was cut out or put in must be settled before some steps; nobody can override it. */
function judgeLedger(index: ShopIndex, step: Step): Refusal[] {
  if (!index.kind(step).ledgerClosed) return [];
  return openItemsOf(index, step.carrierId).map((item) =>
    never(
      'open item',
      say`Still open: ${openItemLabel(index, item)}. Put it back, take it out, or say that it stays inside on purpose.`,
    ),
  );
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

/** Why a step cannot be recorded by itself, in words. */
export const throughWhat = ({ through }: StepKind): string =>
  through === 'load'
    ? 'This is recorded with its kiln load, which holds all the trees that are fired together.'
    : 'This is recorded with its heat, which holds all the trees that are poured from one crucible.';
