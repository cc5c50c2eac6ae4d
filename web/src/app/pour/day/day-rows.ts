import type { HeatView, Instant, PourDayAnswer, PourStretch } from '@kalvet/core';
import { fromMs, toMs } from '@kalvet/core';

/** A line of the day: the furnace for a heat, or one tree from the kiln to its early look. */
export interface DayRow {
  readonly key: string;
  readonly label: string;
  readonly isFurnace: boolean;
  /** The shell finds no place in the kiln. */
  readonly noKiln: boolean;
  readonly stretches: readonly PourStretch[];
}

/** A heat's lines, with who pours it. */
export interface DayHeatRows {
  readonly heat: HeatView;
  readonly rows: readonly DayRow[];
}

const ON_FURNACE: ReadonlySet<PourStretch['part']> = new Set(['lining', 'melt', 'skim', 'pig']);

/** The day's lines by heats: the furnace first, then its trees in pouring order. */
export function dayRows({
  heats,
  stretches,
  noKiln,
}: Pick<PourDayAnswer, 'heats' | 'stretches' | 'noKiln'>): DayHeatRows[] {
  return heats.map((heat) => {
    const own = stretches.filter(({ heatId }) => heatId === heat.id);
    const furnace: DayRow = {
      key: heat.id,
      label: 'Furnace',
      isFurnace: true,
      noKiln: false,
      stretches: own.filter(({ part, treeId }) => treeId === null && ON_FURNACE.has(part)),
    };
    const trees = heat.pourings.map(({ treeId, label, order }): DayRow => ({
      key: treeId,
      label: `${order}. ${label}`,
      isFurnace: false,
      noKiln: noKiln.includes(treeId),
      stretches: own.filter((stretch) => stretch.treeId === treeId),
    }));
    return { heat, rows: [furnace, ...trees] };
  });
}

/** From when to when the day is drawn: whole hours round everything that is done. Undefined where nothing is. */
export function dayExtent(stretches: readonly PourStretch[]): readonly [Instant, Instant] | undefined {
  if (stretches.length === 0) return undefined;
  const HOUR = 3_600_000;
  const from = Math.floor(Math.min(...stretches.map((each) => toMs(each.from))) / HOUR) * HOUR;
  const to = Math.ceil(Math.max(...stretches.map((each) => toMs(each.to))) / HOUR) * HOUR;
  return [fromMs(from), fromMs(to)];
}
