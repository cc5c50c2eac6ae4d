import type { Id, KilnProfile, Load, LoadFire, LoadPlace } from '@kalvet/core';
import {
  indexShop,
  kg,
  loadVerdict,
  quantity,
  say,
  waxBalance,
  waxOnWayIn,
  wallOf,
  castsOfTree,
  shellWeight,
} from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { settingsOf } from '../people/settings.ts';
import { loadShop } from '../shop/load.ts';
import { worksOf } from '../shop/works-of.ts';
import type { Store } from '../write/store.ts';
import { couplesOf, drawn } from './kiln-readings.ts';

/** How a load was fired: its profile and thermocouples, where each tree stood, its wax and what the kiln took. */
export async function fireOf(
  store: Store,
  load: Load,
  places: readonly LoadPlace[],
  labels: ReadonlyMap<Id, string>,
): Promise<LoadFire> {
  const [settings, profiles, couples] = await Promise.all([
    settingsOf(store),
    rowsOf<KilnProfile>(store, 'profiles', { id: load.profileId ?? '' }),
    couplesOf(store, load.id),
  ]);
  const workIds = new Set<Id>();
  for (const { treeId } of places) for (const id of await worksOf(store, 'tree', treeId)) workIds.add(id);
  const pieces = await rowsOf<{ id: Id }>(store, 'pieces', { workId: [...workIds] });
  const index = indexShop(await loadShop(store, { workIds: [...workIds], alsoPieces: pieces.map(({ id }) => id) }));
  const here = places.filter(({ treeId }) => index.tree.has(treeId));
  const wax = here.map(({ treeId }) => waxOnWayIn(index, load, treeId, settings.liftLimitKg));
  const isKnown = wax.length > 0 && wax.every((each) => each !== null);
  const sum = (key: 'castsKg' | 'barsKg' | 'cupsKg') => wax.reduce((total, each) => total + each![key], 0);
  const whole = isKnown ? { castsKg: sum('castsKg'), barsKg: sum('barsKg'), cupsKg: sum('cupsKg') } : null;
  const recoveredKg = load.waxBackKg ?? null;
  const balance = whole && recoveredKg !== null ? waxBalance({ ...whole, recoveredKg }) : null;
  const shellKg = here.reduce((total, { treeId }) => {
    const area = castsOfTree(index, treeId).reduce(
      (cm2, { sectionId }) => cm2 + (index.section.get(sectionId)?.areaCm2 ?? 0),
      0,
    );
    const mm = wallOf(index, treeId).nowMm;
    return total + (area > 0 && mm > 0 ? shellWeight(area, 1, mm).value : 0);
  }, 0);
  const [profile = null] = profiles;
  return {
    profile,
    couples: drawn(couples),
    verdict: loadVerdict(
      couples.map(({ readings }) => readings),
      profile,
      { isBlock: load.purpose === 'fire-block' },
    ),
    floor: {
      acrossMm: settings.kilnAcrossMm,
      deepMm: settings.kilnDeepMm,
      highMm: settings.kilnHighMm,
      gapMm: settings.kilnGapMm,
    },
    stands: places.flatMap(({ treeId, floor }) =>
      floor ? [{ treeId, label: labels.get(treeId) ?? 'tree', floor }] : [],
    ),
    wax: whole && {
      ...whole,
      recoveredKg,
      says:
        balance?.says ??
        say`${kg(whole.castsKg + whole.barsKg + whole.cupsKg)} went in; what came back was not weighed`,
      looks: balance?.looks ?? false,
    },
    energyAKg:
      load.energyKwh && shellKg > 0
        ? {
            value: load.energyKwh / shellKg,
            unit: 'kWh',
            source: 'computed',
            inWords: say`${quantity(load.energyKwh, 'kWh', 0)} over ${kg(shellKg)} of shell`,
            inputs: { energy: quantity(load.energyKwh, 'kWh', 0), shells: kg(shellKg) },
          }
        : null,
  };
}
