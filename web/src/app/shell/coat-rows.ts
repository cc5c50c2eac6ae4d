import type { CoatRow, CoatView, Instant } from '@kalvet/core';
import { toMs } from '@kalvet/core';

export type Stand = 'too old' | 'ready' | 'drying' | 'waits';

/** How the next coat of a tree stands at a moment. */
export function standOf({ waits, readyAt, tooOldAt }: CoatRow, now: Instant): Stand {
  if (waits.length > 0) return 'waits';
  if (tooOldAt !== null && tooOldAt < now) return 'too old';
  return readyAt !== null && readyAt > now ? 'drying' : 'ready';
}

/** The share that the coat under way has dried at a moment, by the curve that was told; null where no coat dries. */
export function shareAt({ drying }: CoatRow, now: Instant): number | null {
  if (!drying || drying.points.length === 0) return null;
  const ms = toMs(now);
  const after = drying.points.findIndex(({ at }) => toMs(at) > ms);
  if (after < 0) return Math.min(1, drying.points.at(-1)!.share);
  const [from, to] = [drying.points[after - 1] ?? drying.points[0]!, drying.points[after]!];
  const span = toMs(to.at) - toMs(from.at);
  const part = span > 0 ? (ms - toMs(from.at)) / span : 1;
  return Math.max(0, Math.min(1, from.share + (to.share - from.share) * part));
}

/** A tree of the page, with how it stands. */
export interface Standing {
  readonly row: CoatRow;
  readonly next: CoatView;
  readonly stand: Stand;
  readonly share: number | null;
}

/** Trees that are worked on together. */
export interface Group {
  readonly name: string;
  readonly stand: Stand;
  readonly rows: readonly Standing[];
}

const weight = ({ row }: Standing) => row.lift?.weight.value ?? 0;

/**
 * The trees in the order they are taken: what is too old first, then what can be dipped now, the face tank before the back-up and
 * small before large; then what dries, by when it is dry; then what waits.
 */
export function groupsOf(rows: readonly CoatRow[], now: Instant): Group[] {
  const all = rows.map((row): Standing => {
    const next = row.coats.find(({ state }) => state === 'next')!;
    return { row, next, stand: standOf(row, now), share: shareAt(row, now) };
  });
  const dipped = (slurry: string) =>
    all.filter(({ stand, row }) => stand === 'ready' && row.slurry === slurry).sort((a, b) => weight(a) - weight(b));
  const others = all.filter(({ stand, row }) => stand === 'ready' && row.slurry !== 'face' && row.slurry !== 'backup');
  const groups: Group[] = [
    {
      name: 'Too old: the next coat holds badly',
      stand: 'too old',
      rows: all.filter(({ stand }) => stand === 'too old'),
    },
    { name: 'Dip now, face tank first', stand: 'ready', rows: dipped('face') },
    { name: 'Dip now, back-up tank', stand: 'ready', rows: dipped('backup') },
    { name: 'Dip now', stand: 'ready', rows: others },
    {
      name: 'Drying',
      stand: 'drying',
      rows: all
        .filter(({ stand }) => stand === 'drying')
        .sort((a, b) => (a.row.readyAt ?? '').localeCompare(b.row.readyAt ?? '')),
    },
    { name: 'Waits', stand: 'waits', rows: all.filter(({ stand }) => stand === 'waits') },
  ];
  return groups.filter((group) => group.rows.length > 0);
}
