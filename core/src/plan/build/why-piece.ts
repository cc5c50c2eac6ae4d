import type { Id } from '../../records/common.ts';
import type { DraftChange } from '../../records/draft.ts';
import type { Step } from '../../records/step.ts';
import { isOpen } from '../../records/step.ts';
import { piecesOfStep } from '../../route/standing.ts';
import type { HoldKind } from '../../records/why.ts';
import type { Doing } from '../../shop/act.ts';
import { DAY_MIN, addDays, daysBetween } from '../../units/instant.ts';
import type { Text } from '../../units/words.ts';
import { dayToOpen } from '../relief.ts';
import type { ChainLink } from '../why.ts';
import { holdingChain } from '../why.ts';
import type { PlannedShop } from './draft-plan.ts';
import { countLate, pieceEnds, planAsIs, planWith } from './draft-plan.ts';
import { stepIdOf } from './parts.ts';
import type { PlanSnapshot } from './snapshot.ts';
import { DONE_BEFORE, mouldResource } from './snapshot.ts';
import { holdOf, taskWords } from './why-words.ts';

/** A step of the chain, in the plan's minutes. */
export interface HeldStep {
  readonly stepId: Id | null;
  readonly what: string;
  /** Of the piece itself; else of others that it waits for. */
  readonly own: boolean;
  readonly start: number;
  readonly end: number;
  /** From when on what holds it let it wait. */
  readonly waitsFrom: number;
  readonly hold: HoldKind;
  readonly words: Text;
}

export interface PieceRelief {
  readonly change: DraftChange;
  readonly finish: number;
  readonly sooner: number;
  readonly lateAfter: number;
}

export interface WhyPiece {
  readonly finish: number;
  readonly lateBefore: number;
  /** The first step first. */
  readonly links: readonly HeldStep[];
  /** The greatest gain first, three at most. */
  readonly reliefs: readonly PieceRelief[];
}

/** Reliefs that are tried at most, those first that the chain waits for longest; and how many of them are told. */
const MOST_TRIED = 8;
const MOST_TOLD = 3;
const DAYS_TRIED = 2;
/** Less than half a day is not worth asking anybody for. */
const WORTH_MIN = DAY_MIN / 2;

/**
 * Why a piece is out when it is: the chain of steps that holds its day, each with what it waited for, and what the shop could
 * do about it. Each relief is a change as a draft has it, and is planned as a draft is: who tries it gets the same.
 * @returns undefined where nothing of the piece is planned, or no plan can be made
 */
export function whyPiece(snapshot: PlanSnapshot, pieceId: Id, doing: Doing): WhyPiece | undefined {
  const base = planAsIs(snapshot);
  const { problem, schedule } = base.plan;
  if (schedule.status !== 'feasible' || !problem.tasks.some(({ job }) => job === pieceId)) return undefined;
  const { chain } = holdingChain(problem, schedule, pieceId);
  const finish = pieceEnds(base).get(pieceId)!;
  const reliefs = proposals(base, chain)
    .slice(0, MOST_TRIED)
    .flatMap((change): PieceRelief[] => {
      const tried = planWith(snapshot, [change], doing);
      if (tried.faults.length > 0 || tried.plan.schedule.status !== 'feasible') return [];
      const ends = pieceEnds(tried);
      const sooner = finish - ends.get(pieceId)!;
      return sooner < WORTH_MIN
        ? []
        : [{ change, finish: ends.get(pieceId)!, sooner, lateAfter: countLate(tried, ends) }];
    })
    .sort((a, b) => b.sooner - a.sooner)
    // Of two days for the same hours the better one is told.
    .filter(({ change }, place, all) => all.findIndex((other) => isSameAsk(other.change, change)) === place)
    .slice(0, MOST_TOLD);
  return { finish, lateBefore: countLate(base), links: inSteps(base, chain, pieceId), reliefs };
}

