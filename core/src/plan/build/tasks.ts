import type { Id } from '../../records/common.ts';
import type { Step } from '../../records/step.ts';
import { isOpen } from '../../records/step.ts';
import type { Piece } from '../../records/work.ts';
import { mouldsFor } from '../../route/links.ts';
import type { ShopIndex } from '../../route/shop-index.ts';
import { castsOfTree, currentCasts, pullOf, treeOfCast } from '../../route/shop-index.ts';
import type { StepKind } from '../../route/step-kind.ts';
import { piecesOfStep, roomOfStep } from '../../route/standing.ts';
import { kilnPlacesOf } from '../../shop/kiln-floor.ts';
import { plannedMinutes } from '../../shop/learned-hours.ts';
import { treeFigures } from '../../shop/tree-figures.ts';
import { DAY_MIN, PLANNED_AHEAD_MINUTES } from '../../units/instant.ts';
import { dayNumber } from '../dates.ts';
import type { Need, PlanTask } from '../problem.ts';
import { LAST_MINUTE } from '../problem.ts';
import { FIRST_PASS_YIELD } from '../simulation.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { hoistNeed } from './hoist.ts';
import { skillNeed } from './skills.ts';
import { mouldJob, mouldResource, treeJob } from './snapshot.ts';

/** A tree whose waxes nobody has weighed or estimated is planned as this much metal, kg. */
const UNKNOWN_POUR_KG = 10;

/** What is planned: open steps on what is still in work. Loads and heats as a whole are planned through their trees. */
export function plannedSteps({ index, startDay }: Pick<PlanSnapshot, 'index' | 'startDay'>): Step[] {
  const heldForGood = (until: string | null) =>
    until === null || (dayNumber(until)! - dayNumber(startDay)!) * DAY_MIN > PLANNED_AHEAD_MINUTES;
  const gone = new Set(
    index.shop.pieces
      .filter(
        ({ state, holdUntil }) =>
          state === 'cancelled' || state === 'lost' || (state === 'hold' && heldForGood(holdUntil)),
      )
      .map(({ id }) => id),
  );
  return index.shop.steps.filter((step) => {
    if (!isOpen(step) || step.carrier === 'load' || step.carrier === 'heat') return false;
    if (step.carrier === 'mould') return index.mould.get(step.carrierId)?.state !== 'retired';
    const pieces = piecesOfStep(index, step);
    // Green coats of a piece on hold go on to the seal coat where the hold says so.
    const goesOn = ({ state, holdShells }: Piece) =>
      index.kind(step).coat === true && state === 'hold' && holdShells === 'on';
    return pieces.length > 0 && !pieces.every((id) => gone.has(id) && !goesOn(index.piece.get(id)!));
  });
}

/** The pour weight of a tree, at most what a crucible can give: what needs more is planned as a full one and noted. */
export function pourKgOf({ index, settings }: PlanSnapshot, treeId: Id): number {
  return treeFigures(index, treeId, settings.liftLimitKg).metal?.pourWeight.value ?? UNKNOWN_POUR_KG;
}

/** Which mould a wax waits for, each wax of a section in turn to the usable moulds that serve it. */
export class MouldTurns {
  private readonly given = new Map<Id, number>();

  constructor(private readonly index: ShopIndex) {}

  next(sectionId: Id): Id | undefined {
    const moulds = mouldsFor(this.index, sectionId);
    const best = moulds.filter(({ state }) => state === moulds[0]!.state);
    const least = best.sort((a, b) => (this.given.get(a.id) ?? 0) - (this.given.get(b.id) ?? 0))[0];
    if (least) this.given.set(least.id, (this.given.get(least.id) ?? 0) + 1);
    return least?.id;
  }
}

