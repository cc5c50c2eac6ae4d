import type { FeedsAnswer } from '@kalvet/core';
import { bed, page, press, show, type } from '../../testing/screen';
import { OutPage } from './out.page';

const answer = (path: string | null = null): FeedsAnswer => ({
  feeds: [
    { subject: 'pour days', name: 'Pour days', room: null, path, madeAt: null, own: true },
    { subject: 'room:wax', name: 'Wax', room: 'wax', path: null, madeAt: null, own: false },
  ],
  visits: [
    {
      id: 'v-1',
      day: '2027-03-11',
      from: '14:00',
      to: '15:00',
      who: 'Harbour school',
      note: '',
      version: 2,
      caution: 'A pour day: guests stay behind the line.',
    },
  ],
});

describe('calendars and visits', () => {
  const open = async (given = answer()) => {
    const http = bed();
    const fixture = await show(OutPage, {});
    http.expectOne('/api/feeds').flush(given);
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('an address is made once, and closed only after it was said what that does', async () => {
    const { http, fixture } = await open();
    // Whose calendar it is not, makes none.
    expect(page(fixture).querySelectorAll('[data-test^="make "]').length).toBe(1);
    await press(fixture, '[data-test="make pour days"]');
    expect(http.expectOne('/api/feeds').request.body).toEqual({ subject: 'pour days' });
    const made = await open(answer('/api/feed/secret.ics'));
    const field = page(made.fixture).querySelector<HTMLInputElement>('.address')!;
    expect(field.value).toBe(`${location.origin}/api/feed/secret.ics`);
    await press(made.fixture, 'new address');
    made.http.expectNone('/api/feeds');
    expect(made.text()).toContain('The old address is closed for all who have it.');
    await press(made.fixture, 'Close it and make a new one');
    made.http.expectOne('/api/feeds');
  });

  it('a visit is entered as people write hours, and taken off; a pour day is said', async () => {
    const { http, fixture, text } = await open();
    expect(text()).toContain('behind the line');
    await press(fixture, '[data-test=add-visit]');
    await type(fixture, '#visit-who', 'Gallery');
    await type(fixture, '#visit-day', '12.3.2027');
    await type(fixture, '#visit-from', '9.30');
    await type(fixture, '#visit-to', '11');
    await press(fixture, '[data-test=save-visit]');
    const { body } = http.expectOne('/api/visits').request;
    expect(body).toEqual(
      jasmine.objectContaining({
        who: 'Gallery',
        day: '2027-03-12',
        from: '09:30',
        to: '11:00',
        version: 0,
        gone: false,
      }),
    );
    const again = await open();
    await press(again.fixture, 'take off');
    expect(again.http.expectOne('/api/visits').request.body).toEqual(
      jasmine.objectContaining({ id: 'v-1', version: 2, gone: true }),
    );
  });
});
