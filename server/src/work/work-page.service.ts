import { dayIn } from '@kalvet/core';
import type {
  Cast,
  Id,
  Mould,
  Piece,
  PieceProjection,
  Section,
  ShopSettings,
  Step,
  Work,
  WorkAnswer,
} from '@kalvet/core';
import {
  PATTERN_WAX,
  ROOM_NAMES,
  alloyOf,
  begunOf,
  castFromWax,
  coatsByPlan,
  factorKey,
  indexShop,
  lateness,
  markOf,
  minutesOf,
  mouldInUse,
  mouldUse,
  plannedWax,
  sectionLetter,
  setUpOf,
  spanInWords,
  stepName,
  timesOf,
} from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { loadShop } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/store.ts';
import { notFound } from '../write/problem.ts';
import type { Server } from '../http/request.ts';
import { history } from './history.service.ts';
import { ordersOf, withOrderDue } from './orders.ts';
import { weighedOf } from './section-weights.service.ts';

/** A work: its sections with weights and walls, its moulds with their pulls, the edition with its dates, its route. */
export async function workAnswer({ store, now }: Server, id: Id): Promise<WorkAnswer> {
  const change = await changeNumber(store);
  const [work] = await rowsOf<Work>(store, 'works', { id });
  if (!work) throw notFound('work');
  const settings = await settingsOf(store);
  const plan = await currentPlan(store);
  const day = dayIn(now(), settings.timeZone);
  const all = await rowsOf<Piece>(store, 'pieces', { workId: id });
  const shop = await loadShop(store, { workIds: [id], alsoPieces: all.map((piece) => piece.id) });
  const index = indexShop(shop);
  const projections = await stored<PieceProjection>(
    store,
    'piece',
    all.map((piece) => piece.id),
  );
  const pieces = withOrderDue(index.piecesOf.get(id) ?? [], await ordersOf(store));
  return {
    change,
    now: now(),
    plan: plan.stand,
    work,
    sections: await Promise.all(
      (index.sectionsOf.get(id) ?? []).map((section) => sectionView(store, section, work, shop.casts, settings)),
    ),
    moulds: (index.mouldsOf.get(id) ?? []).map((mould) => mouldView(mould, index)),
    pieces: pieces.map((piece) => {
      const planned = plan.pieces.get(piece.id);
      const place = projections.get(piece.id);
      return {
        id: piece.id,
        mark: markOf(piece),
        state: piece.state,
        room: piece.state === 'in work' || piece.state === 'hold' ? ROOM_NAMES[place?.behind ?? 'wax'] : '',
        dueDate: piece.dueDate,
        plannedFinish: piece.state === 'delivered' ? null : (planned?.finishesAt ?? null),
        likely: piece.state === 'delivered' ? null : (planned?.likely ?? null),
        lateDays: lateness(piece, day, planned?.lateDays).lateDays,
        deliveredAt: piece.deliveredAt,
      };
    }),
    route: routeOf(index, pieces),
    waxBand: settings.waxBand,
    ...(begunOf(index, work) === undefined
      ? { setUp: setUpOf(index, work), next: projections.get(pieces[0]?.id ?? '')?.next ?? [] }
      : { setUp: null, next: [] }),
    history: await history(store, id, 80),
  };
}

async function sectionView(
  store: Store,
  section: Section,
  work: Work,
  casts: readonly Cast[],
  { coatPlans: [plan], castFactors }: Pick<ShopSettings, 'coatPlans' | 'castFactors'>,
): Promise<WorkAnswer['sections'][number]> {
  const wax = plannedWax(section);
  const own = casts.filter(
    ({ sectionId, state }) => sectionId === section.id && state !== 'void' && state !== 'planned',
  );
  return {
    id: section.id,
    name: section.name,
    letter: sectionLetter(section.ordinal),
    wallMm: section.wallMm,
    typed: section.typed,
    metalHeightMm: section.metalHeightMm,
    expectedWaxKg: section.expectedWaxKg,
    areaCm2: section.areaCm2,
    seamM: section.seamM,
    deep: section.deep,
    plannedWax: wax ?? null,
    plannedCast: wax
      ? castFromWax(wax.value, alloyOf(work.alloyId), undefined, castFactors[factorKey(work.alloyId, PATTERN_WAX)])
      : null,
    coats: section.method === 'block' ? null : coatsByPlan(plan!, section.metalHeightMm),
    waxes: await weighedOf(store, section.id),
    casts: await weighedOf(store, section.id, 'cast'),
    attempts: own.length,
    lost: own.filter(({ state }) => state === 'lost').length,
    version: section.version,
  };
}

function mouldView(mould: Mould, index: ReturnType<typeof indexShop>): WorkAnswer['moulds'][number] {
  return {
    id: mould.id,
    label: `M-${mould.number} ${mould.name}`,
    sections: mould.sectionIds.map((id) => index.section.get(id)?.name ?? '?'),
    state: mould.state,
    lifePulls: mould.lifePulls,
    ...mouldUse(index, mould),
    inUse: mouldInUse(index, mould.id),
    version: mould.version,
  };
}

/** The steps of a piece in order, with what they take: the last piece of the edition stands for those to come. */
function routeOf(index: ReturnType<typeof indexShop>, pieces: readonly Piece[]): WorkAnswer['route'] {
  const piece = [...pieces].reverse().find(({ state }) => state === 'not begun') ?? pieces.at(-1);
  if (!piece) return [];
  const [cast] = index.castsOf.get(piece.id) ?? [];
  const trees = (index.treesOf.get(cast?.id ?? '') ?? []).map(({ treeId }) => treeId);
  const own = (ids: readonly Id[]) => ids.flatMap((id) => index.stepsOf.get(id) ?? []);
  const steps = own([cast?.id ?? '', ...trees, piece.id]).filter(({ state }) => state !== 'void');
  const { order } = index;
  const sorted = [...steps].sort((a, b) => order.get(a.kind)! - order.get(b.kind)! || a.sequence - b.sequence);
  return sorted.map((step: Step) => {
    const { minWait, maxWait } = timesOf(index.kind(step), index.shop.routeTimes);
    const most = maxWait === null ? '' : `, at most ${spanInWords(maxWait)}`;
    return {
      name: stepName(index, step),
      room: ROOM_NAMES[index.kind(step).room],
      minutes: minutesOf(index, step),
      byHand: index.kind(step).spans !== 'through',
      wait: minWait > 0 || maxWait !== null ? `${spanInWords(minWait)}${most}` : '',
    };
  });
}
