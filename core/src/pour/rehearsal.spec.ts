import { alloyOf } from '../materials/alloys.ts';
import { inWords } from '../units/words.ts';
import type { RehearsedHeat, RehearsedTree } from './rehearsal.ts';
import { metalThen, rehearsalOutcome } from './rehearsal.ts';
import { SCENARIOS, scenarioOf } from './scenarios.ts';

const heat: RehearsedHeat = {
  alloy: alloyOf('C87300'),
  furnaceC: 1210,
  transferK: 30,
  coolingPerMin: 0.00655,
  fast: 1,
};
const tree = (order: number, rest: Partial<RehearsedTree> = {}): RehearsedTree => ({
  treeId: `t-${order}`,
  label: `T-${order}`,
  order,
  kg: 12,
  wallMm: 5,
  shellMm: 8,
  poured: true,
  beginsS: order * 30,
  outS: 40,
  seconds: 6,
  ...rest,
});
const played = (id: string, ...trees: RehearsedTree[]) =>
  rehearsalOutcome(
    trees,
    heat,
    SCENARIOS.find((each) => each.id === id)!,
  );

describe('a rehearsal', () => {
  it('has ten scenarios, each with trees, and shifts them by the seed', () => {
    expect(SCENARIOS.length).toBe(10);
    expect(new Set(SCENARIOS.map(({ id }) => id)).size).toBe(10);
    for (const { trees, wet, cracked } of SCENARIOS)
      expect([...wet, ...cracked].every((order) => order <= trees.length)).toBeTrue();
    const [one, other] = [scenarioOf('wet', 1), scenarioOf('wet', 5)];
    expect(scenarioOf('wet', 1)).toEqual(one);
    expect([one.events[0]!.atS, one.wet]).not.toEqual([other.events[0]!.atS, other.wet]);
    // What is seen is seen on the tree that is wet.
    expect(one.events[0]!.order).toBe(one.wet[0]!);
    expect(() => scenarioOf('flood', 1)).toThrowError(/no scenario flood; there are plain, wet/);
  });

  it('cools the metal as in earnest: 1210 °C, 30 K on the way, after ten minutes what k = 0.00655/min leaves', () => {
    expect(metalThen(heat, { metalOffK: 0 }, 0)).toBe(1180);
    expect(metalThen(heat, { metalOffK: 0 }, 600)).toBeCloseTo(20 + 1190 * Math.exp(-0.0655) - 30, 6);
    expect(metalThen({ ...heat, fast: 2 }, { metalOffK: 0 }, 300)).toBeCloseTo(
      metalThen(heat, { metalOffK: 0 }, 600),
      9,
    );
  });

  it('fills what is hot enough, and says by which figures', () => {
    const [one] = played('plain', tree(1));
    expect([one!.came, one!.right, one!.nearMiss]).toEqual(['filled', true, false]);
    expect(inWords(one!.why)).toMatch(/^117\d °C at the cup, mould 69\d °C: filled in 6\.0 s/);
  });

  it('throws metal out of a wet mould and lets it run out of a cracked one; leaving them out is right', () => {
    const [wet] = played('wet', tree(2));
    expect([wet!.came, wet!.right, wet!.nearMiss]).toEqual(['metal thrown', false, true]);
    expect(played('wet', tree(2, { poured: false }))[0]!.right).toBeTrue();
    expect(played('crack', tree(2))[0]!.came).toBe('run out');
    // One that could be poured is not left out for nothing.
    expect(played('plain', tree(1, { poured: false }))[0]!.right).toBeFalse();
  });

  it('comes short where a thin wall freezes first, or the metal is below its liquidus', () => {
    // Two millimetres in a shell that cooled for a quarter of an hour.
    const [thin] = played('plain', tree(1, { wallMm: 2, outS: 900, seconds: 9 }));
    expect(thin!.came).toBe('short');
    const [late] = played('plain', tree(1, { beginsS: 60 * 60 }));
    expect([late!.came, inWords(late!.why).includes('below its liquidus of 916 °C')]).toEqual(['short', true]);
  });

  it('draws where it is poured before its shell has cooled to 100 K below the solidus', () => {
    // Silicon bronze: 721 °C; eight millimetres have 842 °C after three seconds.
    const [early] = played('plain', tree(1, { outS: 3 }));
    expect([early!.came, early!.right]).toEqual(['draws', false]);
    expect(inWords(early!.why)).toContain('above 721 °C');
    // Left in the kiln it could have been poured all the same.
    expect(played('plain', tree(1, { poured: false, outS: 0 }))[0]!.right).toBeFalse();
  });

  it('calls it a near miss where somebody poured while nobody should have', () => {
    const [during, after] = played('away', tree(1, { beginsS: 30 }), tree(2, { beginsS: 70 }));
    expect([during!.nearMiss, during!.right, after!.nearMiss]).toEqual([true, false, false]);
    expect(inWords(during!.why)).toContain('nobody stood at the other side of the crucible');
  });
});
