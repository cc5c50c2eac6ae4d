import type {
  Id,
  KilnAnswer,
  KilnLoadView,
  KilnProfile,
  KilnTreeView,
  Load,
  LoadPlace,
  PastLoad,
  ShopIndex,
  Step,
  WaxMonth,
} from '@kalvet/core';
import {
  carrierLabel,
  chainOf,
  firstOpen,
  indexShop,
  kilnTree,
  loadVerdict,
  openPlaceOf,
  standings,
  waitsInWords,
  waxOnWayIn,
  worksOfStep,
  wouldFit,
} from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { settingsOf } from '../people/settings.ts';
import { COMING, loadShop } from '../shop/load.ts';
import { worksOf } from '../shop/works-of.ts';
import type { Store } from '../write/store.ts';
import { couplesOf, drawn } from './kiln-readings.ts';

const PAST = 60;
const MONTHS = 12;

/** The kiln: what waits for it, what is planned or burns in it, how it fires, and what came of it before. */
export async function kilnPage({ store, now }: Server): Promise<KilnAnswer> {
  const [change, settings, profiles, loads] = await Promise.all([
    changeNumber(store),
    settingsOf(store),
    rowsOf<KilnProfile>(store, 'profiles', {}),
    rowsOf<Load>(store, 'loads', {}),
  ]);
  const open = loads.filter(({ state }) => COMING.includes(state)).sort((a, b) => a.number - b.number);
  const index = await inBurnout(
    store,
    open.map(({ id }) => id),
  );
  const found = standings(index);
  const waitingIds = index.shop.trees
    .filter(({ id }) => firstOpenIsFiring(index, id) && !openPlaceOf(index, id))
    .map(({ id }) => id);
  const inside = open.flatMap(({ id }) => (index.inLoad.get(id) ?? []).map(({ treeId }) => treeId));
  const hot = await above1000(store, index, [...waitingIds, ...inside]);
  const view = (treeId: Id): KilnTreeView => {
    const step = firingStep(index, treeId);
    const standing = step && found.get(step.id);
    const tree = index.tree.get(treeId)!;
    const { treeId: _, ...size } = kilnTree(index, treeId, settings);
    return {
      treeId,
      version: tree.version,
      label: carrierLabel(index, { carrier: 'tree', carrierId: treeId }),
      title: worksOfStep(index, { carrier: 'tree', carrierId: treeId }),
      ...size,
      use: (step && index.kind(step).kiln) ?? (tree.method === 'block' ? 'block' : 'shell'),
      firings: firingsOf(index, treeId),
      above1000Minutes: hot.get(treeId) ?? 0,
      readyAt: standing && standing.waitsFor.length === 0 && standing.held.length === 0 ? standing.readyAt : null,
      waits: standing ? waitsInWords(index, standing) : [],
    };
  };
  const waiting = waitingIds.map(view);
  return {
    change,
    now: now(),
    floor: {
      acrossMm: settings.kilnAcrossMm,
      deepMm: settings.kilnDeepMm,
      highMm: settings.kilnHighMm,
      gapMm: settings.kilnGapMm,
    },
    mostKg: settings.kilnMostKg,
    waiting: waiting.sort((a, b) => (a.readyAt ?? '9').localeCompare(b.readyAt ?? '9')),
    loads: await Promise.all(
      open.map(async (load): Promise<KilnLoadView> => {
        const places = index.inLoad.get(load.id) ?? [];
        const profile = profiles.find(({ id }) => id === load.profileId) ?? null;
        const couples = await couplesOf(store, load.id);
        const trees = places.map(({ treeId, floor = null }) => ({ ...view(treeId), floor }));
        const wax = places.map(({ treeId }) => waxOnWayIn(index, load, treeId, settings.liftLimitKg));
        return {
          id: load.id,
          number: load.number,
          version: load.version,
          state: load.state,
          purpose: load.purpose,
          profileId: load.profileId ?? null,
          startedAt: load.startedAt,
          trees,
          alsoFit: wouldFit(
            trees,
            waiting.filter(({ use }) => use === trees[0]?.use),
            settings,
          ),
          couples: drawn(couples),
          verdict: loadVerdict(
            couples.map(({ readings }) => readings),
            profile,
            { isBlock: trees[0]?.use === 'block', burning: true },
          ),
          waxInKg: wax.some((each) => each === null)
            ? null
            : wax.reduce((sum, each) => sum + each!.castsKg + each!.barsKg + each!.cupsKg, 0),
        };
      }),
    ),
    profiles: profiles.sort((a, b) => a.name.localeCompare(b.name)),
    ...(await before(store, loads, settings.liftLimitKg)),
  };
}

const firingStep = (index: ShopIndex, treeId: Id): Step | undefined =>
  chainOf(index, treeId).find(
    (step) => index.kind(step).kiln && (step.state === 'planned' || step.state === 'running'),
  );

const isFiring = (index: ShopIndex, step: Step): boolean => ['shell', 'block'].includes(index.kind(step).kiln ?? '');

const firingsOf = (index: ShopIndex, treeId: Id): number =>
  chainOf(index, treeId).filter((step) => isFiring(index, step) && step.state === 'done').length;

