import type { MetalNeed, MetalStock } from '@kalvet/core';

/** An alloy's line: what there is, and how the ingot goes down with the coming heats. */
export interface MetalRow {
  readonly alloyId: string;
  readonly ingotKg: number;
  readonly returnsKg: number;
  /** A line a pour day. */
  readonly steps: readonly (Omit<MetalNeed, 'label' | 'heatId'> & {
    readonly heats: readonly { readonly id: string | null; readonly label: string }[];
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
  dayOf: (at: string) => string,
): MetalRow[] {
  const ids = order.filter(
    (id) => stock.some(({ alloyId }) => alloyId === id) || needs.some(({ alloyId }) => alloyId === id),
  );
  return ids.map((alloyId) => {
    const there = stock.find((each) => each.alloyId === alloyId) ?? { ingotKg: 0, returnsKg: 0 };
    const own = byDay(
      needs.filter((each) => each.alloyId === alloyId),
      dayOf,
    );
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
      short: needs.filter((each) => each.alloyId === alloyId).find(({ ingotLeftKg }) => ingotLeftKg < -0.05),
    };
  });
}

type Day = Omit<MetalNeed, 'label' | 'heatId'> & { heats: { id: string | null; label: string }[] };

/** The heats of a day together: what they take, and what is left after the last. */
function byDay(needs: readonly MetalNeed[], dayOf: (at: string) => string): Day[] {
  const days = new Map<string, Day>();
  for (const { heatId, label, ...need } of needs) {
    const day = days.get(dayOf(need.at));
    const heats = [...(day?.heats ?? []), { id: heatId, label }];
    days.set(dayOf(need.at), {
      ...need,
      at: day?.at ?? need.at,
      heats,
      chargeKg: (day?.chargeKg ?? 0) + need.chargeKg,
      ingotKg: (day?.ingotKg ?? 0) + need.ingotKg,
      returnsKg: (day?.returnsKg ?? 0) + need.returnsKg,
    });
  }
  return [...days.values()];
}
