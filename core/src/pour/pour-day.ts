import type { Id } from '../records/common.ts';
import type { PourStretch } from '../records/pour-page.ts';
import { within } from '../units/figure.ts';
import type { Instant } from '../units/instant.ts';
import { addMinutes } from '../units/instant.ts';

/** A tree of a day's heat. */
export interface DayTree {
  readonly treeId: Id;
  readonly label: string;
  /** Wall of its shell, mm; null for a block, which is bedded the day before and not preheated. */
  readonly shellMm: number | null;
  /** Seconds between the kiln and its metal. */
  readonly outS: number;
}

/** A heat of the day, with what was worked out for it. */
export interface DayHeat {
  readonly heatId: Id;
  readonly label: string;
  readonly pourAt: Instant;
  /** When the furnace is lit, and how long of that the metal takes; the rest warms a cold lining or washes the pot. */
  readonly lightAt: Instant;
  readonly meltMinutes: number;
  readonly trees: readonly DayTree[];
}

/** The shop's figures for a pour day, minutes. */
export interface DayFigures {
  readonly preheatMinutes: number;
  readonly minutesATree: number;
  /** Skimming, additions and the last reading before the crucible leaves the furnace. */
  readonly skimMinutes: number;
  readonly pigMinutes: number;
  readonly lookAfterMinutes: number;
}

/** The wall for which the shop's soak holds, mm; thinner shells take less and thicker more, within these shares. */
const USUAL_SHELL_MM = 9;
const SOAK_SHARES = [0.8, 1.6] as const;
const LOOK_MINUTES = 15;

/** How long a shell soaks in the kiln from cold, by its wall (2–4 h is general practice; the shop's own is for a wall of 9 mm), minutes. */
export function soakMinutes(preheatMinutes: number, shellMm: number): number {
  const share = Math.min(
    SOAK_SHARES[1],
    Math.max(SOAK_SHARES[0], within('shell, mm', shellMm, 0, 500) / USUAL_SHELL_MM),
  );
  return preheatMinutes * share;
}

/** A pour day on one axis: each shell's slot in the kiln, the furnace, and each tree's pour, pig and early look, by their beginnings. */
export function pourDay(heats: readonly DayHeat[], figures: DayFigures): PourStretch[] {
  return heats.flatMap((heat) => stretchesOf(heat, figures)).sort((a, b) => a.from.localeCompare(b.from));
}

function stretchesOf(
  { heatId, label, pourAt, lightAt, meltMinutes, trees }: DayHeat,
  figures: DayFigures,
): PourStretch[] {
  const { preheatMinutes, minutesATree, skimMinutes, pigMinutes, lookAfterMinutes } = figures;
  const skimAt = addMinutes(pourAt, -skimMinutes);
  const meltAt = [lightAt, addMinutes(skimAt, -Math.max(0, meltMinutes - skimMinutes))].sort().at(-1)!;
  const whole = (part: PourStretch['part'], from: Instant, to: Instant): PourStretch[] =>
    from < to ? [{ heatId, part, from, to, treeId: null, label }] : [];
  const pours = trees.map((tree, i) => ({ tree, at: addMinutes(pourAt, i * minutesATree) }));
  const over = addMinutes(pourAt, trees.length * minutesATree);
  return [
    ...whole('lining', lightAt, meltAt),
    ...whole('melt', meltAt, skimAt),
    ...whole('skim', skimAt, pourAt),
    ...pours.flatMap(({ tree, at }): PourStretch[] => {
      const own = { heatId, treeId: tree.treeId, label: tree.label };
      const out = addMinutes(at, -tree.outS / 60);
      const look = addMinutes(at, lookAfterMinutes);
      return [
        ...(tree.shellMm === null || preheatMinutes === 0
          ? []
          : [
              {
                ...own,
                part: 'preheat' as const,
                from: addMinutes(out, -soakMinutes(preheatMinutes, tree.shellMm)),
                to: out,
              },
            ]),
        { ...own, part: 'pour', from: at, to: addMinutes(at, minutesATree) },
        { ...own, part: 'look', from: look, to: addMinutes(look, LOOK_MINUTES) },
      ];
    }),
    ...whole('pig', over, addMinutes(over, pigMinutes)),
  ];
}

/** Shells that find no place in the kiln at their time: so many are in it already. By their tree. */
export function withoutKilnPlace(stretches: readonly PourStretch[], kilnPlaces: number): Set<Id> {
  const slots = stretches.filter(({ part }) => part === 'preheat');
  const left = new Set<Id>();
  for (const slot of slots) {
    const inside = slots.filter(
      ({ from, to, treeId }) => from <= slot.from && to > slot.from && treeId !== slot.treeId && !left.has(treeId!),
    );
    const before = inside.filter(({ from, treeId }) => from < slot.from || treeId! < slot.treeId!);
    if (before.length >= kilnPlaces) left.add(slot.treeId!);
  }
  return left;
}
