import type { DayAnswer, FeedsAnswer } from '@kalvet/core';
import request from 'supertest';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

/** An iCalendar file's events, unfolded, by their names. */
function eventsIn(text: string): Record<string, string>[] {
  const lines = text.replace(/\r\n[ \t]/g, '').split('\r\n');
  const events: Record<string, string>[] = [];
  for (const line of lines) {
    if (line === 'BEGIN:VEVENT') events.push({});
    const [name, value] = [line.slice(0, line.indexOf(':')), line.slice(line.indexOf(':') + 1)];
    if (events.length > 0 && !['BEGIN', 'END'].includes(name)) events.at(-1)![name] = value;
  }
  return events;
}

describe('calendars of the plan', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
    await shop.setUp({ editionSize: 2, dueDate: '2027-05-01' });
    await shop.plan();
  });
  const answer = () => shop.get<FeedsAnswer>('/api/feeds');
  const make = async (subject: string, person = shop.person) =>
    (await shop.must(shop.send('post', '/api/feeds', { subject }, undefined, person))).body.path as string;
  /** As a calendar program asks: without a session. */
  const read = (path: string) => request(shop.app).get(path);

  it('are read at a secret address without signing in, with ids that stay when the plan changes', async () => {
    expect((await answer()).feeds.every(({ path }) => path === null)).toBeTrue();
    const path = await make('pour days');
    const { status, headers, text } = await read(path);
    expect([status, headers['content-type']]).toEqual([200, 'text/calendar; charset=utf-8']);
    const [heat] = eventsIn(text);
    expect(heat!['UID']).toMatch(/^heat\.2027-03-\d\d\.1@kalvet$/);
    expect(heat!['SUMMARY']).toMatch(/^Heat 1: \d+ kg .*tree/);
    // Thursdays, in the hours of pouring.
    expect(
      new Date(
        `${heat!['DTSTART']!.slice(0, 4)}-${heat!['DTSTART']!.slice(4, 6)}-${heat!['DTSTART']!.slice(6, 8)}`,
      ).getUTCDay(),
    ).toBe(4);
    // The same plan gives the same file, byte for byte.
    expect((await read(path)).text).toBe(text);
    const shell = eventsIn((await read(await make('room:shell'))).text);
    // What takes ten minutes stands together, once a day and kind.
    expect(new Set(shell.map((each) => each['UID'])).size).toBe(shell.length);
    expect(shell.some((each) => /^Dip coat/.test(each['SUMMARY']!))).toBeTrue();
  });

  it('have a new address when one got about, and the old one is nothing then', async () => {
    const old = await make('room:wax');
    const renewed = await make('room:wax');
    expect(renewed).not.toBe(old);
    expect([(await read(old)).status, (await read(renewed)).status]).toEqual([404, 200]);
    expect((await answer()).feeds.find(({ subject }) => subject === 'room:wax')!.path).toBe(renewed);
    expect((await read('/api/feed/short.ics')).status).toBe(404);
  });

  it('of a person are theirs alone, and end with them', async () => {
    const hand = await shop.addPerson('Mara Teale', 'MT', { roles: ['hand'], rooms: ['wax'] });
    const path = await make(`person:${hand}`, hand);
    expect((await shop.send('post', '/api/feeds', { subject: `person:${hand}` })).status).toBe(404);
    // Whose rooms are waxes alone sees no chasing; the pours are for all.
    const events = eventsIn((await read(path)).text);
    expect(events.some((each) => /^Pull/.test(each['SUMMARY']!))).toBeTrue();
    expect(events.some((each) => /^Chase metal/.test(each['SUMMARY']!))).toBeFalse();
    expect(events.some((each) => /^Heat 1/.test(each['SUMMARY']!))).toBeTrue();
    // A hand makes no address for a room.
    expect((await shop.send('post', '/api/feeds', { subject: 'room:wax' }, undefined, hand)).status).toBe(403);
    await shop.store.models.people.update({ active: false }, { where: { id: hand } });
    expect((await read(path)).status).toBe(404);
    expect((await read('/api/feeds')).status).toBe(401);
  });

  it('hold visits too, and one on a pour day is said to be one on the day’s sheet', async () => {
    const visit = (rest: object) =>
      shop.send('post', '/api/visits', {
        id: newId(),
        version: 0,
        // A Thursday.
        day: '2027-03-11',
        from: '14:00',
        to: '15:30',
        who: 'Harbour school, 20 pupils',
        note: '',
        gone: false,
        ...rest,
      });
    expect((await visit({ from: '16:00' })).status).toBe(400);
    expect((await visit({ from: '25:00' })).body.error.fields).toEqual({ from: jasmine.anything() });
    const id = (await shop.must(visit({}))).body.id as string;
    await shop.must(visit({ id: newId(), day: '2027-03-12' }));
    expect((await answer()).visits.map(({ day, caution }) => [day, caution !== null])).toEqual([
      ['2027-03-11', true],
      ['2027-03-12', false],
    ]);
    const { visits } = await shop.get<DayAnswer>('/api/day?day=2027-03-11');
    expect(visits.map(({ who, caution }) => [who, /behind the line/.test(String(caution))])).toEqual([
      ['Harbour school, 20 pupils', true],
    ]);
    const events = eventsIn((await read(await make('pour days'))).text);
    const entry = events.find((each) => each['UID'] === `visit.${id}@kalvet`)!;
    expect([entry['DTSTART'], entry['DTEND'], entry['SUMMARY']]).toEqual([
      '20270311T140000Z',
      '20270311T153000Z',
      'Visit: Harbour school\\, 20 pupils',
    ]);
    await shop.must(visit({ id, version: 1, gone: true }));
    expect((await answer()).visits.length).toBe(1);
  });
});
