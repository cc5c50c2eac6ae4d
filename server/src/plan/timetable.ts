import type { FireTime, HeatLine, Instant, PlannedLoad, ShopSettings, Text } from '@kalvet/core';
import { DEFAULT_ALLOY_ID, addMinutes, alloyOf, counted, kg as kilograms, lightUp, say, toMs } from '@kalvet/core';

/**
 * Firings, melts and pours in the order of the clock; a melt's beginning counts back from its pour.
 * @param poured when the plan pours at all, also beyond the loads that are listed: what is poured before leaves the furnace warm
 */
export function timetable(
  heats: readonly HeatLine[],
  loads: readonly PlannedLoad[],
  settings: ShopSettings,
  poured: readonly Instant[] = [],
): FireTime[] {
  const furnace = { powerKw: settings.furnaceKw, efficiency: settings.furnaceEfficiency };
  const all = [
    ...poured,
    ...heats.flatMap(({ plannedFor }) => plannedFor ?? []),
    ...loads.flatMap(({ kind, startsAt }) => (kind === 'heat' ? [startsAt] : [])),
  ];
  const pours = heats
    .filter(({ plannedFor, state }) => plannedFor !== null && state !== 'running')
    .flatMap((heat) =>
      meltAndPour(heat.plannedFor!, `H-${heat.number}`, heat.alloyId, heat.chargeKg, heat.trees.length, false),
    );
  const inHeats = new Set(heats.filter(({ plannedFor }) => plannedFor).map(({ plannedFor }) => plannedFor));
  const planned = loads.flatMap((load) => {
    if (load.kind === 'kiln')
      return [
        {
          at: load.startsAt,
          what: 'Fire the kiln',
          text: `${counted(load.count, 'tree')}: ${load.labels.join(', ')}`,
          planned: true,
          why: 'as the plan has it',
          stepId: null,
        },
      ];
    // A heat that somebody planned is on the list by its own number.
    return inHeats.has(load.startsAt)
      ? []
      : meltAndPour(load.startsAt, 'heat', load.alloyId ?? DEFAULT_ALLOY_ID, load.kg ?? 0, load.count, true);
  });
  return [...pours, ...planned].sort((a, b) => toMs(a.at) - toMs(b.at));

  function meltAndPour(
    at: string,
    name: string,
    alloyId: string,
    kg: number,
    trees: number,
    byPlan: boolean,
  ): FireTime[] {
    const alloy = alloyOf(alloyId);
    const melt = lightUp({ at, chargeKg: kg, alloy }, all, furnace, settings.liningMinutes);
    const text: Text = say`${name}: ${kilograms(kg, 0)} ${alloy.name}, ${counted(trees, 'tree')}`;
    return [
      {
        at: addMinutes(at, -Math.ceil(melt.value)),
        what: 'Light the furnace',
        text,
        planned: byPlan,
        why: melt.inWords,
        stepId: null,
      },
      { at, what: 'Pour', text, planned: byPlan, why: byPlan ? 'as the plan has it' : 'planned for', stepId: null },
    ];
  }
}
