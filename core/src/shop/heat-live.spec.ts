import type { Heat, HeatReading } from '../records/pour.ts';
import { POUR_CHECKS } from '../records/pour.ts';
import type { ReadHeat } from '../records/pour-writes.ts';
import type { Shop } from '../records/shop.ts';
import { after, doingBy, said } from '../testing/doing.ts';
import { START, counter, playThrough, smallShop } from '../testing/play.ts';
import { addMinutes } from '../units/instant.ts';
import { inWords } from '../units/words.ts';
import type { Doing } from './act.ts';
import { lightHeat, readHeat, setTreesInPit, shellOut } from './heat-live.ts';
import { indexShop } from './index-shop.ts';
import { planHeat } from './plan-heat.ts';
import { confirmCrew, finishHeat, pourTree } from './pour-heat.ts';

const NOW = addMinutes(START, 400 * 1440);
const DIPS = ['coat', 'coat', 'coat', 'coat', 'coat', 'coat'] as const;
const WAY = ['pull', 'chase-wax', 'join-tree', ...DIPS, 'fire', 'leak-test'] as const;

/** Two trees in one planned heat, charged with 40 kg of ingot. */
function heated(): { shop: Shop; heat: Heat; trees: [string, string]; doing: Doing } {
  const newId = counter();
  let shop = playThrough(smallShop({ pieces: 2 }, newId), ['make-mould'], newId);
  for (let piece = 0; piece < 2; piece++) shop = playThrough(shop, WAY, newId);
  const trees = shop.trees.map(({ id }) => id) as [string, string];
  const doing = doingBy(newId, { now: NOW });
  const given = {
    id: 'h',
    alloyId: 'C87300',
    plannedFor: null,
    trees: trees.map((treeId) => ({ treeId })),
    chargeLines: [{ what: 'ingot' as const, alloyId: 'C87300', kg: 40, lot: 'B-1', dry: true }],
  };
  shop = after(shop, planHeat(indexShop(shop), given, doing));
  return { shop, heat: shop.heats[0]!, trees, doing };
}

const reading = (rest: Partial<ReadHeat> = {}): ReadHeat => ({
  id: 'r',
  treeId: null,
  at: NOW,
  celsius: 1150,
  where: 'furnace',
  means: 'immersion',
  instrument: '',
  ...rest,
});