/** How long each tree that was fired before stood above 1000 °C, in all its loads together. */
async function above1000(store: Store, index: ShopIndex, treeIds: readonly Id[]): Promise<Map<Id, number>> {
  const fired = treeIds.filter((id) => firingsOf(index, id) > 0);
  const places = await rowsOf<LoadPlace>(store, 'loadPlaces', { treeId: fired });
  const found = new Map<Id, number>();
  for (const loadId of new Set(places.map((place) => place.loadId))) {
    const couples = (await couplesOf(store, loadId)).map(({ readings }) => readings);
    const minutes = loadVerdict(couples, null, { isBlock: false }).above1000Minutes;
    for (const place of places)
      if (place.loadId === loadId) found.set(place.treeId, (found.get(place.treeId) ?? 0) + minutes);
  }
  return found;
}

/** Trees whose next step is the kiln, also while it still waits for its last coat to dry. */
const firstOpenIsFiring = (index: ShopIndex, treeId: Id): boolean => {
  const next = firstOpen(index, chainOf(index, treeId));
  return next !== undefined && index.kind(next).kiln !== undefined;
};

/** The works whose trees wait for the kiln or are in a load, and no others. */
async function inBurnout(store: Store, loadIds: readonly Id[]): Promise<ShopIndex> {
  const rows = await rowsOf<{ id: Id }>(store, 'projections', { carrier: 'tree', room: 'burnout' });
  const places = await rowsOf<LoadPlace>(store, 'loadPlaces', { loadId: loadIds });
  const treeIds = new Set([...rows.map(({ id }) => id), ...places.map(({ treeId }) => treeId)]);
  const works = new Set<Id>();
  for (const id of treeIds) for (const workId of await worksOf(store, 'tree', id)) works.add(workId);
  return indexShop(await loadShop(store, { workIds: [...works], loadIds }));
}

/** Loads that are over, and the wax and energy of the last months. */
async function before(
  store: Store,
  loads: readonly Load[],
  liftLimitKg: number,
): Promise<Pick<KilnAnswer, 'past' | 'wax'>> {
  const over = loads
    .filter(({ state }) => !COMING.includes(state))
    .sort((a, b) => (b.endedAt ?? '').localeCompare(a.endedAt ?? ''));
  const withWax = over.filter(({ waxBackKg }) => waxBackKg !== null && waxBackKg !== undefined);
  const places = await rowsOf<LoadPlace>(store, 'loadPlaces', {
    loadId: [...new Set([...over.slice(0, PAST), ...withWax].map(({ id }) => id))],
  });
  const waxOf = await waxOfTrees(store, withWax, places, liftLimitKg);
  const past = over.slice(0, PAST).map((load): PastLoad => ({
    id: load.id,
    number: load.number,
    purpose: load.purpose,
    state: load.state,
    endedAt: load.endedAt,
    profile: load.profile,
    topC: load.topC,
    trees: places.filter(({ loadId }) => loadId === load.id).length,
    waxInKg: waxOf.get(load.id) ?? null,
    waxBackKg: load.waxBackKg ?? null,
    energyKwh: load.energyKwh ?? null,
  }));
  const months = new Map<string, WaxMonth>();
  for (const load of over) {
    if (load.endedAt === null || ((load.waxBackKg ?? null) === null && (load.energyKwh ?? null) === null)) continue;
    const month = load.endedAt.slice(0, 7);
    const sum = months.get(month) ?? { month, loads: 0, inKg: 0, backKg: 0, missingKg: 0, energyKwh: 0 };
    const inKg = waxOf.get(load.id) ?? 0;
    const backKg = load.waxBackKg ?? 0;
    months.set(month, {
      month,
      loads: sum.loads + 1,
      inKg: sum.inKg + ((load.waxBackKg ?? null) === null ? 0 : inKg),
      backKg: sum.backKg + backKg,
      missingKg: sum.missingKg + ((load.waxBackKg ?? null) === null ? 0 : inKg - backKg),
      energyKwh: sum.energyKwh + (load.energyKwh ?? 0),
    });
  }
  return {
    past,
    wax: [...months.values()].sort((a, b) => b.month.localeCompare(a.month)).slice(0, MONTHS),
  };
}

/** Wax that went into some loads, by what hung on their trees. */
async function waxOfTrees(
  store: Store,
  loads: readonly Load[],
  places: readonly LoadPlace[],
  liftLimitKg: number,
): Promise<Map<Id, number>> {
  const treeIds = [
    ...new Set(places.filter(({ loadId }) => loads.some(({ id }) => id === loadId)).map(({ treeId }) => treeId)),
  ];
  if (treeIds.length === 0) return new Map();
  const members = await rowsOf<{ treeId: Id; castId: Id }>(store, 'treeCasts', { treeId: treeIds });
  const casts = await rowsOf<{ id: Id; pieceId: Id }>(store, 'casts', {
    id: [...new Set(members.map(({ castId }) => castId))],
  });
  const pieces = await rowsOf<{ id: Id; workId: Id }>(store, 'pieces', {
    id: [...new Set(casts.map(({ pieceId }) => pieceId))],
    state: { [Op.ne]: 'cancelled' },
  });
  const index = indexShop(
    await loadShop(store, {
      workIds: [...new Set(pieces.map(({ workId }) => workId))],
      alsoPieces: pieces.map(({ id }) => id),
    }),
  );
  return new Map(
    loads.flatMap((load) => {
      const { id } = load;
      const own = places
        .filter(({ loadId }) => loadId === id)
        .map(({ treeId }) => (index.tree.has(treeId) ? waxOnWayIn(index, load, treeId, liftLimitKg) : null));
      return own.length === 0 || own.some((each) => each === null)
        ? []
        : [[id, own.reduce((sum, each) => sum + each!.castsKg + each!.barsKg + each!.cupsKg, 0)] as const];
    }),
  );
}
