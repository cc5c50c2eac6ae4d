import type { Id, Room } from '../records/common.ts';
import type { Step, StepState } from '../records/step.ts';
import { isClosed, isOpen } from '../records/step.ts';
import type { Instant } from '../units/instant.ts';
import { addMinutes, toMs } from '../units/instant.ts';
import { stepLabel } from './labels.ts';
import type { Link } from './links.ts';
import { linksInto, linksOf } from './links.ts';
import { openItemLabel, openItemsOf } from './open-items.ts';
import type { ShopIndex } from './shop-index.ts';
import { castsOfTree } from './shop-index.ts';

/** How an open step stands, apart from the clock: who it waits for, and between which instants it may begin. */
export interface Standing {
  readonly step: Step;
  /** Open steps that must end first. */
  readonly waitsFor: readonly Step[];
  /** What else holds it, in words: no mould, on hold. */
  readonly held: readonly string[];
  /** Earliest begin by what was done before; null while it waits or where nothing came before. */
  readonly readyAt: Instant | null;
  /** Latest begin before it is too old. */
  readonly tooOldAt: Instant | null;
}

/** How a step stands at a moment. */
export type Now = 'running' | 'waits' | 'held' | 'too early' | 'ready' | 'too old';

/** Works out the standing of every open step. */
export function standings(index: ShopIndex, links: readonly Link[] = linksOf(index)): Map<Id, Standing> {
  const into = linksInto(links);
  const found = new Map<Id, Standing>();
  for (const step of index.shop.steps) {
    if (isOpen(step)) found.set(step.id, standingOf(index, step, into.get(step.id) ?? []));
  }
  return found;
}

function standingOf(index: ShopIndex, step: Step, into: readonly Link[]): Standing {
  const waitsFor = [...new Set(into.filter((link) => !isClosed(link.from)).map((link) => link.from))];
  const ended = into.filter((link) => isClosed(link.from) && link.from.endedAt !== null);
  const ready = ended.map((link) => toMs(link.from.endedAt!) + (link.physical ? link.minLag : 0) * 60_000);
  const old = ended
    .filter((link) => link.maxLag !== null)
    .map((link) => toMs(link.from.endedAt!) + link.maxLag! * 60_000);
  const latest = (ms: number[], pick: (...all: number[]) => number) =>
    ms.length === 0 ? null : addMinutes('1970-01-01T00:00:00.000Z', pick(...ms) / 60_000);
  return {
    step,
    waitsFor,
    held: heldBy(index, step),
    readyAt: waitsFor.length > 0 ? null : latest(ready, Math.max),
    tooOldAt: latest(old, Math.min),
  };
}

/** The pieces a step works on. */
export function piecesOfStep(index: ShopIndex, step: Pick<Step, 'carrier' | 'carrierId'>): Id[] {
  if (step.carrier === 'piece') return [step.carrierId];
  if (step.carrier === 'cast') return [index.cast.get(step.carrierId)?.pieceId ?? ''].filter(Boolean);
  if (step.carrier === 'tree') return [...new Set(castsOfTree(index, step.carrierId).map((cast) => cast.pieceId))];
  return [];
}

function heldBy(index: ShopIndex, step: Step): string[] {
  const held: string[] = [];
  const pieces = piecesOfStep(index, step).map((id) => index.piece.get(id));
  const kind = index.kind(step);
  // Green coats may go on to the seal coat where the hold says so.
  const onHold = pieces.filter((piece) => piece?.state === 'hold' && !(kind.coat && piece.holdShells === 'on'));
  // A tree goes on while any piece in it does.
  if (onHold.length > 0 && onHold.length === pieces.length)
    held.push(`on hold: ${onHold[0]!.holdReason ?? 'no reason given'}`);
  if (kind.ledgerClosed) for (const item of openItemsOf(index, step.carrierId)) held.push(openItemLabel(index, item));
  return [...held, ...(kind.held?.(index, step) ?? [])];
}

/** What it takes to say how a step stands now, as lists and cards have it. */
export interface Stands {
  readonly state: StepState;
  /** What it waits for, what holds it included. */
  readonly waits: readonly unknown[];
  readonly held: boolean;
  readonly readyAt: Instant | null;
  readonly tooOldAt: Instant | null;
}

/** How a step stands at an instant: the one rule for server, screens and demo. */
export function standsNow({ state, waits, held, readyAt, tooOldAt }: Stands, now: Instant): Now {
  if (state === 'running') return 'running';
  if (held) return 'held';
  if (waits.length > 0) return 'waits';
  if (readyAt !== null && toMs(readyAt) > toMs(now)) return 'too early';
  if (tooOldAt !== null && toMs(tooOldAt) < toMs(now)) return 'too old';
  return 'ready';
}

/** A standing as lists have it. */
export const standsOf = ({ step, waitsFor, held, readyAt, tooOldAt }: Standing): Stands => ({
  state: step.state,
  waits: waitsFor,
  held: held.length > 0,
  readyAt,
  tooOldAt,
});

/** Whether a step can be done at an instant; one that is too old can, and is noted. */
export const canBeDone = (stands: Stands, now: Instant): boolean =>
  ['running', 'ready', 'too old'].includes(standsNow(stands, now));

/** What a step waits for, in words: at most three names and how many more. */
export function waitsInWords(index: ShopIndex, standing: Standing): string[] {
  const names = standing.waitsFor.map((step) => stepLabel(index, step));
  return [...standing.held, ...names.slice(0, 3), ...(names.length > 3 ? [`and ${names.length - 3} more`] : [])];
}

/** The room a step is done in; work inserted by hand is done in the room of what it follows. */
export function roomOfStep(index: ShopIndex, step: Step): Room {
  let root = step;
  if (index.kind(step).visits)
    while (root.insertedAfter !== null && index.step.has(root.insertedAfter))
      root = index.step.get(root.insertedAfter)!;
  return index.kind(root).room;
}
