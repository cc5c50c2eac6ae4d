import type { Alloy, Figure, Furnace, HeatAnswer, HeatView, Id, Instant, PourWindow } from '@kalvet/core';
import {
  addMinutes,
  alloyOf,
  fillSeconds,
  fillShare,
  gatedSeconds,
  liquidOf,
  freezeSeconds,
  lightUp,
  meltMinutes,
  pourWindow,
} from '@kalvet/core';
import { settingsOf } from '../people/settings.ts';
import type { Store } from '../write/store.ts';
import { gatingOf } from './chokes.ts';
import { heatTargets } from './heat-targets.ts';
import { coatsOf, kilnOutOf } from './kiln-outs.ts';
import { thinnestWalls } from './thinnest-walls.ts';

/** A tree whose walls nobody knows is shown the window of this one, mm. */
const USUAL_WALL_MM = 5;

/** What is worked out for heats, and for trees that could be in one. */
export interface HeatsFigured {
  readonly furnace: Furnace;
  readonly windowOf: (treeId: Id, alloyId: string) => PourWindow;
  readonly lightAt: (at: Instant, chargeKg: number, alloyId: string) => Instant;
  readonly view: (heat: HeatAnswer) => HeatView;
}

/** Reads walls and coats of the trees, and works out what a heat is poured by. @param pours of the plan, beside the heats' own */
export async function heatFigures(
  store: Store,
  given: {
    readonly heats: readonly HeatAnswer[];
    readonly alsoTrees?: readonly Id[];
    readonly pours?: readonly Instant[];
  },
): Promise<HeatsFigured> {
  const { heats, alsoTrees = [], pours: planned = [] } = given;
  const own = heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId));
  const [settings, walls, coats, gating] = await Promise.all([
    settingsOf(store),
    thinnestWalls(store, [...alsoTrees, ...own]),
    coatsOf(store, own),
    gatingOf(store, own),
  ]);
  const furnace = { powerKw: settings.furnaceKw, efficiency: settings.furnaceEfficiency };
  const pours = [...heats.flatMap(({ plannedFor }) => plannedFor ?? []), ...planned];
  const wallOf = (treeId: Id): number => {
    const mm = walls.get(treeId)?.wallMm;
    return mm !== undefined && Number.isFinite(mm) ? mm : USUAL_WALL_MM;
  };
  const windowOf = (treeId: Id, alloyId: string): PourWindow =>
    pourWindow(alloyOf(alloyId), walls.get(treeId)?.method ?? 'shell', wallOf(treeId));
  const lightAt = (at: Instant, chargeKg: number, alloyId: string): Instant => {
    const before = lightUp({ at, chargeKg, alloy: alloyOf(alloyId) }, pours, furnace, settings.liningMinutes);
    return addMinutes(at, -Math.ceil(before.value));
  };
  /** By its choke and height where they are known, else by its metal and its wall. */
  const secondsOf = (treeId: Id, metalKg: number, alloy: Alloy): Figure => {
    const ways = gating.get(treeId);
    const heightMm = walls.get(treeId)?.heightMm ?? null;
    if (!ways || heightMm === null) return fillSeconds(metalKg, wallOf(treeId));
    const { chokeMm2, cupMm } = ways;
    return gatedSeconds({ metalKg, liquidKgM3: liquidOf(alloy), chokeMm2, headMm: heightMm + cupMm, heightMm });
  };
  const view = (heat: HeatAnswer): HeatView => {
    const alloy = alloyOf(heat.alloyId);
    const window = (treeId: Id) => windowOf(treeId, heat.alloyId);
    const kilnOut = heat.pourings.flatMap(({ treeId }) => {
      const count = coats.get(treeId);
      return count
        ? [[treeId, kilnOutOf(count, window(treeId), settings.preheatC, settings.shellLossShare)] as const]
        : [];
    });
    const shellOf = new Map(kilnOut.map(([treeId, { wallMm }]) => [treeId, wallMm]));
    return {
      ...heat,
      melt: meltMinutes(heat.charge.value, alloy, furnace),
      lightAt: heat.plannedFor && lightAt(heat.plannedFor, heat.charge.value, heat.alloyId),
      ...heatTargets(heat, window, (treeId) => walls.get(treeId)?.heightMm ?? null, settings),
      kilnOut: Object.fromEntries(kilnOut),
      windows: Object.fromEntries(heat.pourings.map(({ treeId }) => [treeId, window(treeId)])),
      fillings: Object.fromEntries(
        heat.pourings.map(({ treeId, plannedKg }) => {
          const { cup, mouldC } = window(treeId);
          const wallMm = wallOf(treeId);
          const mould = (mouldC[0] + mouldC[1]) / 2;
          const thin = { alloy, wallMm, cupC: cup.value, mouldC: mould, shellMm: shellOf.get(treeId) };
          return [treeId, fillShare(secondsOf(treeId, Math.max(0.05, plannedKg), alloy), freezeSeconds(thin))];
        }),
      ),
    };
  };
  return { furnace, windowOf, lightAt, view };
}
