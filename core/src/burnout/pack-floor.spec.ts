import type { Floor, Footprint, Packed } from './pack-floor.ts';
import { packFloor } from './pack-floor.ts';

const FLOOR: Floor = { acrossMm: 1000, deepMm: 1000, gapMm: 40 };
const item = (id: number, acrossMm: number, deepMm: number, fixed = false): Footprint => ({
  ...{ id: String(id), acrossMm, deepMm },
  ...(fixed ? { fixed } : {}),
});
const surface = (items: readonly { acrossMm: number; deepMm: number }[]) =>
  items.reduce((sum, { acrossMm, deepMm }) => sum + acrossMm * deepMm, 0);

function numbers(seed: number): () => number {
  let state = seed;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/** Nothing stands in another's gap or in the wall's. */
function expectApart({ placed }: Packed, { acrossMm, deepMm, gapMm }: Floor): void {
  for (const [i, a] of placed.entries()) {
    expect(Math.min(a.xMm, a.yMm)).toBeGreaterThanOrEqual(gapMm - 1e-6);
    expect(a.xMm + a.acrossMm).toBeLessThanOrEqual(acrossMm - gapMm + 1e-6);
    expect(a.yMm + a.deepMm).toBeLessThanOrEqual(deepMm - gapMm + 1e-6);
    for (const b of placed.slice(i + 1)) {
      const across = Math.max(a.xMm - b.xMm - b.acrossMm, b.xMm - a.xMm - a.acrossMm);
      const deep = Math.max(a.yMm - b.yMm - b.deepMm, b.yMm - a.yMm - a.deepMm);
      expect(Math.max(across, deep)).toBeGreaterThanOrEqual(gapMm - 1e-6);
    }
  }
}

/** The largest surface that can be covered at all: every subset, every place at a left front corner, both ways round. */
function bruteForce(items: readonly Footprint[], { acrossMm, deepMm, gapMm }: Floor): number {
  interface Laid {
    readonly x: number;
    readonly y: number;
    readonly w: number;
    readonly d: number;
  }
  const [across, deep] = [acrossMm - gapMm, deepMm - gapMm];
  const total = surface(items);
  let best = 0;
  const seen = new Set<string>();
  const go = (left: readonly Footprint[], laid: readonly Laid[], sum: number): void => {
    best = Math.max(best, sum);
    if (best >= total - 1e-6 || sum + surface(left) <= best + 1e-6) return;
    const key = laid
      .map(({ x, y, w, d }) => `${x},${y},${w},${d}`)
      .sort()
      .join(' ');
    if (seen.has(key)) return;
    seen.add(key);
    const xs = [gapMm, ...laid.map(({ x, w }) => x + w)];
    const ys = [gapMm, ...laid.map(({ y, d }) => y + d)];
    for (const each of left)
      for (const [w, d] of [
        [each.acrossMm + gapMm, each.deepMm + gapMm],
        [each.deepMm + gapMm, each.acrossMm + gapMm],
      ] as const)
        for (const x of xs)
          for (const y of ys) {
            if (x + w > across + gapMm || y + d > deep + gapMm) continue;
            if (laid.some((o) => x < o.x + o.w && o.x < x + w && y < o.y + o.d && o.y < y + d)) continue;
            go(
              left.filter((other) => other !== each),
              [...laid, { x, y, w, d }],
              sum + surface([each]),
            );
          }
  };
  go(items, [], 0);
  return best;
}

describe('the floor of a kiln', () => {
  it('takes four shells of 440 mm with a gap of 40 all round, turned where they must be', () => {
    const four = packFloor(
      [1, 2, 3, 4].map((id) => item(id, 440, 440)),
      FLOOR,
    );
    expect(four.left).toEqual([]);
    expectApart(four, FLOOR);
    expect(
      packFloor(
        [1, 2, 3, 4, 5].map((id) => item(id, 440, 440)),
        FLOOR,
      ).left.length,
    ).toBe(1);
    // 900 deep only where it lies along the kiln's depth.
    const narrow = { acrossMm: 600, deepMm: 1000, gapMm: 40 };
    expect(packFloor([item(1, 900, 200)], narrow).placed[0]!.turned).toBeTrue();
    expect(packFloor([item(1, 900, 200, true)], narrow).left).toEqual(['1']);
    expect(() => packFloor([item(1, 0, 200)], FLOOR)).toThrowError(RangeError, /footprint/);
  });

  it('covers at least 95 % of what can be covered at all, against every way there is, for loads of four to six shells', () => {
    const shares: number[] = [];
    for (let seed = 1; seed <= 30; seed++) {
      const random = numbers(seed * 7919);
      const n = 4 + Math.floor(random() * 3);
      // Larger shells the fewer they are: so that the floor is about full.
      const middle = 820 / Math.sqrt(n);
      const side = () => Math.round((middle * (0.6 + 0.8 * random())) / 10) * 10;
      const items = Array.from({ length: n }, (_, i) => item(i, side(), side()));
      const packed = packFloor(items, FLOOR);
      expectApart(packed, FLOOR);
      shares.push(surface(packed.placed) / bruteForce(items, FLOOR));
    }
    expect(Math.min(...shares)).toBeGreaterThanOrEqual(0.95);
    expect(shares.reduce((a, b) => a + b) / shares.length).toBeGreaterThan(0.985);
  });

  it('covers at least 95 % of floors that seven or eight shells are known to fill, cut out of them', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const random = numbers(seed * 104_729);
      const n = 7 + (seed % 2);
      // The floor is cut in two again and again, always the largest part; each shell is a little smaller than its part.
      const parts = [{ w: 960, d: 960 }];
      while (parts.length < n) {
        parts.sort((a, b) => b.w * b.d - a.w * a.d);
        const { w, d } = parts.shift()!;
        const share = 0.35 + 0.3 * random();
        if (w >= d) parts.push({ w: w * share, d }, { w: w * (1 - share), d });
        else parts.push({ w, d: d * share }, { w, d: d * (1 - share) });
      }
      const items = parts.map(({ w, d }, i) => (random() < 0.5 ? item(i, w - 44, d - 44) : item(i, d - 44, w - 44)));
      const packed = packFloor(items, FLOOR);
      expectApart(packed, FLOOR);
      expect(surface(packed.placed) / surface(items))
        .withContext(`seed ${seed}`)
        .toBeGreaterThanOrEqual(0.95);
    }
  });
});
