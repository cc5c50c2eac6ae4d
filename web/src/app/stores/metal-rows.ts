import type { MetalNeed, MetalStock } from '@kalvet/core';

/** An alloy's line: what there is, and how the ingot goes down with the coming heats. */
export interface MetalRow {
  readonly alloyId: string;
  readonly ingotKg: number;
  readonly returnsKg: number;
  readonly steps: readonly (MetalNeed & {
    /** Of the row's width: where the bar of what is left begins and how long it is, per cent; red where it is missing. */
    readonly from: number;
    readonly width: number;
    readonly missing: boolean;
  })[];
  /** The first heat that it does not reach for. */
  readonly short: MetalNeed | undefined;
}

/** A line for each alloy that lies there or is wanted, in the order of the shop's alloys. */
export function metalRows(
  stock: readonly MetalStock[],
  needs: readonly MetalNeed[],
  order: readonly string[],
): MetalRow[] {
  const ids = order.filter(
    (id) => stock.some(({ alloyId }) => alloyId === id) || needs.some(({ alloyId }) => alloyId === id),
  );
  return ids.map((alloyId) => {
    const there = stock.find((each) => each.alloyId === alloyId) ?? { ingotKg: 0, returnsKg: 0 };
    const own = needs.filter((each) => each.alloyId === alloyId);
    const low = Math.min(0, ...own.map(({ ingotLeftKg }) => ingotLeftKg));
    const span = Math.max(there.ingotKg, 1) - low;
    const at = (kg: number) => ((kg - low) / span) * 100;
    return {
      alloyId,
      ingotKg: there.ingotKg,
      returnsKg: there.returnsKg,
      steps: own.map((need) => ({
        ...need,
        from: at(Math.min(0, need.ingotLeftKg)),
        width: at(Math.max(0, need.ingotLeftKg)) - at(Math.min(0, need.ingotLeftKg)),
        missing: need.ingotLeftKg < -0.05,
      })),
      short: own.find(({ ingotLeftKg }) => ingotLeftKg < -0.05),
    };
  });
}
