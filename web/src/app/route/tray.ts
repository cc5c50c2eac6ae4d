import type { ReadingDef, TrayLine } from '@kalvet/core';

/** Trees, casts or pieces of a tray whose own plan says the same: one coat, one slurry, one stucco. */
export interface TrayGroup {
  /** Stands for what they have in common. */
  readonly key: string;
  readonly own: Readonly<Record<string, unknown>>;
  readonly lines: readonly TrayLine[];
}

/** The lines of a tray by what their own plans say, in their order. */
export function trayGroups(lines: readonly TrayLine[]): TrayGroup[] {
  const groups = new Map<string, TrayLine[]>();
  for (const line of lines) {
    const key = JSON.stringify(line.own);
    groups.set(key, [...(groups.get(key) ?? []), line]);
  }
  return [...groups].map(([key, own]) => ({ key, own: own[0]!.own, lines: own }));
}

/** `face, fine`: what a plan says, by the labels of its choices. */
export const ownInWords = (own: Readonly<Record<string, unknown>>, defs: readonly ReadingDef[]): string =>
  Object.entries(own)
    .map(([key, value]) => {
      const choices = defs.find((def) => def.key === key)?.choices;
      return choices?.find(({ code }) => code === value)?.label ?? String(value);
    })
    .join(', ');

/** Read of each in turn, and so not for a tray: lists, and what has a row for each cast. */
const LISTS: ReadonlySet<ReadingDef['kind']> = new Set(['casts', 'perCast', 'bars', 'defects']);

/** What of a kind's readings cannot be said on a tray, in words; empty where all can. */
export const notOnTray = (defs: readonly ReadingDef[]): string =>
  defs
    .filter(({ required, kind }) => required && LISTS.has(kind))
    .map(({ label }) => label.toLowerCase())
    .join(', ');
