import type { Instant, Lane, LaneBar, PlanRow, Reach, Text } from '@kalvet/core';
import { addMinutes, dayIn, spanInWords, toMs } from '@kalvet/core';

/** What moving planned work to another hour would do. */
export interface Break {
  readonly text: string;
  /** It cannot be moved there. */
  readonly isHard: boolean;
}

/** How a screen says times and texts. */
export interface Says {
  readonly when: (instant: Instant) => string;
  readonly dayOf: (instant: Instant) => string;
  readonly words: (text: Text) => string;
}

export interface Asked {
  readonly bar: LaneBar;
  readonly lane: Lane;
  readonly at: Instant;
  readonly now: Instant;
  readonly zone: string;
  readonly reach: Reach | undefined;
  /** The rows of the pieces that it is for. */
  readonly rows: readonly PlanRow[];
}

const minutesBetween = (from: Instant, to: Instant): number => Math.round((toMs(to) - toMs(from)) / 60_000);

/** When moved work ends: as much later or sooner as it begins. */
export const endAt = ({ spells }: LaneBar, at: Instant): Instant =>
  addMinutes(at, minutesBetween(spells[0]![0], spells.at(-1)![1]));

/** What it breaks to begin planned work at another hour, what forbids it first. */
export function breaksOf({ bar, lane, at, now, zone, reach, rows }: Asked, says: Says): Break[] {
  const found: Break[] = [];
  const no = (text: string) => found.push({ text, isHard: true });
  const but = (text: string) => found.push({ text, isHard: false });
  const end = endAt(bar, at);
  if (bar.isRunning) no('It has begun.');
  if (bar.isSet) no('It is set up already: its hour is changed on the Pour page, or in its load.');
  if (at < now) no('That hour lies behind us.');
  if (reach?.notBefore && at < reach.notBefore.at)
    no(`Not before ${says.when(reach.notBefore.at)}: ${says.words(reach.notBefore.because)}.`);
  if (reach?.tooOldAt && at > reach.tooOldAt.at)
    but(`Too late after ${says.words(reach.tooOldAt.because)}: by ${says.when(reach.tooOldAt.at)}.`);
  if (lane.open !== null && !lane.open.some(([from, to]) => from <= at && at < to))
    but(lane.kind === 'people' ? 'Nobody works there at that hour.' : 'Outside the hours for it.');
  const others = othersAt(lane, bar, at);
  if (others.length >= lane.count)
    but(
      `${lane.count === 1 ? 'It is' : `All ${lane.count} are`} taken then: ${listed(others)} ${others.length === 1 ? 'goes' : 'go'} later.`,
    );
  if (reach?.endBy && end > reach.endBy.at) {
    const later = minutesBetween(reach.endBy.at, end);
    but(`${says.words(reach.endBy.before)} comes ${spanInWords(later)} later.`);
    found.push(...latenessOf(rows, later, zone, says));
  }
  return found.sort((a, b) => Number(b.isHard) - Number(a.isHard));
}

/** Which pieces become late, or later, when all that follows is put off by so much. */
function latenessOf(rows: readonly PlanRow[], minutes: number, zone: string, says: Says): Break[] {
  return rows.flatMap(({ title, mark, finishesAt, dueDate }): Break[] => {
    if (finishesAt === null || dueDate === null) return [];
    const out = addMinutes(finishesAt, minutes);
    if (dayIn(out, zone) <= dueDate) return [];
    return [{ text: `${title} ${mark} is out about ${says.dayOf(out)} then: late.`, isHard: false }];
  });
}

/** Work that is at hand at a moment, each once. */
function othersAt(lane: Lane, { name }: LaneBar, at: Instant): LaneBar[] {
  return lane.bars.filter((other) => other.name !== name && other.spells.some(([from, to]) => from <= at && at < to));
}

const NAMED = 2;
const listed = (bars: readonly LaneBar[]): string =>
  bars
    .slice(0, NAMED)
    .map(({ what, on }) => `${what} · ${on}`)
    .join(', ') + (bars.length > NAMED ? ` and ${bars.length - NAMED} more` : '');
