import type { KilnProfile } from '../records/burnout.ts';
import type { LoadRecord } from '../records/burnout-writes.ts';
import type { Shop } from '../records/shop.ts';
import { after, doingBy, said, told } from '../testing/doing.ts';
import { START, counter, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { indexShop } from './index-shop.ts';
import { abandonLoad, fireLoad, firingOf, planLoad } from './load-acts.ts';
import { minutesOf } from './minutes.ts';
import { readingsShown } from './readings.ts';

const LATER = addMinutes(START, 400 * 1440);
const SHELLED = ['pull', 'chase-wax', 'join-tree', 'coat', 'coat', 'coat', 'coat', 'coat', 'coat'] as const;

function ready(method: 'shell' | 'block' = 'shell', from?: Shop, newId = counter()) {
  let shop = playThrough(smallShop({ pieces: 2, work: { method } }, newId, from), ['make-mould'], newId);
  const way = method === 'shell' ? SHELLED : (['pull', 'chase-wax', 'join-tree', 'invest'] as const);
  for (let piece = 0; piece < 2; piece++) shop = playThrough(shop, way, newId);
  return { shop, newId, doing: doingBy(newId, { now: LATER }) };
}
const record = (rest: Partial<LoadRecord> = {}): LoadRecord => ({
  startedAt: null,
  endedAt: LATER,
  by: ['p-1'],
  profile: '900 °C, 2 h',
  topC: 905,
  note: '',
  lost: [],
  ...rest,
});
const treeIds = (shop: Shop) => shop.trees.map(({ id }) => id);

describe('a kiln load', () => {
  it('is planned and fired in one act, its profile a row of the load that every member’s step shows', () => {
    const { shop, doing } = ready();
    const act = planLoad(indexShop(shop), { id: 'l-1', treeIds: treeIds(shop), record: record() }, doing);
    expect(told(shop, act)).toBe('Load L-0: 2 trees fired (900 °C, 2 h, 905 °C)');
    const now = after(shop, act);
    expect(now.loads[0]).toEqual(jasmine.objectContaining({ state: 'done', profile: '900 °C, 2 h', topC: 905 }));
    const fired = now.steps.filter(({ kind, state }) => kind === 'fire' && state === 'done');
    expect(fired.length).toBe(2);
    for (const step of fired) {
      expect(step.readings).toEqual({});
      expect(readingsShown(indexShop(now), step)).toEqual({ profile: '900 °C, 2 h', topC: 905 });
    }
  });

  it('loses what did not come through, which begins again as a wax', () => {
    const { shop, doing } = ready();
    const [gone] = treeIds(shop);
    const lost = [{ treeId: gone!, why: 'cracked at the cup' }];
    const now = after(
      shop,
      planLoad(indexShop(shop), { id: 'l-1', treeIds: treeIds(shop), record: record({ lost }) }, doing),
    );
    expect(now.casts.filter(({ state }) => state === 'lost').map(({ lostWhy }) => lostWhy)).toEqual([
      'cracked at the cup',
    ]);
    expect(now.steps.filter(({ kind, state }) => kind === 'pull' && state === 'planned').length).toBe(1);
    expect(now.loadPlaces.map(({ outcome }) => outcome).sort()).toEqual(['done', 'lost']);
  });

  it('holds shells or blocks, never more than find a place on the floor, and no tree twice', () => {
    const { shop, newId, doing } = ready();
    const both = ready('block', shop, newId).shop;
    const mixed = planLoad(indexShop(both), { id: 'l-1', treeIds: treeIds(both) }, doing);
    expect(said(mixed)).toEqual([jasmine.stringMatching(/^kiln: Blocks burn out slowly/)]);
    // One of them takes about 200 mm, with 40 mm round it.
    const settings = { ...doing.settings, kilnAcrossMm: 340, kilnDeepMm: 340 };
    expect(said(planLoad(indexShop(shop), { id: 'l-1', treeIds: treeIds(shop) }, { ...doing, settings }))).toEqual([
      jasmine.stringMatching(/^kiln: No place on the kiln’s floor \(340 mm × 340 mm, 40 mm between\) for T-/),
    ]);
    const [tree] = treeIds(shop);
    expect(
      planLoad(indexShop(shop), { id: 'l-1', treeIds: [tree!, tree!] }, doing).refusals.map(({ rule }) => rule),
    ).toEqual(['twice']);
  });

  it('that is planned keeps its trees from another; given up, it lets them go and is never fired', () => {
    const { shop, doing } = ready();
    const planned = after(shop, planLoad(indexShop(shop), { id: 'l-1', treeIds: treeIds(shop) }, doing));
    const again = { id: 'l-2', treeIds: treeIds(shop) };
    expect(planLoad(indexShop(planned), again, doing).refusals.map(({ rule }) => rule)).toEqual(['twice', 'twice']);
    const load = planned.loads[0]!;
    const open = after(planned, abandonLoad(indexShop(planned), load, { version: 1, reason: 'element broke' }));
    expect(said(planLoad(indexShop(open), again, doing))).toEqual([]);
    expect(said(fireLoad(indexShop(open), open.loads[0]!, record(), doing))[0]).toContain('abandoned already');
  });

  it('names what is wrong: a firing that lies ahead, somebody who does not work here', () => {
    const { shop, doing } = ready();
    const given = { id: 'l-1', treeIds: treeIds(shop) };
    const wrong = record({ endedAt: addMinutes(LATER, 600), by: ['nobody'] });
    expect(said(planLoad(indexShop(shop), { ...given, record: wrong }, doing))).toEqual([
      'record.endedAt: cannot be ahead of now',
      'record.by: names somebody who does not work here',
    ]);
  });

  it('is planned as long as its firing lasts: its own profile, else the longest in use; the shop’s own minutes beat both', () => {
    const { shop, doing } = ready();
    const profile = (id: string, toC: number, holdMinutes: number): KilnProfile => ({
      ...{ id, name: id, use: 'shell', state: 'in use', version: 1 },
      stretches: [{ toC, perHourK: 300, holdMinutes }],
    });
    // 900 K at 300 K an hour are 180 min; the one put away would be the longest.
    const profiles = [
      profile('short', 920, 60),
      profile('long', 920, 150),
      { ...profile('old', 920, 900), state: 'put away' as const },
    ];
    const minutes = (of: Shop) => {
      const index = indexShop(of);
      return minutesOf(index, firingOf(index, treeIds(shop)[0]!)!);
    };
    expect(minutes(shop)).toBe(360);
    expect(minutes({ ...shop, profiles })).toBe(330);
    expect(minutes({ ...shop, profiles, routeTimes: { fire: { minutes: 400 } } })).toBe(400);
    const load = { id: 'l-1', treeIds: treeIds(shop), profileId: 'short' };
    expect(minutes({ ...after(shop, planLoad(indexShop(shop), load, doing)), profiles })).toBe(240);
  });
});
