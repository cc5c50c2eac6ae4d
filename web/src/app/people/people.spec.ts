import type { PeopleAnswer, PersonLine } from '@kalvet/core';
import { PERSON, bed, page, press, show, type } from '../testing/screen';
import { AuditPage } from './audit.page';
import { PeoplePage } from './people.page';

const line = (rest: Partial<PersonLine>): PersonLine => ({
  ...PERSON,
  hasPassword: true,
  hasPin: false,
  openid: null,
  lastSeen: null,
  ...rest,
});

describe('the page of people', () => {
  const open = async (people: PersonLine[]) => {
    const http = bed();
    const fixture = await show(PeoplePage, {});
    const answer: PeopleAnswer = { people, tablets: [], openid: false, now: new Date().toISOString() };
    http.expectOne('/api/people').flush(answer);
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };
  const oskar = line({
    id: 'p-2',
    name: 'Oskar Venn',
    shortName: 'OV',
    roles: ['hand'],
    rooms: ['shell'],
    gates: ['leak test'],
    hasPassword: false,
  });

  it('says what each is, where, and what they answer for; who cannot sign in; and who works here no more', async () => {
    const { text } = await open([line({}), oskar, line({ id: 'p-3', name: 'Petra Lund', active: false })]);
    expect(text()).toContain('2 people');
    expect(text()).toContain('hand; in shell; answers for leak test');
    expect(text()).toContain('cannot sign in yet');
    expect(text()).toContain('No longer here: Petra Lund');
  });

  it('gives a password for one time, shown once, and never to oneself', async () => {
    const { http, fixture, text } = await open([line({}), oskar]);
    expect(page(fixture).querySelector('[data-test=password-IM]')).toBeNull();
    await press(fixture, '[data-test=password-OV]');
    http.expectOne('/api/people/p-2/password').flush({ password: 'abcde-fghij-kmnop' });
    await fixture.whenStable();
    expect(text()).toContain('Oskar Venn signs in once with abcde-fghij-kmnop');
    await press(fixture, 'Seen');
    expect(text()).not.toContain('abcde');
  });

  it('enters somebody new as a hand, and keeps one’s own rights out of one’s own form', async () => {
    const { http, fixture, text } = await open([line({})]);
    await press(fixture, '[data-test=change-IM]');
    expect(page(fixture).querySelector('#pf-roles')).toBeNull();
    expect(text()).toContain('changed by another manager');
    await press(fixture, 'Back');
    await press(fixture, '[data-test=add-person]');
    await type(fixture, '#pf-name', 'Wilma van Tarn');
    await press(fixture, '[data-test=save-person]');
    // On a slow machine the list is being read again by then.
    expect(http.expectOne({ method: 'POST', url: '/api/people' }).request.body).toEqual(
      jasmine.objectContaining({ name: 'Wilma van Tarn', shortName: 'WVT', roles: ['hand'], rooms: [], gates: [] }),
    );
  });
});

describe('the audit', () => {
  it('shows who, how sure and from where, reads on from the oldest, and is taken out as CSV', async () => {
    const http = bed();
    const fixture = await show(AuditPage, {});
    const row = (id: string, rest = {}) => ({
      id,
      at: '2027-03-01T08:00:00.000Z',
      what: 'failed',
      name: 'Nobody',
      how: 'password',
      text: 'name or password wrong',
      address: '10.0.0.7',
      agent: 'Firefox on Linux',
      ...rest,
    });
    http.expectOne('/api/audit').flush({ lines: [row('a-2')], more: true, now: '' });
    await fixture.whenStable();
    const text = () => page(fixture).textContent!.replace(/\s+/g, ' ');
    expect(text()).toContain('signed in by password');
    expect(text()).toContain('Firefox on Linux, 10.0.0.7');
    await press(fixture, 'Earlier ones');
    http.expectOne('/api/audit?before=a-2').flush({ lines: [row('a-1', { name: 'Eve' })], more: false, now: '' });
    await fixture.whenStable();
    expect([text().includes('Nobody'), text().includes('Eve')]).toEqual([true, true]);
    expect(page(fixture).querySelector('a[download]')!.getAttribute('href')).toBe('/api/audit.csv');
  });
});
