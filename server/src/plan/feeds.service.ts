import { randomBytes } from 'node:crypto';
import type { Feed, FeedLine, FeedSubject, FeedsAnswer, Id, Instant, Person, Room, ShopSettings } from '@kalvet/core';
import { ROOMS, ROOM_NAMES, addDays, dayIn, daysBetween, mayDo, minuteOfDay, say } from '@kalvet/core';
import { v5 } from 'uuid';
import { rowsOf } from '../db/rows.ts';
import { settingsOf } from '../people/settings.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { FeedEvent } from './feed-events.ts';
import { onlyOnce, pourEvents, roomEvents, visitEvents } from './feed-events.ts';
import { icsOf } from './ics.ts';
import { MOST_LANE_DAYS } from './lanes.service.ts';
import { visitLines } from './visits.ts';
import { plannedLoads } from './plan-page.service.ts';
import { plannedWork } from './planned-work.ts';
import { currentPlan } from './read-plan.ts';
import { WallClock } from './wall-clock.ts';

const POUR_DAYS: FeedSubject = 'pour days';
const SECRET_BYTES = 32;

/** The same subject has the same record for ever, whatever its secret. */
const idOf = (subject: FeedSubject): Id => v5(`kalvet feed ${subject}`, v5.URL);
const roomOf = (subject: FeedSubject): Room | undefined => ROOMS.find((room) => subject === `room:${room}`);
const personOf = (subject: FeedSubject): Id | undefined => /^person:(.+)$/.exec(subject)?.[1];

/** Who works everywhere has the rooms of all. */
const roomsOf = ({ rooms }: Person): readonly Room[] => (rooms.length === 0 ? ROOMS : rooms);

const isOwn = (person: Person, subject: FeedSubject): boolean => {
  const of = personOf(subject);
  return of === undefined ? mayDo(person, 'pin step', roomOf(subject)) : of === person.id;
};

/** The calendars that somebody can have, and the visits to come. */
export async function feedsAnswer(store: Store, person: Person, now: Instant): Promise<FeedsAnswer> {
  const made = new Map((await rowsOf<Feed>(store, 'feeds', {})).map((feed) => [feed.subject, feed]));
  const line = (subject: FeedSubject, name: string): FeedLine => {
    const feed = made.get(subject);
    return {
      subject,
      name,
      room: roomOf(subject) ?? null,
      path: feed ? pathOf(feed) : null,
      madeAt: feed?.madeAt ?? null,
      own: isOwn(person, subject),
    };
  };
  return {
    feeds: [
      line(`person:${person.id}`, person.name),
      line(POUR_DAYS, 'Pour days'),
      ...ROOMS.map((room) => line(`room:${room}`, ROOM_NAMES[room])),
    ],
    visits: await visitLines(store, dayIn(now, (await settingsOf(store)).timeZone)),
  };
}

const pathOf = ({ secret }: Feed): string => `/api/feed/${secret}.ics`;

/** Makes an address, or a new one in place of one that got about: the old one is nothing from then on. */
export async function renewFeed(
  ctx: Context,
  { subject }: { readonly subject: FeedSubject },
): Promise<{ path: string }> {
  const room = roomOf(subject);
  const person = personOf(subject);
  const { actor } = await ctx.doing();
  if (person !== undefined && person !== actor?.id) throw notFound('calendar');
  if (person === undefined) {
    if (room === undefined && subject !== POUR_DAYS) throw invalid({ subject: 'there is no such calendar' });
    ctx.may('pin step', room);
  }
  const id = idOf(subject);
  const secret = randomBytes(SECRET_BYTES).toString('base64url');
  const madeAt = (await ctx.doing()).now;
  const before = await ctx.find<Feed>('feeds', id);
  const feed: Feed = { id, subject, secret, madeAt, version: 1 };
  if (before)
    await ctx.update('feeds', await ctx.claim<Feed>('feeds', id, before.version, 'address', {}), { secret, madeAt });
  else await ctx.insert<Feed>('feeds', [feed]);
  const whose = room ? ROOM_NAMES[room] : person === undefined ? 'the pour days' : (actor?.name ?? '');
  ctx.event = {
    verb: 'renew address',
    text: say`Calendar of ${whose}: ${before ? 'a new address, the old one is closed' : 'address made'}`,
  };
  return { path: pathOf(feed) };
}

/** The calendar behind a secret. @throws Problem where there is none, or its person is not here any more */
export async function feedFile(store: Store, now: Instant, secret: string): Promise<string> {
  const [feed] = await rowsOf<Feed>(store, 'feeds', { secret });
  if (!feed) throw notFound('calendar');
  const id = personOf(feed.subject);
  const [person] = id === undefined ? [] : await rowsOf<Person>(store, 'people', { id, active: true });
  if (id !== undefined && !person) throw notFound('calendar');
  const settings = await settingsOf(store);
  const { stand } = await currentPlan(store);
  const room = roomOf(feed.subject);
  const rooms = person ? roomsOf(person) : room ? [room] : [];
  const events = await eventsOf(store, {
    planId: stand.planId,
    now,
    settings,
    rooms,
    pours: person !== undefined || !room,
  });
  const name = person?.name ?? (room ? ROOM_NAMES[room] : 'Pour days');
  return icsOf(`${settings.shopName}: ${name}`, events, stand.madeAt ?? feed.madeAt);
}

interface Asked {
  readonly planId: Id | null;
  readonly now: Instant;
  readonly settings: ShopSettings;
  readonly rooms: readonly Room[];
  readonly pours: boolean;
}

async function eventsOf(store: Store, { planId, now, settings, rooms, pours }: Asked): Promise<FeedEvent[]> {
  const zone = settings.timeZone;
  const from = dayIn(now, zone);
  const found: FeedEvent[] = [];
  if (rooms.length > 0) {
    const planned = await plannedWork(store, planId, { now, settings, from, to: addDays(from, MOST_LANE_DAYS - 1) });
    for (const room of rooms) found.push(...roomEvents(room, planned, zone));
  }
  if (pours) found.push(...pourEvents(await plannedLoads(store, planId), zone));
  const clock = new WallClock(now, zone);
  const at = (day: string, time: string) =>
    clock.instantOf(daysBetween(clock.startDay, day) * 1440 + (minuteOfDay(time) ?? 0));
  found.push(...visitEvents(await visitLines(store, from), at));
  return onlyOnce(found);
}
