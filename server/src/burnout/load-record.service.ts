import type { Id, Load, LoadPlace, LoadRecordPage, Step } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import type { Server } from '../http/request.ts';
import { changeNumber } from '../live/changes.ts';
import { people } from '../people/person-of.ts';
import { treeNames } from '../pour/heat-record.service.ts';
import { fireOf } from './load-fire.ts';
import { history } from '../work/history.service.ts';
import { notFound } from '../write/problem.ts';

/** A kiln load with everything that is on record of it, also when it is over. */
export async function loadRecord({ store }: Server, id: Id): Promise<LoadRecordPage> {
  const [load] = await rowsOf<Load>(store, 'loads', { id });
  if (!load) throw notFound('load');
  const [change, places, steps, everybody, told] = await Promise.all([
    changeNumber(store),
    rowsOf<LoadPlace>(store, 'loadPlaces', { loadId: id }),
    rowsOf<Step>(store, 'steps', { loadId: id }),
    people(store),
    history(store, id),
  ]);
  const known = new Map(everybody.map((person) => [person.id, person.name]));
  const trees = await treeNames(
    store,
    places.map(({ treeId }) => treeId),
  );
  const fire = await fireOf(store, load, places, new Map([...trees].map(([treeId, { label }]) => [treeId, label])));
  const { version: _, ...rest } = load;
  const [fired] = steps;
  return {
    ...rest,
    change,
    by: (fired?.by ?? []).map((personId) => known.get(personId) ?? 'somebody'),
    note: fired?.note ?? '',
    trees: places.map(({ treeId, outcome }) => ({ ...trees.get(treeId)!, outcome })),
    fire,
    history: told,
  };
}