/** The chain from its first step on; the parts of work that is laid down now and then are one step. */
function inSteps(planned: PlannedShop, chain: readonly ChainLink[], pieceId: Id): HeldStep[] {
  const { snapshot } = planned;
  const steps: HeldStep[] = [];
  for (const link of [...chain].reverse()) {
    const stepId = stepIdOf(link.task.replace(DONE_BEFORE, ''));
    const last = steps.at(-1);
    if (last && last.stepId === stepId) {
      steps[steps.length - 1] = { ...last, end: link.end };
      continue;
    }
    const { hold, words } = holdOf(planned, link);
    const step = snapshot.index.step.get(stepId);
    steps.push({
      stepId: step ? stepId : null,
      what: taskWords(snapshot, link.task),
      own: isOf(snapshot, step, pieceId),
      start: link.start,
      end: link.end,
      // It waits for mates and machines from when it was ready; for time and hours from the end of what comes before.
      waitsFrom: Math.min(link.start, last ? Math.min(last.end, link.start - link.waited) : link.start - link.waited),
      hold,
      words,
    });
  }
  // What is over is where the chain begins, and no part of the answer.
  return steps.filter(({ stepId }) => stepId === null || isOpen(snapshot.index.step.get(stepId)!));
}

/** A mould is of every piece of its work. */
function isOf({ index }: PlanSnapshot, step: Step | undefined, pieceId: Id): boolean {
  if (step?.carrier === 'mould') return index.mould.get(step.carrierId)?.workId === index.piece.get(pieceId)?.workId;
  return step !== undefined && piecesOfStep(index, step).includes(pieceId);
}

/** What could be done about what the chain waits for, the longest wait first. */
function proposals({ snapshot, plan }: PlannedShop, chain: readonly ChainLink[]): DraftChange[] {
  const waits = new Map<string, { wait: number; change: DraftChange }>();
  const add = (wait: number, change: DraftChange) => {
    const key = JSON.stringify('from' in change ? { ...change, from: '', to: '' } : change);
    const known = waits.get(key);
    waits.set(key, { wait: (known?.wait ?? 0) + wait, change: widest(known?.change, change) });
  };
  const tomorrow = (Math.floor(snapshot.minuteOf(snapshot.now) / DAY_MIN) + 1) * DAY_MIN;
  for (const { start, end, hold, waited, closed, calendars } of chain) {
    if (hold.kind === 'resource') {
      const change = oneMore(snapshot, hold.resource, start - waited, end);
      if (change) add(waited, change);
    }
    for (const calendarId of closed >= DAY_MIN / 2 ? calendars : []) {
      if (!snapshot.calendars.some(({ id }) => id === calendarId)) continue;
      // Nobody can be asked to come today. On the first day its mates may not be ready yet: the next one is tried too.
      let from = Math.max(start - closed, tomorrow);
      for (let day = 0; day < DAYS_TRIED && from < start; day++) {
        const date = dayToOpen(plan.problem, calendarId, from, start);
        if (date === undefined) break;
        add(day === 0 ? closed : 1, { kind: 'open day', calendarId, date });
        from = (daysBetween(snapshot.startDay, date) + 1) * DAY_MIN;
      }
    }
  }
  return [...waits.values()].sort((a, b) => b.wait - a.wait).map(({ change }) => change);
}

const isSameAsk = (one: DraftChange, other: DraftChange): boolean =>
  one === other || (one.kind === 'open day' && other.kind === 'open day' && one.calendarId === other.calendarId);

/** Hands that are wanted twice are wanted from the first day to the last. */
function widest(one: DraftChange | undefined, other: DraftChange): DraftChange {
  if (one?.kind !== 'hands' || other.kind !== 'hands') return one ?? other;
  return { ...one, from: one.from < other.from ? one.from : other.from, to: one.to > other.to ? one.to : other.to };
}

function oneMore(snapshot: PlanSnapshot, resourceId: string, from: number, to: number): DraftChange | undefined {
  const mould = snapshot.index.shop.moulds.find(({ id }) => mouldResource(id) === resourceId);
  if (mould) return { kind: 'mould', mouldId: mould.id };
  const resource = snapshot.resources.find(({ id }) => id === resourceId);
  if (!resource) return undefined;
  if (resource.kind !== 'people') return { kind: 'count', resourceId, count: resource.count + 1 };
  const day = (minute: number) => addDays(snapshot.startDay, Math.max(0, Math.floor(minute / DAY_MIN)));
  return { kind: 'hands', resourceId, more: 1, from: day(from), to: day(to), why: '' };
}
