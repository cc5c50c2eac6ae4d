import type { Id } from '../records/common.ts';
import type { Mould } from '../records/mould.ts';
import { isClosed, isOpen } from '../records/step.ts';
import type { AnswerDef, Decision } from '../records/question.ts';
import type { Cast, Piece } from '../records/work.ts';
import type { MouldCount } from '../mould/mould-count.ts';
import { mouldCount } from '../mould/mould-count.ts';
import { pieceLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { currentCasts, treeOfCast } from '../route/shop-index.ts';
import { toMs } from '../units/instant.ts';
import { lowered, say } from '../units/words.ts';
import { counted } from './act.ts';
import { castWeights } from './cast-weights.ts';

/** A piece that is lost is its whole way: more than any recast. */
const LOST_DAYS = 60;
/** Days that a kilogram of bronze too much is set against, for the order of questions alone. */
const DAYS_PER_KG = 0.5;
const AFTER_WAX: readonly AnswerDef[] = [
  { code: 'keep', label: 'Leave it so', does: 'noted' },
  { code: 'mend', label: 'Mend and weigh again', does: 'again' },
  { code: 'recast', label: 'Pull a new wax', does: 'recast' },
];

/** What a piece wants decided: a wax outside its band, and whatever its steps' rooms ask (a leak, a short pour). */
export function pieceDecisions(index: ShopIndex, piece: Piece, band: number): Decision[] {
  const name = pieceLabel(index, piece);
  if (piece.state === 'lost')
    return [
      {
        text: say`${name}: its only wax is lost. Model it again, or give it up?`,
        costs: 'there is no second wax of it',
        days: LOST_DAYS,
        urgent: true,
        answers: [],
      },
    ];
  const single = (index.sectionsOf.get(piece.workId) ?? []).length === 1;
  return currentCasts(index, piece).flatMap((cast) => {
    const section = index.section.get(cast.sectionId)!;
    const what = single ? name : `${name} ${section.name}`;
    const tree = treeOfCast(index, cast.id);
    const onTree = (index.stepsOf.get(tree?.id ?? '') ?? []).filter((step) => step.state !== 'void');
    const inspected = (index.stepsOf.get(cast.id) ?? []).some((step) => index.kind(step).inspects && isClosed(step));
    const asked = onTree.flatMap((step): Decision[] => {
      const asking = step.decided === null ? index.kind(step).asks?.(step, { inspected }) : undefined;
      if (!asking) return [];
      const days = daysSoFar(index, cast);
      return [
        {
          ...asking,
          text: say`${what} ${asking.text}`,
          costs: say`cast again: about ${counted(days, 'day')}, as it has taken so far`,
          days,
          stepId: step.id,
          castId: cast.id,
          version: step.version,
        },
      ];
    });
    const joined = onTree.some((step) => index.kind(step).joinsTree && !isOpen(step));
    return [...(joined ? [] : waxDecision(index, cast, what, band)), ...asked];
  });
}

/** A wax outside its band can still be mended, as long as it hangs on no tree. */
function waxDecision(index: ShopIndex, cast: Cast, what: string, band: number): Decision[] {
  const section = index.section.get(cast.sectionId)!;
  const { deviation, wax, plannedWax } = castWeights(index, section, cast.id, band);
  const weighed = (index.stepsOf.get(cast.id) ?? [])
    .filter((step) => index.kind(step).weighs === 'wax' && isClosed(step))
    .at(-1);
  const open = (index.stepsOf.get(cast.id) ?? []).some((step) => index.kind(step).weighs === 'wax' && isOpen(step));
  if (!deviation?.flagged || !weighed || weighed.decided !== null || open) return [];
  const kilograms = Math.abs((wax?.value ?? 0) - (plannedWax?.value ?? 0)) * METAL_PER_WAX;
  return [
    {
      text: say`${what}: ${lowered(deviation.inWords)}. Mend the wax, or leave it so?`,
      costs: 'an hour now; after the pour it stays',
      days: kilograms * DAYS_PER_KG,
      urgent: true,
      stepId: weighed.id,
      castId: cast.id,
      version: weighed.version,
      answers: AFTER_WAX,
    },
  ];
}

/** "Nine or ten to one" (handbook 2.2): good enough to put questions in an order. */
const METAL_PER_WAX = 9;

/** Whole days from a cast's first step to its last one that is done: what making it anew takes about. */
function daysSoFar(index: ShopIndex, cast: Cast): number {
  const tree = treeOfCast(index, cast.id);
  const done = [...(index.stepsOf.get(cast.id) ?? []), ...(index.stepsOf.get(tree?.id ?? '') ?? [])].flatMap(
    ({ startedAt, endedAt }) => [startedAt, endedAt].flatMap((at) => (at === null ? [] : [toMs(at)])),
  );
  return done.length === 0 ? 1 : Math.max(1, Math.round((Math.max(...done) - Math.min(...done)) / 86_400_000));
}

interface Pulls {
  /** Made in each mould, and whether a wax is in it now. */
  readonly made: ReadonlyMap<Id, number>;
  readonly filled: ReadonlySet<Id>;
  /** Still to be made of each section. */
  readonly owed: ReadonlyMap<Id, number>;
}

/** Worked out once for a shop as it stands: it is asked of every mould, and goes through every step. */
const known = new WeakMap<ShopIndex, Pulls>();

function pullsIn(index: ShopIndex): Pulls {
  const found = known.get(index);
  if (found) return found;
  const made = new Map<Id, number>();
  const filled = new Set<Id>();
  for (const { mouldId, outcome, endedAt } of index.shop.pulls) {
    if (outcome !== 'void') made.set(mouldId, (made.get(mouldId) ?? 0) + 1);
    if (endedAt === null) filled.add(mouldId);
  }
  const owed = new Map<Id, number>();
  for (const step of index.shop.steps) {
    if (step.state !== 'planned' || step.carrier !== 'cast' || !index.kind(step).usesMould) continue;
    const sectionId = index.cast.get(step.carrierId)?.sectionId;
    if (sectionId !== undefined) owed.set(sectionId, (owed.get(sectionId) ?? 0) + 1);
  }
  const pulls = { made, filled, owed };
  known.set(index, pulls);
  return pulls;
}

/** A mould's pulls, made and owed, from the records. */
export function mouldUse(index: ShopIndex, mould: Mould): MouldCount {
  const { made, owed } = pullsIn(index);
  const still = mould.sectionIds.reduce((sum, id) => sum + (owed.get(id) ?? 0), 0);
  return mouldCount(mould, made.get(mould.id) ?? 0, still);
}

/** Whether a wax is in the mould now. */
export const mouldInUse = (index: ShopIndex, mouldId: Id): boolean => pullsIn(index).filled.has(mouldId);

/** A new mould is made and cures for about so long; meanwhile no wax is pulled. */
const NEW_MOULD_DAYS = 2;

/** A mould that will not last for what it owes, where no other one that serves its sections is there or being made. */
export function mouldDecisions(index: ShopIndex, mould: Mould): Decision[] {
  const { left, owed } = mouldUse(index, mould);
  if (mould.state !== 'good' || left === null || left >= owed) return [];
  const others = (index.mouldsOf.get(mould.workId) ?? []).filter(
    (other) =>
      other.id !== mould.id &&
      (other.state === 'good' || other.state === 'making') &&
      mould.sectionIds.every((id) => other.sectionIds.includes(id)),
  );
  const spare = others.reduce((sum, other) => sum + (mouldUse(index, other).left ?? Infinity), left);
  if (spare >= owed) return [];
  const waiting = owed - spare;
  const title = index.work.get(mould.workId)?.title ?? '';
  return [
    {
      text: say`${title}, mould M-${mould.number} ${mould.name}: good for ${counted(left, 'pull')} more, ${owed} are still to be pulled`,
      costs: say`a new mould is a day's work and a day to cure; without it ${counted(waiting, 'wax waits', 'waxes wait')}`,
      days: NEW_MOULD_DAYS * waiting,
      urgent: left === 0,
      answers: [],
    },
  ];
}
