import type { Id } from '../records/common.ts';
import type { Heat, HeatReading, Pouring } from '../records/pour.ts';
import { MEANS_K } from '../records/pour.ts';
import type { LightHeat, ReadHeat, SetInPit, ShellOut } from '../records/pour-writes.ts';
import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import { insert, update } from '../records/shop.ts';
import { doubtsOfTemperature } from '../pour/doubts-of-temperature.ts';
import { treeLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { toMs } from '../units/instant.ts';
import { celsius } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { at as onClock, say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { allow, counted, invalidAct, refusedAct, wrongTimes } from './act.ts';
import { heatIsOver } from './plan-heat.ts';

const WHERE: Readonly<Record<HeatReading['where'], string>> = {
  furnace: 'in the furnace',
  ladle: 'in the ladle',
  cup: 'at the cup',
  mould: 'of the mould',
};

const over = (heat: Heat): Refusal[] =>
  heatIsOver(heat) ? [never('closed', say`Heat H-${heat.number} is ${heat.state} already.`)] : [];

const done = (
  heat: Heat,
  ops: readonly Op[],
  verb: 'read heat' | 'light furnace' | 'shell out' | 'set in pit',
  text: Text,
  doneAt: string | undefined,
  treeIds: readonly Id[],
  passed: Act['passed'] = [],
): Act<{ id: Id }> => ({
  refusals: [],
  fields: {},
  passed,
  ops,
  answer: { id: heat.id },
  tell: () => ({
    event: { verb, text: say`H-${heat.number} · ${text}`, room: 'pour', ...(doneAt ? { doneAt } : {}) },
    concerns: [['heat', heat.id], ...treeIds.map((id) => ['tree', id] as const)],
  }),
});

/** Readings of a heat may be written up until so long after it is over, minutes. */
const LATE_MIN = 24 * 60;

/** A temperature of the metal or a mould, as it was read. @param heat also one that has just ended */
export function readHeat(index: ShopIndex, heat: Heat, given: ReadHeat, doing: Doing): Act<{ id: Id }> {
  if (heat.state === 'abandoned') return refusedAct(over(heat));
  if (heat.endedAt !== null && toMs(given.at) > toMs(heat.endedAt) + LATE_MIN * 60_000)
    return refusedAct([never('closed', say`Heat H-${heat.number} was over by then.`)]);
  const wrong: Record<string, Text> = {
    ...Object.fromEntries(Object.values(wrongTimes(doing.now, null, given.at)).map((text) => ['at', text])),
    ...((given.where === 'cup' || given.where === 'mould') && given.treeId === null
      ? { treeId: 'say of which tree' }
      : {}),
    ...(given.treeId !== null && !placeOf(index, heat, given.treeId) ? { treeId: 'is not in this heat' } : {}),
  };
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const asked = allow(doubtsOfTemperature(heat.alloyId, given.where, given.celsius), doing);
  if (asked.left.length > 0) return refusedAct(asked.left);
  const { id, treeId, at, celsius: value, where, means, instrument } = given;
  const row: HeatReading = {
    id,
    heatId: heat.id,
    treeId,
    at,
    celsius: value,
    where,
    means,
    plusMinusK: given.plusMinusK ?? MEANS_K[means],
    instrument,
    voidReason: null,
    version: 1,
  };
  const of = treeId === null ? '' : say`${treeLabel(index, treeId)} `;
  return done(
    heat,
    [insert('heatReadings', row)],
    'read heat',
    say`${of}${celsius(value)} ${WHERE[where]}, ${means === 'eye' ? 'by eye' : means}${instrument ? `, ${instrument}` : ''}`,
    at,
    treeId === null ? [] : [treeId],
    asked.passed,
  );
}

const placeOf = (index: ShopIndex, heat: Heat, treeId: Id): Pouring | undefined =>
  (index.inHeat.get(heat.id) ?? []).find((pouring) => pouring.treeId === treeId);

/** The furnace is lit for a heat: from then its meter counts, and the lining warms. */
export function lightHeat(
  _: ShopIndex,
  heat: Heat,
  given: LightHeat,
  doing: Doing,
  meterFrom: number | null = null,
): Act<{ id: Id }> {
  const closed = over(heat);
  if (closed.length > 0) return refusedAct(closed);
  const wrong = Object.values(wrongTimes(doing.now, null, given.at));
  if (wrong.length > 0) return invalidAct({ at: wrong[0]! });
  return done(
    heat,
    [update('heats', heat.id, { litAt: given.at, meterFrom })],
    'light furnace',
    say`furnace lit ${onClock(given.at)}`,
    given.at,
    [],
  );
}

/** A shell leaves the kiln: from then it cools, and its metal is to come within its seconds. */
export function shellOut(index: ShopIndex, heat: Heat, given: ShellOut, doing: Doing): Act<{ id: Id }> {
  const closed = over(heat);
  if (closed.length > 0) return refusedAct(closed);
  const pouring = placeOf(index, heat, given.treeId);
  if (!pouring) return invalidAct({ treeId: 'is not in this heat' });
  if (pouring.outcome !== null)
    return refusedAct([
      never('closed', say`${treeLabel(index, given.treeId)} is recorded as ${pouring.outcome} already.`),
    ]);
  const wrong = Object.values(wrongTimes(doing.now, null, given.at));
  if (wrong.length > 0) return invalidAct({ at: wrong[0]! });
  return done(
    heat,
    [update('pourings', pouring.id, { outAt: given.at })],
    'shell out',
    say`${treeLabel(index, given.treeId)} out of the kiln`,
    given.at,
    [given.treeId],
  );
}

/** Places of the pit that are taken by trees that were poured and hang in their shells still, or stand there for another heat. */
export function placesTaken(
  pourings: readonly Pick<Pouring, 'heatId' | 'treeId' | 'place' | 'outcome'>[],
  standing: ReadonlySet<Id>,
): Map<number, Id> {
  return new Map(
    pourings.flatMap(({ treeId, place, outcome }) =>
      place !== null && outcome !== 'not poured' && standing.has(treeId) ? [[place, treeId] as const] : [],
    ),
  );
}

/**
 * Sets trees of a heat in places of the pit.
 * @param taken places that other heats' trees stand in, with the tree
 */
export function setTreesInPit(
  index: ShopIndex,
  heat: Heat,
  given: SetInPit,
  doing: Doing,
  taken: ReadonlyMap<number, string>,
): Act<{ id: Id }> {
  const closed = over(heat);
  if (closed.length > 0) return refusedAct(closed);
  const own = index.inHeat.get(heat.id) ?? [];
  const { pitPlaces } = doing.settings;
  const wrong: Record<string, Text> = {};
  const after = new Map(own.map(({ treeId, place }) => [treeId, place]));
  given.places.forEach(({ treeId, place }, i) => {
    if (!after.has(treeId)) wrong[`places.${i}.treeId`] = 'is not in this heat';
    else if (place !== null && place > pitPlaces) wrong[`places.${i}.place`] = say`there are ${pitPlaces} places`;
    else after.set(treeId, place);
  });
  const seen = new Set<number>();
  for (const place of after.values()) {
    if (place === null) continue;
    if (seen.has(place)) wrong['places'] = say`place ${place} is given twice`;
    seen.add(place);
  }
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const full = [...after.values()].filter((place): place is number => place !== null && taken.has(place));
  if (full.length > 0)
    return refusedAct(full.map((place) => never('place', say`Place ${place} is taken by ${taken.get(place)!}.`)));
  const moved = own.filter(({ treeId, place }) => after.get(treeId) !== place);
  const set = [...after.values()].filter((place) => place !== null).length;
  return done(
    heat,
    moved.map(({ id, treeId }) => update('pourings', id, { place: after.get(treeId)! })),
    'set in pit',
    say`${counted(set, 'tree')} set in the pit`,
    undefined,
    moved.map(({ treeId }) => treeId),
  );
}