/** What a step needs while hands are on: a person of its room, a place in the kiln, metal on a pour day, its mould. */
export function needsOf(snapshot: PlanSnapshot, step: Step, moulds: MouldTurns): Need[] {
  const { index, resources, settings } = snapshot;
  const kind = index.kind(step);
  const { through, minutes } = kind;
  const has = (what: string, room?: string) =>
    resources.find((each) => each.kind === what && (!room || each.room === room));
  if (through === 'load') {
    const kiln = has('kiln');
    return kiln ? [{ resource: kiln.id, units: kilnPlacesOf(index, step.carrierId, settings), key: kind.kiln! }] : [];
  }
  if (through === 'heat') {
    const crucible = has('crucible');
    const kg = Math.min(pourKgOf(snapshot, step.carrierId), settings.crucibleUsableKg);
    const alloy = index.tree.get(step.carrierId)?.alloyId ?? '';
    return crucible ? [{ resource: crucible.id, units: kg, key: alloy }] : [];
  }
  const people = minutes > 0 ? has('people', kind.byCrew ? 'chasing' : roomOfStep(index, step)) : undefined;
  const needs: Need[] = people
    ? [{ resource: people.id }, ...skillNeed(snapshot, kind), ...hoistNeed(snapshot, step)]
    : [];
  if (!kind.usesMould) return needs;
  const sectionId = index.cast.get(step.carrierId)?.sectionId;
  const mould = pullOf(index, step.carrierId)?.mouldId ?? (sectionId && moulds.next(sectionId));
  return mould ? [...needs, { resource: mouldResource(mould) }] : needs;
}

/** The job a step counts for: its piece; trees and moulds have one of their own, without a weight. */
export function jobOf(index: ShopIndex, step: Step): string {
  if (step.carrier === 'tree') return treeJob(step.carrierId);
  if (step.carrier === 'mould') return mouldJob(step.carrierId);
  return step.carrier === 'cast' ? index.cast.get(step.carrierId)!.pieceId : step.carrierId;
}

/** Until when every piece that a step works on is on hold; -1 where one is not. */
export function heldUntil({ index, startDay }: PlanSnapshot, step: Step): number {
  const pieces = piecesOfStep(index, step).map((id) => index.piece.get(id)!);
  const isCoat = index.kind(step).coat === true;
  const goesOn = ({ state, holdUntil, holdShells }: Piece) =>
    state !== 'hold' || !holdUntil || (isCoat && holdShells === 'on');
  if (pieces.length === 0 || pieces.some(goesOn)) return -1;
  return Math.min(...pieces.map(({ holdUntil }) => (dayNumber(holdUntil!)! - dayNumber(startDay)!) * DAY_MIN));
}

/** The end of the day a piece is due, in minutes. */
export function dueMinute(startDay: string, piece: Pick<Piece, 'dueDate'>): number | undefined {
  return piece.dueDate === null ? undefined : (dayNumber(piece.dueDate)! + 1 - dayNumber(startDay)!) * DAY_MIN;
}

/** A step as a task, apart from when it may start. */
export function taskOf(snapshot: PlanSnapshot, step: Step, moulds: MouldTurns): PlanTask {
  return {
    id: step.id,
    job: jobOf(snapshot.index, step),
    duration: plannedMinutes(snapshot.index, step, snapshot.learned),
    spans: snapshot.index.kind(step).spans,
    needs: needsOf(snapshot, step, moulds),
    room: roomOfStep(snapshot.index, step),
    loss: lossOf(snapshot.index.kind(step)),
    ...redoOf(snapshot, step),
  };
}

/** In what share of all cases a step loses what it is done to: what its room does not bring through at the first try. */
function lossOf({ risk }: StepKind): number {
  return risk === undefined ? 0 : Number((1 - FIRST_PASS_YIELD[risk]!).toFixed(6));
}

/** The casts that are lost with what a step is done to: made of one cast alone, a piece is lost with it. */
function castsLost({ index }: PlanSnapshot, { carrier, carrierId }: Step): readonly Id[] {
  if (carrier === 'cast') return [carrierId];
  if (carrier === 'tree') return castsOfTree(index, carrierId).map(({ id }) => id);
  const piece = index.piece.get(carrierId);
  const casts = piece ? currentCasts(index, piece) : [];
  return casts.length === 1 ? casts.map(({ id }) => id) : [];
}

/** What was done of it so far, from the first record to the last, and would be done again were it lost by this step. */
function redoOf(snapshot: PlanSnapshot, step: Step): { readonly redo?: number } {
  const { index, minuteOf } = snapshot;
  if (snapshot.index.kind(step).risk === undefined) return {};
  const casts = castsLost(snapshot, step);
  const carriers = new Set(casts.flatMap((id) => [id, treeOfCast(index, id)?.id ?? id]));
  const times = [...carriers].flatMap((id) =>
    (index.stepsOf.get(id) ?? []).flatMap(({ state, startedAt, endedAt }) =>
      state === 'done' && endedAt !== null ? [minuteOf(startedAt ?? endedAt), minuteOf(endedAt)] : [],
    ),
  );
  const redo = times.length === 0 ? 0 : Math.max(...times) - Math.min(...times);
  return redo > 0 ? { redo: Math.min(redo, LAST_MINUTE) } : {};
}
