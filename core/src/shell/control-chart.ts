import type { ChartLimits, ChartRule } from '../units/chart.ts';

/** For differences of two: 3 ÷ 1.128, and the upper limit of the range. Source: W. Shewhart; handbook 2.4. */
const LIMIT = 2.66;
const RANGE_LIMIT = 3.267;
/** Fewer values say nothing about how much chance there is. */
export const LEAST_VALUES = 6;

/**
 * The limits of a chart of single values, x̄ ± 2.66·MR̄, and of their moving range, 3.267·MR̄.
 *
 * @example
 * // 21.8 22.1 21.9 22.4 22.0 21.7 22.2 22.0 21.9 22.1 s: mean 22.01, limits 21.21 to 22.81, range up to 0.98.
 *
 * @throws RangeError where there are fewer than six values
 */
export function chartLimits(base: readonly number[]): ChartLimits {
  if (base.length < LEAST_VALUES)
    throw new RangeError(`limits need at least ${LEAST_VALUES} values, not ${base.length}`);
  const mean = base.reduce((sum, each) => sum + each, 0) / base.length;
  const ranges = base.slice(1).map((each, i) => Math.abs(each - base[i]!));
  const meanRange = ranges.reduce((sum, each) => sum + each, 0) / ranges.length;
  return {
    mean,
    meanRange,
    low: mean - LIMIT * meanRange,
    high: mean + LIMIT * meanRange,
    rangeLimit: RANGE_LIMIT * meanRange,
  };
}

/** So many of the last so many beyond a share of the way to the limit, all on one side. */
const RUNS: readonly {
  readonly rule: ChartRule;
  readonly of: number;
  readonly count: number;
  readonly beyond: number;
}[] = [
  { rule: 'two of three', of: 3, count: 2, beyond: 2 / 3 },
  { rule: 'four of five', of: 5, count: 4, beyond: 1 / 3 },
  { rule: 'eight', of: 8, count: 8, beyond: 0 },
];

/** Which signs each value gives, with those before it; none where all is chance. */
export function chartSigns(values: readonly number[], { mean, high, low, rangeLimit }: ChartLimits): ChartRule[][] {
  const way = (value: number): number =>
    value >= mean ? (value - mean) / (high - mean) : (value - mean) / (mean - low);
  return values.map((value, i) => {
    const signs: ChartRule[] = [];
    if (Math.abs(way(value)) > 1) signs.push('beyond');
    if (i > 0 && Math.abs(value - values[i - 1]!) > rangeLimit) signs.push('jump');
    for (const { rule, of, count, beyond } of RUNS) {
      const last = values.slice(Math.max(0, i + 1 - of), i + 1).map(way);
      const side = (sign: 1 | -1) => last.filter((each) => each * sign > beyond).length;
      // The value itself takes part: what came before was told then.
      const own = way(value);
      if (last.length === of && ((own > beyond && side(1) >= count) || (own < -beyond && side(-1) >= count)))
        signs.push(rule);
    }
    return signs;
  });
}
