import type { HttpTestingController } from '@angular/common/http/testing';
import { RouterTestingHarness } from '@angular/router/testing';
import type { PlanningAnswer } from '@kalvet/core';
import { DEFAULT_CALENDARS, DEFAULT_RESOURCES, DEFAULT_SETTINGS } from '@kalvet/core';
import { bed } from '../../testing/screen';
import { SettingsPage } from './settings.page';

const answer: PlanningAnswer = {
  settings: DEFAULT_SETTINGS,
  settingsVersion: 4,
  calendars: DEFAULT_CALENDARS,
  staffing: [],
  resources: DEFAULT_RESOURCES,
  kinds: [
    {
      kind: 'coat',
      name: 'Dip coat',
      room: 'shell',
      usual: { minutes: 10, minWait: 240, maxWait: 2880 },
      own: {},
      bySize: false,
      firing: null,
      learned: null,
    },
    {
      kind: 'patina',
      name: 'Patina',
      room: 'patina',
      usual: { minutes: 180, minWait: 720, maxWait: null },
      own: { minutes: 240 },
      bySize: true,
      firing: null,
      learned: null,
    },
    {
      kind: 'chase-metal',
      name: 'Chase metal',
      room: 'chasing',
      usual: { minutes: 480, minWait: 0, maxWait: null },
      own: {},
      bySize: true,
      firing: null,
      learned: { factor: 1.324, n: 8 },
    },
  ],
};

describe('the settings page', () => {
  let http: HttpTestingController;
  let harness: RouterTestingHarness;
  const root = () => harness.routeNativeElement!;
  const settle = async () => {
    harness.detectChanges();
    await harness.fixture.whenStable();
  };
  const type = async (css: string, text: string) => {
    const field = root().querySelector<HTMLInputElement>(css)!;
    field.value = text;
    field.dispatchEvent(new Event('input'));
    field.dispatchEvent(new Event('change'));
    field.dispatchEvent(new Event('blur'));
    await settle();
  };
  const click = async (css: string) => {
    root().querySelector<HTMLElement>(css)!.click();
    await settle();
  };

  beforeEach(async () => {
    http = bed([{ path: '', component: SettingsPage }]);
    harness = await RouterTestingHarness.create('/');
    await settle();
    http.expectOne('/api/planning').flush(answer);
    await settle();
  });

  it('says hours a week at a glance and who works by them', () => {
    const text = root().textContent!.replace(/\s+/g, ' ');
    expect(text).toContain('Mon–Fri 08:00–12:00, 12:30–16:30');
    expect(text).toContain('Thu 09:00–16:00');
    expect(text).toContain('for Crucible');
  });

  it('sends a calendar as it was typed, and nothing where a day cannot be read', async () => {
    const pour = DEFAULT_CALENDARS[3]!;
    await click(`[data-test="edit-${pour.id}"]`);
    await type(`#day0-${pour.id}`, 'all day');
    await click(`[data-test="save-${pour.id}"]`);
    expect(root().textContent).toContain('is not from–to');
    http.expectNone('/api/calendars');
    await type(`#day0-${pour.id}`, '9-12');
    await click(`[data-test="save-${pour.id}"]`);
    const { body } = http.expectOne('/api/calendars').request;
    expect(body).toEqual(
      jasmine.objectContaining({
        id: pour.id,
        version: pour.version,
        weekly: [
          { day: 1, from: '09:00', to: '12:00' },
          { day: 4, from: '09:00', to: '16:00' },
        ],
      }),
    );
  });

  const sent = async () => {
    await click('[data-test=save]');
    return http.expectOne('/api/settings').request.body;
  };

  it('says where hands-on time comes from: the size of the work, what was logged, or the shop’s own figure', () => {
    const notes = [...root().querySelectorAll('.by-size')].map((each) => each.textContent!.trim());
    expect(notes).toEqual(['for all sizes', 'by size, × 1.32 from 8 logged']);
  });

  it('shows the shop’s own time over the usual one, and sends only what differs', async () => {
    const field = (name: string) => `[aria-label="${name}"]`;
    const value = (name: string) => root().querySelector<HTMLInputElement>(field(name))!.value;
    expect([value('Dip coat, hands-on'), value('Dip coat, wait at least')]).toEqual(['10 min', '4 h']);
    expect(value('Patina, hands-on')).toBe('4 h');
    await type(field('Dip coat, wait at most'), '3 d');
    // The usual time again is nothing of the shop's own.
    await type(field('Patina, hands-on'), '3 h');
    expect(await sent()).toEqual({ version: 4, times: { coat: { maxWait: 4320 }, patina: {} } });
  });

  it('takes the numbers in any unit, keeps them as typed, and sends the shop’s clock with them', async () => {
    await type('#n-liftLimitKg', '50 lb');
    const { numbers, ...rest } = await sent();
    // 50 × 0.45359237
    expect([numbers.liftLimitKg, numbers.typed, numbers.timeZone]).toEqual([
      22.6796,
      { liftLimitKg: '50 lb' },
      'Europe/London',
    ]);
    expect(rest).toEqual({ version: 4 });
  });

  it('saves what was changed all at once, and says at its field what cannot be read', async () => {
    expect(root().querySelector('[data-test=save]')).toBeNull();
    const [first] = DEFAULT_RESOURCES;
    await type(`#count-${first!.id}`, '7');
    await click('[data-test=add-cup]');
    for (const [field, text] of [
      ['name', 'tiny'],
      ['top', '50'],
      ['bottom', '24'],
      ['height', '45'],
    ] as const)
      await type(`#cup-${field}-3`, text);
    // π · 4.5 / 3 · (2.5² + 2.5 · 1.2 + 1.2²) cm³
    expect(root().textContent).toContain('50 cm³');
    await type('#rounds', '6, 8, big');
    await click('[data-test=save]');
    http.expectNone('/api/settings');
    expect(root().textContent).toContain('big is no size');
    await type('#rounds', '6, 8, 9');
    const body = await sent();
    expect(body.resources).toEqual([jasmine.objectContaining({ id: first!.id, version: first!.version, count: 7 })]);
    expect(body.cups[3]).toEqual({ name: 'tiny', topRadiusMm: 25, bottomRadiusMm: 12, heightMm: 45 });
    expect(body.barStock.filter((code: string) => code.startsWith('R'))).toEqual(['R6', 'R8', 'R9']);
    expect([body.numbers, body.times]).toEqual([undefined, undefined]);
  });

  it('keeps what is typed while others record, and goes back to what is kept where it is taken back', async () => {
    await type('#n-meltLoss', '3');
    expect(root().textContent).toContain('Not saved yet: numbers');
    await click('[data-test=as-it-was]');
    expect(root().querySelector<HTMLInputElement>('#n-meltLoss')!.value).toBe('2');
    expect(root().textContent).not.toContain('Not saved yet');
  });
});
