import type { Day, Id, Instant, PlannedLoad, Room, ShopIndex, VisitLine } from '@kalvet/core';
import { alloyOf, carrierLabel, dayIn, inWords, kg, kindOf, listUnder, roomOfStep, say, stepName } from '@kalvet/core';
import type { PlannedWork } from './planned-work.ts';

/** What somebody finds in a calendar. */
export interface FeedEvent {
  /** The same for the same thing in the next plan too, so that a calendar moves it instead of doubling it. */
  readonly id: string;
  readonly summary: string;
  readonly from: Instant;
  readonly to: Instant;
  readonly about: string;
}

/** Work that is shorter stands in a calendar together with the same of that day: a tray of dips is one entry. */
const OWN_ENTRY_MS = 2 * 3_600_000;
const NAMED = 12;

/** The work of a room, an entry for each longer piece of work and one a day for what is short. */
export function roomEvents(
  room: Room,
  { work, index }: { readonly work: readonly PlannedWork[]; readonly index: ShopIndex },
  zone: string,
): FeedEvent[] {
  const own: FeedEvent[] = [];
  const short = new Map<string, PlannedWork[]>();
  for (const each of work) {
    if (roomOfStep(index, each.step) !== room) continue;
    const isShort = Date.parse(each.endsAt) - Date.parse(each.startsAt) < OWN_ENTRY_MS;
    if (isShort || kindOf(each.step.kind).through)
      listUnder(short, `${room}.${each.step.kind}.${each.load_ ?? ''}.${dayIn(each.startsAt, zone)}`, each);
    else
      own.push({
        id: each.stepId,
        summary: `${stepName(index, each.step)}, ${carrierLabel(index, each.step)}`,
        from: each.startsAt,
        to: each.endsAt,
        about: '',
      });
  }
  return [...own, ...together(short, index)].sort((a, b) => a.from.localeCompare(b.from) || a.id.localeCompare(b.id));
}

/** What is done at once or one after the other, as one entry; several loads of a day count up. */
function together(groups: ReadonlyMap<string, readonly PlannedWork[]>, index: ShopIndex): FeedEvent[] {
  const counted = new Map<string, number>();
  return [...groups].map(([key, members]): FeedEvent => {
    const [room, kind, , day] = key.split('.');
    const group = `${room}.${kind}.${day}`;
    const nth = (counted.get(group) ?? 0) + 1;
    counted.set(group, nth);
    const on = members.map(({ step }) => carrierLabel(index, step));
    const { name } = kindOf(members[0]!.step.kind);
    return {
      id: nth === 1 ? group : `${group}.${nth}`,
      summary: members.length === 1 ? `${name}, ${on[0]!}` : `${name}: ${members.length}`,
      from: members.reduce((first, { startsAt }) => (startsAt < first ? startsAt : first), members[0]!.startsAt),
      to: members.reduce((last, { endsAt }) => (endsAt > last ? endsAt : last), members[0]!.endsAt),
      about: on.slice(0, NAMED).join('\n') + (on.length > NAMED ? `\nand ${on.length - NAMED} more` : ''),
    };
  });
}

/** The heats of the plan, numbered through each day. */
export function pourEvents(loads: readonly PlannedLoad[], zone: string): FeedEvent[] {
  const onDay = new Map<Day, number>();
  return loads
    .filter(({ kind }) => kind === 'heat')
    .map((heat): FeedEvent => {
      const day = dayIn(heat.startsAt, zone);
      const nth = (onDay.get(day) ?? 0) + 1;
      onDay.set(day, nth);
      const alloy = heat.alloyId === null ? '' : alloyOf(heat.alloyId).name;
      return {
        id: `heat.${day}.${nth}`,
        summary: inWords(
          say`Heat ${nth}: ${kg(heat.kg ?? 0, 0)} ${alloy}, ${heat.count} ${heat.count === 1 ? 'tree' : 'trees'}`,
        ),
        from: heat.startsAt,
        to: heat.endsAt,
        about: heat.labels.join('\n'),
      };
    });
}

/** @param at the instant of an hour of a day */
export const visitEvents = (visits: readonly VisitLine[], at: (day: Day, time: string) => Instant): FeedEvent[] =>
  visits.map(({ id, day, from, to, who, note, caution }) => ({
    id: `visit.${id}`,
    summary: `Visit: ${who}`,
    from: at(day, from),
    to: at(day, to),
    about: [note, inWords(caution ?? '')].filter(Boolean).join('\n'),
  }));

/** Each event once, also where it is in several calendars that are read together. */
export function onlyOnce(events: readonly FeedEvent[]): FeedEvent[] {
  const byId = new Map<Id, FeedEvent>(events.map((each) => [each.id, each]));
  return [...byId.values()];
}
