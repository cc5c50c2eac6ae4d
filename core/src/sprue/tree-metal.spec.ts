import { DEFAULT_CUP, barsVolumeCm3, cupVolumeCm3, treeMetal } from './tree-metal.ts';

describe('tree metal', () => {
  it('measures the default cup at 659 cm³', () => {
    expect(cupVolumeCm3(DEFAULT_CUP)).toBeCloseTo(659, 0);
  });

  it('measures square and round bars by their section', () => {
    expect(barsVolumeCm3([{ stock: 'S10', count: 2, lengthMm: 150 }])).toBeCloseTo(30, 9);
    expect(barsVolumeCm3([{ stock: 'R20', count: 1, lengthMm: 100 }])).toBeCloseTo(10 * Math.PI, 9);
    expect(() => barsVolumeCm3([{ stock: 'S61', count: 1, lengthMm: 1 }])).toThrowError(/no bar stock S61/);
  });

  it('adds casts, bars, the filled part of the cup and the spill, and gives the yield', () => {
    const metal = treeMetal({
      castsKg: 6.4,
      bars: [{ stock: 'S10', count: 2, lengthMm: 150 }],
      cup: DEFAULT_CUP,
      densityGPerCm3: 8.36,
    });
    // 6.4 + 30 cm³·8.36 + 659.6 cm³·8.36·0.7 + 0.3 kg
    expect(metal.pourWeight.value).toBeCloseTo(6.4 + 0.2508 + 3.859 + 0.3, 2);
    expect(metal.yield.value).toBeCloseTo((6.4 / metal.pourWeight.value) * 100, 9);
  });
});
