import type { Cast, Id, Mould, Piece, PieceProjection, Section, Step, Work, WorkAnswer } from '@kalvet/core';
import {
  STEP_KINDS,
  ROOM_NAMES,
  alloyOf,
  castFromWax,
  coatsFor,
  indexShop,
  markOf,
  minutesOf,
  mouldCount,
  plannedWax,
  sectionLetter,
  spanInWords,
  stepName,
  timesOf,
} from '@kalvet/core';
import { changeNumber } from '../live/changes.ts';
import { today } from '../people/clock.ts';
import { settingsOf } from '../people/settings.ts';
import { currentPlan } from '../plan/read-plan.ts';
import { sectionWaxes } from '../route/step-form.service.ts';
import { loadRows, loadShop } from '../shop/load.ts';
import { stored } from '../shop/stored.ts';
import type { Store } from '../write/context.ts';
import { notFound } from '../write/problem.ts';
import type { Server } from '../write/request.ts';
import { daysBetween, isLate } from './floor.service.ts';
import { ordersOf, withOrderDue } from './orders.ts';
import { history } from './piece-page.service.ts';

/** A work: its sections with weights and walls, its moulds with their pulls, the edition with its dates, its route. */
export async function workAnswer({ store, now }: Server, id: Id): Promise<WorkAnswer> {
  const change = await changeNumber(store);
  const [work] = await loadRows<Work>(store, 'works', { id });
  if (!work) throw notFound('work');
  const settings = await settingsOf(store);
  const plan = await currentPlan(store);
  const day = today(now(), settings.timeZone);
  const all = await loadRows<Piece>(store, 'pieces', { workId: id });
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
      (index.sectionsOf.get(id) ?? []).map((section) => sectionView(store, section, work, shop.casts)),
    ),
    moulds: (index.mouldsOf.get(id) ?? []).map((mould) => mouldView(mould, index)),
    pieces: pieces.map((piece) => {
      const planned = plan.pieces.get(piece.id);
      const place = projections.get(piece.id);
      const overdue = isLate(piece, day) ? daysBetween(piece.dueDate!, day) : 0;
      return {
        id: piece.id,
        mark: markOf(piece),
        state: piece.state,
        room: piece.state === 'in work' || piece.state === 'hold' ? ROOM_NAMES[place?.behind ?? 'wax'] : '',
        dueDate: piece.dueDate,
        plannedFinish: piece.state === 'delivered' ? null : (planned?.finishesAt ?? null),
        lateDays: piece.state === 'delivered' ? 0 : Math.max(overdue, planned?.lateDays ?? 0),
        deliveredAt: piece.deliveredAt,
      };
    }),
    route: routeOf(index, pieces),
    waxBand: settings.waxBand,
    history: await history(store, id, 80),
  };
}

async function sectionView(
  store: Store,
  section: Section,
  work: Work,
  casts: readonly Cast[],
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
    metalHeightMm: section.metalHeightMm,
    expectedWaxKg: section.expectedWaxKg,
    areaCm2: section.areaCm2,
    seamM: section.seamM,
    deep: section.deep,
    plannedWax: wax ?? null,
    plannedCast: wax ? castFromWax(wax.value, alloyOf(work.alloyId)) : null,
    coats: section.method === 'block' ? null : coatsFor(section.metalHeightMm),
    waxes: await sectionWaxes(store, section.id),
    casts: await sectionWaxes(store, section.id, 'cast'),
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
    ...mouldCount(index, mould),
    inUse: index.shop.pulls.some((pull) => pull.mouldId === mould.id && pull.endedAt === null),
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
  const order = Object.keys(STEP_KINDS);
  const sorted = [...steps].sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || a.sequence - b.sequence);
  return sorted.map((step: Step) => {
    const { minWait, maxWait } = timesOf(step.kind, index.shop.routeTimes);
    const most = maxWait === null ? '' : `, at most ${spanInWords(maxWait)}`;
    return {
      name: stepName(index, step),
      room: ROOM_NAMES[STEP_KINDS[step.kind].room],
      minutes: minutesOf(index, step),
      wait: minWait > 0 || maxWait !== null ? `${spanInWords(minWait)}${most}` : '',
    };
  });
}
