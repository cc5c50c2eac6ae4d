import { alloyOf } from '../materials/alloys.ts';
import { inWords } from '../units/words.ts';
import type { Placed } from './targets.ts';
import {
  coolingOf,
  cooledTo,
  coolingPerMinOf,
  crucibleLossOf,
  cupStands,
  cupTarget,
  furnaceTarget,
  pouringOrder,
} from './targets.ts';

const silicon = alloyOf('C87300');
const way = { transferK: 30, coolingPerMin: 0.00655, minutesATree: 6, airC: 20 };

describe('the target at the cup', () => {
  it('falls from the upper end of the superheat at 3 mm to the lower at 10 mm, and stays beyond', () => {
    // Liquidus 916 °C; 280 K at 3 mm, 120 K at 10 mm: 234 K at 5 mm, 166 K at 8 mm.
    const at = (mm: number) => Math.round(cupTarget(silicon, mm).value);
    expect([3, 5, 8, 10].map(at)).toEqual([1196, 1150, 1082, 1036]);
    expect([at(1), at(25)]).toEqual([1196, 1036]);
    expect(cupTarget(silicon, 5).plusMinus).toBe(15);
    expect(inWords(cupTarget(silicon, 5).inWords)).toBe('liquidus 916 °C + 234 K for a wall of 5 mm');
    expect(() => cupTarget(silicon, 0)).toThrowError(RangeError, /wall/);
  });
});

describe('the crucible', () => {
  it('cools by two readings, and is after ten minutes what that says', () => {
    // 1180 → 1150 °C in 4 min at 20 °C: 0.00655 a minute; 1106 °C after 10 min.
    const k = coolingOf(1180, 1150, 4);
    expect(k).toBeCloseTo(0.00655, 5);
    expect(Math.round(cooledTo(1180, 10, k))).toBe(1106);
    expect(() => coolingOf(1150, 1180, 4)).toThrowError(RangeError, /second reading/);
    expect(() => coolingOf(1180, 1150, 0)).toThrowError(RangeError, /minutes/);
  });
});

describe('the furnace', () => {
  const thin = { label: 'T-1', cupC: 1196 };
  const thick = { label: 'T-2', cupC: 1082 };

  it('is brought to what the tree that needs most needs in its turn', () => {
    expect(furnaceTarget([], way)).toBeUndefined();
    // Thin first: 1196 + 30.
    const first = furnaceTarget([thin, thick], way)!;
    expect(Math.round(first.value)).toBe(1226);
    expect(inWords(first.inWords)).toBe(
      'T-1: 1196 °C at the cup + 30 K transfer + 0 K lost in 0 min until it is poured',
    );
    // Thin last: 20 + 1206 · e^(0.0393) = 1274.3.
    expect(Math.round(furnaceTarget([thick, thin], way)!.value)).toBe(1274);
  });

  it('is coolest where trees are poured by falling target: no other order of five needs less', () => {
    const trees = [1036, 1150, 1082, 1196, 1110].map((cupC, i): Placed => ({
      treeId: `t${i}`,
      label: `T-${i}`,
      cupC,
      kg: 10,
      heightMm: null,
    }));
    const orders = (rest: readonly Placed[]): Placed[][] =>
      rest.length === 0
        ? [[]]
        : rest.flatMap((one) => orders(rest.filter((each) => each !== one)).map((more) => [one, ...more]));
    const least = Math.min(...orders(trees).map((order) => furnaceTarget(order, way)!.value));
    expect(furnaceTarget(pouringOrder(trees), way)!.value).toBeCloseTo(least, 9);
  });

  it('of alike targets fills tall trees first and heavy ones last', () => {
    const tree = (treeId: string, kg: number, heightMm: number | null): Placed => ({
      treeId,
      label: treeId,
      cupC: 1150,
      kg,
      heightMm,
    });
    const order = pouringOrder([
      tree('heavy', 40, 300),
      tree('light', 5, 300),
      tree('tall', 20, 700),
      tree('unknown', 1, null),
    ]);
    expect(order.map(({ treeId }) => treeId)).toEqual(['tall', 'light', 'heavy', 'unknown']);
  });

  it("takes a crucible's cooling from its loss at 1150 °C and back", () => {
    // 7.4 K a minute over air at 20 °C: 7.4 ÷ 1130 = 0.00655.
    expect(coolingPerMinOf(7.4)).toBeCloseTo(0.00655, 5);
    expect(crucibleLossOf(coolingPerMinOf(7.4))).toBeCloseTo(7.4, 9);
  });

  it('calls metal at a cup cold below its band, hot above all that the alloy is poured at', () => {
    const alloy = alloyOf('C87300');
    const cup = cupTarget(alloy, 5);
    // 1150 ± 15 °C (1149.3 unrounded); the liquidus and 280 K are 1196 °C.
    expect([1133, 1136, 1190, 1197].map((celsius) => cupStands(celsius, cup, alloy))).toEqual([
      'cold',
      'good',
      'good',
      'hot',
    ]);
  });
});
