import type { Id } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import { isClosed } from '../records/step.ts';
import type { Cast, Piece } from '../records/work.ts';
import type { Text } from '../units/words.ts';
import { chainOf, sidesOf } from './chain.ts';
import type { ShopIndex } from './shop-index.ts';
import { currentCasts, pullOf } from './shop-index.ts';
import { waitsAfter } from './waits.ts';

/** One step may not begin before another has ended and its wait has passed. Minutes are elapsed. */
export interface Link {
  readonly from: Step;
  readonly to: Step;
  readonly minLag: number;
  readonly maxLag: number | null;
  /** An expected wait is for planning; nobody is refused by it. */
  readonly physical: boolean;
  /** What makes the wait as long as it is. */
  readonly why?: Text;
}

/**
 * Every link of the shop, worked out from carriers, memberships and the route: an acyclic graph over all steps that are
 * not void. Floor, refusals and planner all use these.
 */
export function linksOf(index: ShopIndex): readonly Link[] {
  const found = known.get(index) ?? workOut(index);
  known.set(index, found);
  return found;
}

/** An index never changes, so its links are worked out once. */
const known = new WeakMap<ShopIndex, readonly Link[]>();

function workOut(index: ShopIndex): Link[] {
  const links: Link[] = [];
  const add = (from: Step | undefined, to: Step | undefined, within?: number | null) => {
    // A step inserted later must not seem to come before what was already done.
    if (!from || !to || from === to || (isClosed(to) && !isClosed(from))) return;
    const own = index.kind(to).comesAfter;
    const { min, max, why } = own ?? waitsAfter(index, from);
    const kind = index.kind(from);
    const fresh = kind.freshForPour && !own && !isPour(index, to) ? null : max;
    links.push({
      from,
      to,
      minLag: min,
      maxLag: within ?? fresh,
      physical: kind.waitIs === 'physical',
      ...(why === undefined ? {} : { why }),
    });
  };
  const addChain = (chain: readonly Step[]) => {
    let before: Step | undefined;
    for (const step of chain) {
      add(before, step);
      if (!index.kind(step).aside) before = step;
    }
  };

  for (const mould of index.shop.moulds) addChain(chainOf(index, mould.id));
  for (const load of index.shop.loads) addChain(chainOf(index, load.id));
  for (const heat of index.shop.heats) addChain(chainOf(index, heat.id));

  const castSides = new Map(index.shop.casts.map((cast) => [cast.id, sidesOf(index, cast.id)]));
  const pieceSides = new Map(index.shop.pieces.map((piece) => [piece.id, sidesOf(index, piece.id)]));

  for (const cast of index.shop.casts) {
    const { wax, metal } = castSides.get(cast.id)!;
    addChain(wax);
    addChain(metal);
    add(mouldStep(index, cast, wax[0]), wax[0]);
  }

  for (const tree of index.shop.trees) {
    const chain = chainOf(index, tree.id);
    addChain(chain);
    keepFresh(index, chain, add);
    const join = chain[0];
    const end = chain.at(-1);
    for (const member of index.membersOf.get(tree.id) ?? []) {
      const cast = index.cast.get(member.castId);
      if (!cast || (member.until !== null && !wasKnockedOut(tree.state))) continue;
      const sides = castSides.get(cast.id)!;
      add(sides.wax.at(-1), join);
      if (end && index.kind(end).freesCasts) add(end, sides.metal[0]);
      for (const approval of approvalsFor(index, pieceSides, cast)) add(approval, join);
    }
  }

  for (const piece of index.shop.pieces) {
    const { wax, metal } = pieceSides.get(piece.id)!;
    addChain(wax);
    for (const cast of currentCasts(index, piece)) add(castSides.get(cast.id)!.wax.at(-1), wax[0]);
    linkMetalSide(index, piece, metal, castSides, add);
  }
  return links;
}

/** What is kept fresh for the pour has no maximum of its own before whatever stands between. */
const isPour = (index: ShopIndex, step: Step): boolean => index.kind(step).through === 'heat';

type Add = (from: Step | undefined, to: Step | undefined, within?: number | null) => void;
type Sides = ReadonlyMap<Id, { readonly wax: readonly Step[]; readonly metal: readonly Step[] }>;