describe('what is recorded at the furnace', () => {
  it('keeps a temperature with where, how and how sure it is', () => {
    const { shop, heat, trees, doing } = heated();
    const [kept] = after(shop, readHeat(indexShop(shop), heat, reading({ means: 'infrared' }), doing)).heatReadings;
    const of = ({ celsius, plusMinusK, where }: HeatReading) => [celsius, plusMinusK, where];
    expect(of(kept!)).toEqual([1150, 15, 'furnace']);
    const wrong = (rest: Partial<ReadHeat>) =>
      Object.keys(readHeat(indexShop(shop), heat, reading(rest), doing).fields);
    expect(wrong({ where: 'cup' })).toEqual(['treeId']);
    expect(wrong({ treeId: 'x' })).toEqual(['treeId']);
    expect(wrong({ at: addMinutes(NOW, 10) })).toEqual(['at']);
    expect(wrong({ where: 'cup', treeId: trees[0] })).toEqual([]);
  });

  it('asks about a cup 100 K off its window, in °F or with a nought too many, and takes it when it is so', () => {
    const { shop, heat, trees, doing } = heated();
    const at = (celsius: number, by = doing) =>
      readHeat(indexShop(shop), heat, reading({ where: 'cup', treeId: trees[0], celsius }), by);
    // Silicon bronze: 1036 to 1196 °C at the cup; 2100 °F are 1149 °C.
    expect(at(1290).refusals).toEqual([]);
    expect(at(1297).refusals.length).toBe(1);
    const [fahrenheit] = at(2100).refusals;
    expect(inWords(fahrenheit!.message)).toContain(
      '2100 °C read, but silicon bronze at the cup is from 936 °C to 1296 °C',
    );
    expect(fahrenheit!.asks!.instead!.value).toBeCloseTo(1148.9, 1);
    expect(at(115).refusals[0]!.asks!.instead!.value).toBeCloseTo(1150, 6);
    const passed = at(1400, { ...doing, overrides: [{ rule: 'unlikely', reason: 'yes' }] });
    expect([passed.refusals.length, passed.ops.length]).toEqual([0, 1]);
    // Metal that heats up still may be at any.
    expect(readHeat(indexShop(shop), heat, reading({ celsius: 420 }), doing).refusals).toEqual([]);
  });

  it('keeps when the furnace was lit and when each shell left the kiln', () => {
    const { shop, heat, trees, doing } = heated();
    const lit = after(shop, lightHeat(indexShop(shop), heat, { at: addMinutes(NOW, -150) }, doing));
    expect(lit.heats[0]!.litAt).toBe(addMinutes(NOW, -150));
    const out = after(lit, shellOut(indexShop(lit), lit.heats[0]!, { treeId: trees[1], at: NOW }, doing));
    expect(out.pourings.map(({ outAt }) => outAt)).toEqual([null, NOW]);
  });

  it('sets each tree in a place of its own that nothing else stands in', () => {
    const { shop, heat, trees, doing } = heated();
    const set = (places: readonly (number | null)[], taken = new Map<number, string>()) =>
      setTreesInPit(
        indexShop(shop),
        heat,
        { places: places.map((place, i) => ({ treeId: trees[i]!, place })) },
        doing,
        taken,
      );
    expect(after(shop, set([2, 1])).pourings.map(({ place }) => place)).toEqual([2, 1]);
    expect(inWords(set([2, 2]).fields['places']!)).toBe('place 2 is given twice');
    expect(Object.keys(set([99, 1]).fields)).toEqual(['places.0.place']);
    expect(said(set([2, 1], new Map([[2, 'T-7']])))).toEqual(['place: Place 2 is taken by T-7.']);
  });
});

describe('the end of a heat', () => {
  it('wants all that is forgotten looked at before, and a pig weighed again that does not fit', () => {
    const { shop, heat, trees, doing } = heated();
    const crew = {
      version: 1,
      crew: [{ role: 'lead' as const, personId: doing.actor!.id, deputyId: null }],
      signs: 'spoken' as const,
      coverConfirmed: true as const,
    };
    const some = confirmCrew(indexShop(shop), heat, { ...crew, checks: POUR_CHECKS.slice(1) }, doing);
    expect(inWords(some.fields['checks']!)).toBe(
      'look at these first: crucible sits clamped in its ring; looked over for cracks',
    );
    let now = after(shop, confirmCrew(indexShop(shop), heat, { ...crew, checks: POUR_CHECKS }, doing));
    for (const treeId of trees) {
      const poured = {
        version: now.heats[0]!.version,
        treeId,
        outcome: 'poured',
        startedAt: null,
        endedAt: NOW,
        by: [],
        readings: { pouredKg: 13 },
        note: '',
      };
      now = after(now, pourTree(indexShop(now), now.heats[0]!, poured, doing));
    }
    const end = (pigKg: number) =>
      finishHeat(
        indexShop(now),
        now.heats[0]!,
        { version: 1, endedAt: NOW, by: [], pigKg, energyKwh: 140, note: '' },
        doing,
      );
    // 40 kg less 26 poured and 0.8 lost leave 13.2; 3 % of 40 kg, 1.2 kg, are let pass.
    expect(said(end(11.5))[0]).toContain('1.7 kg are missing: 40.0 kg charged');
    const over = after(now, end(12.4)).heats[0]!;
    expect([over.state, over.pigKg, over.energyKwh]).toEqual(['done', 12.4, 140]);
  });
});
