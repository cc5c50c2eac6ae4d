// Check values of the handbook (2.4), and each sign with the least that brings it about.
import { chartLimits, chartSigns } from './control-chart.ts';

const SECONDS = [21.8, 22.1, 21.9, 22.4, 22.0, 21.7, 22.2, 22.0, 21.9, 22.1];

describe('a control chart of single values', () => {
  const limits = chartLimits(SECONDS);

  it('has its limits from the moving range of a base period', () => {
    expect(limits.mean).toBeCloseTo(22.01, 9);
    expect(limits.meanRange).toBeCloseTo(0.3, 3);
    expect([limits.low, limits.high].map((each) => each.toFixed(2))).toEqual(['21.21', '22.81']);
    expect(limits.rangeLimit).toBeCloseTo(0.98, 2);
    expect(() => chartLimits([22, 22, 22])).toThrowError(RangeError, /at least 6 values, not 3/);
  });

  it('gives no sign for what is chance, the base itself first of all', () => {
    expect(chartSigns(SECONDS, limits).flat()).toEqual([]);
  });

  it('names each sign where it comes about, and not before', () => {
    const last = (...values: number[]) => chartSigns(values, limits).at(-1);
    expect(last(22, 22.85)).toEqual(['beyond']);
    expect(last(21.5, 22.5)).toEqual(['jump']);
    // Beyond two thirds of the way to 22.81: 22.55.
    expect(last(22.6, 22.0, 22.6)).toEqual(['two of three']);
    expect(last(22.6, 22.0, 22.0)).toEqual([]);
    // Beyond a third: 22.28.
    expect(last(22.3, 22.3, 22.0, 22.3, 22.3)).toEqual(['four of five']);
    expect(last(22.3, 22.3, 22.0, 22.3)).toEqual([]);
    const above = Array.from({ length: 8 }, () => 22.1);
    expect(last(...above)).toEqual(['eight']);
    expect(last(...above.slice(1))).toEqual([]);
    expect(last(...above.map((each) => 2 * limits.mean - each))).toEqual(['eight']);
  });
});