const wasKnockedOut = (state: string) => state === 'knocked out' || state === 'poured';

/** The mould a pull waits for: the one it was made in, else the one that can be used soonest. */
function mouldStep(index: ShopIndex, cast: Cast, first: Step | undefined): Step | undefined {
  if (!first || !index.kind(first).usesMould) return undefined;
  const used = pullOf(index, cast.id)?.mouldId;
  const last = (mouldId: Id) => {
    const chain = chainOf(index, mouldId);
    return isClosed(first) ? chain.find(({ state }) => state === 'done') : chain.at(-1);
  };
  if (used !== undefined) return last(used);
  const serving = mouldsFor(index, cast.sectionId);
  const steps = serving.map((mould) => last(mould.id)).filter((step) => step !== undefined);
  return steps.find(isClosed) ?? steps[0];
}

/** The moulds that serve a section and can be, or can become, usable; good ones first. */
export function mouldsFor(index: ShopIndex, sectionId: Id) {
  const rank = { good: 0, 'in repair': 1, making: 2, worn: 3, retired: 4 };
  const workId = index.section.get(sectionId)?.workId ?? '';
  return (index.mouldsOf.get(workId) ?? [])
    .filter((mould) => mould.sectionIds.includes(sectionId) && rank[mould.state] < 3)
    .sort((a, b) => rank[a.state] - rank[b.state]);
}

/** What was fired may not lie too long before the pour, also where a test, a patch or a drying stands between. */
function keepFresh(index: ShopIndex, chain: readonly Step[], add: Add): void {
  const pour = chain.find((step) => isPour(index, step));
  const place = pour ? chain.indexOf(pour) : -1;
  const test = chain.slice(0, Math.max(0, place)).findLast((step) => index.kind(step).freshForPour);
  if (test && chain[place - 1] !== test) add(test, pour, waitsAfter(index, test).max);
}

/** The wax approvals that hold a cast back from sprueing: its piece's own, and with "first" the first piece's. */
function approvalsFor(index: ShopIndex, pieceSides: Sides, cast: Cast): Step[] {
  const piece = index.piece.get(cast.pieceId);
  const work = piece && index.work.get(piece.workId);
  if (!piece || !work || work.approval === 'none') return [];
  const asked = work.approval === 'each' ? [piece] : (index.piecesOf.get(work.id) ?? []);
  return asked.flatMap((each) => pieceSides.get(each.id)?.wax.at(-1) ?? []);
}

/**
 * The sections meet in their joins. Joins side by side may be done in any order; the first section carries the others, so
 * each join waits for it too. Without joins the one cast goes straight to the metal chaser.
 */
function linkMetalSide(index: ShopIndex, piece: Piece, metal: readonly Step[], castSides: Sides, add: Add): void {
  const casts = currentCasts(index, piece);
  const lastOf = (cast: Cast | undefined) => (cast ? castSides.get(cast.id)?.metal.at(-1) : undefined);
  const joins = (step: Step | undefined): boolean => step !== undefined && index.kind(step).joinsSection === true;
  const carrying = casts.find((cast) => index.section.get(cast.sectionId)?.ordinal === 1) ?? casts[0];
  for (let start = 0, before: readonly Step[] = []; start < metal.length;) {
    let end = start + 1;
    if (joins(metal[start])) while (joins(metal[end])) end++;
    const group = metal.slice(start, end);
    for (const step of group) {
      for (const earlier of before) add(earlier, step);
      if (!joins(step)) continue;
      add(lastOf(casts.find((cast) => cast.sectionId === step.sectionId)), step);
      add(lastOf(carrying), step);
    }
    before = group;
    start = end;
  }
  const after = metal.filter((step) => !joins(step));
  const next = after.find((step) => !isClosed(step)) ?? after.find((step) => index.kind(step).afterJoining);
  for (const cast of casts) add(lastOf(cast), next);
}

/** The links into each step, by its id. */
export function linksInto(links: readonly Link[]): Map<Id, Link[]> {
  const into = new Map<Id, Link[]>();
  for (const link of links) {
    const found = into.get(link.to.id);
    if (found) found.push(link);
    else into.set(link.to.id, [link]);
  }
  return into;
}
