// Helpers for specs: a small shop, and a way to play steps through the same rules the server uses.
import type { Id } from '../records/common.ts';
import type { Op, Shop } from '../records/shop.ts';
import { EMPTY_SHOP, applyOps, insert } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import type { Mould } from '../records/mould.ts';
import type { Piece, Section, Work } from '../records/work.ts';
import { closeStep } from '../route/close-step.ts';
import { growMould, growPiece } from '../route/grow.ts';
import type { Link } from '../route/links.ts';
import { linksOf } from '../route/links.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { Closing } from '../route/step-kind.ts';
import { indexShop } from '../shop/index-shop.ts';
import { kindOf } from '../shop/kinds.ts';
import { ROUTES } from '../shop/routes.ts';
import { addMinutes } from '../units/instant.ts';

export const START = '2027-03-01T08:00:00.000Z';

/** Ids that count up, so that a spec gives the same shop every time. */
export function counter(prefix = 'id'): () => Id {
  let count = 0;
  return () => `${prefix}-${String(++count).padStart(6, '0')}`;
}

export interface SmallShop {
  readonly work?: Partial<Work>;
  readonly sections?: readonly Partial<Section>[];
  readonly pieces?: number;
}

/** A shop with one work: its mould good to make, its pieces grown. */
export function smallShop(given: SmallShop = {}, newId = counter(), from: Shop = EMPTY_SHOP): Shop {
  const workId = newId();
  const work: Work = {
    id: workId,
    number: 1,
    code: 'OTT',
    title: 'Otter with Reed',
    artist: 'A. Sculptor',
    editionSize: given.pieces ?? 1,
    artistProofs: 0,
    alloyId: 'C87300',
    method: 'shell',
    approval: 'none',
    finish: '',
    finishing: 'patina',
    glyph: 'otter',
    routeVersion: 1,
    version: 1,
    ...given.work,
  };
  const sections = (given.sections ?? [{}]).map((section, i): Section => ({
    id: newId(),
    workId,
    ordinal: i + 1,
    name: `Section ${i + 1}`,
    method: work.method,
    wallMm: 5,
    metalHeightMm: 200,
    expectedWaxKg: 0.75,
    areaCm2: 1600,
    seamM: null,
    deep: false,
    typed: {},
    version: 1,
    ...section,
  }));
  const pieces = Array.from({ length: given.pieces ?? 1 }, (_, i): Piece => ({
    id: newId(),
    workId,
    series: 'edition',
    number: i + 1,
    of: given.pieces ?? 1,
    state: 'not begun',
    markInWax: null,
    dueDate: null,
    priority: 'usual',
    holdReason: null,
    holdUntil: null,
    holdShells: null,
    deliveredAt: null,
    orderId: null,
    routeVersion: work.routeVersion,
    version: 1,
  }));
  const mould: Mould = {
    id: newId(),
    number: 1,
    workId,
    name: 'whole',
    sectionIds: sections.map((section) => section.id),
    state: 'making',
    lifePulls: null,
    pullsBefore: 0,
    version: 1,
  };
  return applyOps(from, [
    insert('works', work),
    ...sections.map((section) => insert('sections', section)),
    ...pieces.map((piece) => insert('pieces', piece)),
    ...(work.method === 'direct' ? [] : growMould(newId, ROUTES[work.routeVersion - 1]!, mould)),
    ...pieces.flatMap((piece, i) => growPiece(newId, ROUTES[work.routeVersion - 1]!, work, sections, piece, i === 0)),
  ]);
}

/** Readings that pass for a step, so that a spec names only those it is about. */
export function readingsFor(index: ShopIndex, step: Step): Record<string, unknown> {
  if (step.kind === 'pull') {
    const cast = index.cast.get(step.carrierId)!;
    return {
      mouldId: index.shop.moulds.find((mould) => mould.sectionIds.includes(cast.sectionId))?.id,
      wax: 'pattern',
      potC: 82,
    };
  }
  if (step.kind === 'chase-wax') return { waxKg: 0.75, markPutIn: true };
  if (step.kind === 'join-tree')
    return { castIds: castsOfTree(index, step.carrierId).map((cast) => cast.id), bars: [] };
  if (step.kind === 'knock-out')
    return { castKg: Object.fromEntries(castsOfTree(index, step.carrierId).map((cast) => [cast.id, 6.4])) };
  if (step.kind === 'leak-test') return { how: 'light' };
  if (step.kind === 'pour') return { pouredKg: 12 };
  return {};
}

export const closing = (outcome: string, endedAt: string, rest: Partial<Closing> = {}): Closing => ({
  startedAt: null,
  endedAt,
  by: ['p-1'],
  recordedBy: 'p-1',
  outcome,
  readings: {},
  note: '',
  flags: [],
  ...rest,
});

/** Records a step as done (or as said) and gives the shop after it. */
export function play(
  shop: Shop,
  step: Step,
  newId: () => Id,
  given: { outcome?: string; at?: string; readings?: Record<string, unknown>; note?: string } = {},
): Shop {
  const index = indexShop(shop);
  const outcome = given.outcome ?? kindOf(step.kind).outcomes[0]!.code;
  const ops: Op[] = closeStep(
    index,
    step,
    closing(outcome, given.at ?? START, {
      readings: { ...readingsFor(index, step), ...given.readings },
      note: given.note ?? '',
    }),
    newId,
  );
  return applyOps(shop, ops);
}

/** The first open step of a kind; throws where there is none. */
export function openStep(shop: Shop, kind: Step['kind'], carrierId?: Id): Step {
  const found = shop.steps.find(
    (step) =>
      step.kind === kind &&
      (step.state === 'planned' || step.state === 'running') &&
      (!carrierId || step.carrierId === carrierId),
  );
  if (!found) throw new Error(`no open ${kind}`);
  return found;
}

/** Plays one after another the first open step of each kind, a day apart. */
export function playThrough(shop: Shop, kinds: readonly Step['kind'][], newId: () => Id): Shop {
  return kinds.reduce(
    (now, kind, i) => play(now, openStep(now, kind), newId, { at: addMinutes(START, (now.steps.length + i) * 1440) }),
    shop,
  );
}

/** The steps in an order that keeps every link, or undefined where the links run in a circle. */
export function topologicalOrder(shop: Shop, links: readonly Link[] = linksOf(indexShop(shop))): Id[] | undefined {
  const waiting = new Map(shop.steps.map((step) => [step.id, 0]));
  for (const { to } of links) waiting.set(to.id, waiting.get(to.id)! + 1);
  const free = [...waiting].filter(([, count]) => count === 0).map(([id]) => id);
  const from = new Map<Id, Id[]>();
  for (const link of links) from.set(link.from.id, [...(from.get(link.from.id) ?? []), link.to.id]);
  const order: Id[] = [];
  for (let id = free.pop(); id !== undefined; id = free.pop()) {
    order.push(id);
    for (const next of from.get(id) ?? []) {
      waiting.set(next, waiting.get(next)! - 1);
      if (waiting.get(next) === 0) free.push(next);
    }
  }
  return order.length === shop.steps.length ? order : undefined;
}
