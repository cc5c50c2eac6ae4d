// What the parts of the benchmark share: figures with an aim, and how times are taken.

export interface Line {
  readonly name: string;
  readonly value: number;
  readonly unit: string;
  /** The most it may be; none where a figure is only told. */
  readonly aim?: number;
}

export const line = (name: string, value: number, unit: string, aim?: number): Line => ({
  name,
  value: Number(value.toPrecision(4)),
  unit,
  ...(aim === undefined ? {} : { aim }),
});

/** The value below which so large a share of the values lies. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)] ?? NaN;
}

/** Milliseconds that something took. */
export async function timed(work: () => Promise<unknown>): Promise<number> {
  const began = performance.now();
  await work();
  return performance.now() - began;
}

export async function times(count: number, work: (i: number) => Promise<unknown>): Promise<number[]> {
  const all: number[] = [];
  for (let i = 0; i < count; i++) all.push(await timed(() => work(i)));
  return all;
}
