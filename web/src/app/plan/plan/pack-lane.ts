import type { LaneBar } from '@kalvet/core';

/** A spell of work on a row of its lane. */
export interface Placed {
  readonly bar: LaneBar;
  readonly from: number;
  readonly to: number;
  readonly row: number;
  readonly isFirst: boolean;
}

/** When a lane is open; null for always. */
type Open = readonly (readonly [from: string, to: string])[] | null;

/**
 * The spells of work, with those as one between which nobody works at all: what goes on the next morning was not laid down.
 */
function spellsOf(bar: LaneBar, open: Open): (readonly [from: string, to: string])[] {
  const found: (readonly [string, string])[] = [];
  for (const [from, to] of bar.spells) {
    const last = found.at(-1);
    const goesOn =
      last !== undefined && (last[1] === from || open?.every(([opens, closes]) => closes <= last[1] || opens >= from));
    if (goesOn) found[found.length - 1] = [last[0], to];
    else found.push([from, to]);
  }
  return found;
}

/**
 * Puts the work of a lane on as few rows as can be: each spell on the first row that is free then, which for hands is as many
 * rows as are at work at once.
 * @param at where an instant lies on the axis
 */
export function packLane(
  { bars, open }: { readonly bars: readonly LaneBar[]; readonly open: Open },
  at: (instant: string) => number,
): { readonly placed: readonly Placed[]; readonly rows: number } {
  const spells = bars
    .flatMap((bar) =>
      spellsOf(bar, open).map(([from, to], i) => ({ bar, from: at(from), to: at(to), isFirst: i === 0 })),
    )
    .sort((a, b) => a.from - b.from || a.to - b.to || (a.bar.name < b.bar.name ? -1 : 1));
  const free: number[] = [];
  const lastRow = new Map<string, number>();
  const placed = spells.map((spell): Placed => {
    // Work that was laid down is taken up again on the row where it was, if that is free.
    const before = lastRow.get(spell.bar.name);
    const stays = before !== undefined && (free[before] ?? 0) <= spell.from;
    const found = stays ? before : free.findIndex((until) => until <= spell.from);
    const row = found < 0 ? free.length : found;
    free[row] = spell.to;
    lastRow.set(spell.bar.name, row);
    return { ...spell, row };
  });
  return { placed, rows: free.length };
}
