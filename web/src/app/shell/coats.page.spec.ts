import { RouterTestingHarness } from '@angular/router/testing';
import type { CoatRow, CoatsAnswer, PlaceAir } from '@kalvet/core';
import { planStand } from '../testing/pieces';
import { bed } from '../testing/screen';
import { shareAt } from './coat-rows';
import { CoatsPage } from './coats.page';
import { timeTrack } from './time-track';

const at = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
const row = (n: number, rest: Partial<CoatRow> = {}): CoatRow => ({
  treeId: `t-${n}`,
  version: 3,
  coatPlan: null,
  label: `T-${n}`,
  title: 'Otter with Reed',
  pieceIds: ['p'],
  readyAt: at(-60),
  tooOldAt: at(600),
  waits: [],
  plannedStart: null,
  coats: (['done', 'next', 'later'] as const).map((state, i) => ({
    stepId: `st-${n}-${i}`,
    kind: 'coat',
    version: 2,
    sequence: i + 1,
    name: i === 2 ? 'Seal coat 3' : `Dip coat ${i + 1} of 3`,
    state,
    at: state === 'done' ? at(-300) : null,
    by: state === 'done' ? ['Oskar Venn'] : [],
    readings: '',
    flags: [],
  })),
  lift: null,
  slurry: 'face',
  stucco: 'fine',
  wall: { nowMm: 0.9, sealedMm: 2.7, measured: false },
  poured: null,
  strength: [],
  sections: [],
  drying: null,
  hangs: null,
  ...rest,
});
/** Dipped two hours ago, dry in two. */
const drying = (share = 0.5): NonNullable<CoatRow['drying']> => ({
  stepId: 'st-2-0',
  dippedAt: at(-120),
  dryAt: at(120),
  points: [
    { at: at(-120), share: 0 },
    { at: at(0), share },
    { at: at(120), share: 1 },
  ],
  placeId: 'room',
  referenceMinutes: 180,
  referenceK: 6.51,
  learned: { factor: 1.08, n: 21 },
  airflow: 1,
  meanK: 4.9,
  looks: [],
});
const place = (rest: Partial<PlaceAir> = {}): PlaceAir => ({
  place: { id: 'room', name: 'Shell room', kind: 'room', airflow: 1, hooks: 20, state: 'in use', version: 1 },
  readings: [{ placeId: 'room', at: at(-10), celsius: 21.6, humidityPercent: 53, source: 'sensor' }],
  kelvin: 5.9,
  expected: [],
  alarms: [],
  trees: 3,
  ...rest,
});

describe('the shell room', () => {
  const open = async (rows: readonly CoatRow[], places: readonly PlaceAir[] = []) => {
    const http = bed([{ path: '', component: CoatsPage }]);
    const harness = await RouterTestingHarness.create('/');
    const settle = async () => {
      harness.detectChanges();
      await harness.fixture.whenStable();
    };
    await settle();
    const answer: CoatsAnswer = { change: 1, now: at(0), plan: planStand(), rows, places };
    http.expectOne('/api/coats').flush(answer);
    await settle();
    const root = harness.routeNativeElement!;
    const press = async (selector: string) => {
      document.body.querySelector<HTMLElement>(selector)!.click();
      await settle();
    };
    return { http, root, settle, press, text: () => root.textContent!.replace(/\s+/g, ' ') };
  };

  it('tells what is ready, drying, too old or waiting', async () => {
    const { text } = await open([
      row(1),
      row(2, { readyAt: at(90) }),
      row(3, { tooOldAt: at(-5) }),
      row(4, { waits: ['Join tree, wash'] }),
      row(5, { waits: ['on hold: artist asks'] }),
    ]);
    expect(text()).toContain('ready; too old from');
    expect(text()).toContain('dries until');
    expect(text()).toContain('too old since');
    expect(text()).toContain('waits for Join tree, wash');
    expect(text()).toContain('on hold: artist asks');
  });

  it('takes every ready tree onto one tray, and none that is drying or too old', async () => {
    const { press, http } = await open([row(1), row(2, { readyAt: at(90) }), row(3), row(4, { tooOldAt: at(-5) })]);
    for (const name of ['tick-ready', 'together']) await press(`[data-test=${name}]`);
    http.expectOne('/api/steps/forms?ids=st-1-1,st-3-1');
    expect(document.body.querySelector('kv-record-many h2')!.textContent).toContain('2 ×');
  });

  it('says so where nothing is being shelled', async () => {
    const { root } = await open([]);
    expect(root.querySelector('.kv-soft')!.textContent!.trim().length).toBeGreaterThan(10);
  });

  it('puts what is too old first, then the face tank before the back-up, small before large', async () => {
    const weighing = (kg: number) => ({
      weight: { value: kg, unit: 'kg' as const, source: 'estimated' as const, inWords: '', inputs: {} },
      tooHeavy: false,
      inWords: '',
    });
    const { root } = await open([
      row(1, { slurry: 'backup', lift: weighing(2) }),
      row(2, { slurry: 'face', lift: weighing(9) }),
      row(3, { slurry: 'face', lift: weighing(4) }),
      row(4, { tooOldAt: at(-5) }),
      row(5, { readyAt: at(300) }),
      row(6, { readyAt: at(30) }),
    ]);
    const labels = [...root.querySelectorAll('tbody th[scope=row] a')].map((each) => each.textContent!.trim());
    expect(labels).toEqual(['T-4', 'T-3', 'T-2', 'T-1', 'T-6', 'T-5']);
    expect([...root.querySelectorAll('.group th')].map((each) => each.textContent!.trim().split(/\s{2,}/)[0])).toEqual([
      'Too old: the next coat holds badly 1',
      'Dip now, face tank first 2',
      'Dip now, back-up tank 1',
      'Drying 2',
    ]);
  });

  it('shows the air with its alarms, and how far each coat has dried in it', async () => {
    const says = 'Wet bulb only 1.8 K below the room: shells hardly dry';
    const { text, root } = await open(
      [row(2, { readyAt: at(120), drying: drying() })],
      [place({ alarms: [{ code: 'damp', says }] })],
    );
    expect(text()).toContain('21.6 °C, 53 %');
    expect(text()).toContain('dries at 5.9 K');
    expect(root.querySelector('[role=alert]')!.textContent).toContain(says);
    expect(text()).toContain('50 % dry');
    expect(root.querySelector<HTMLElement>('.bar span')!.style.width).toMatch(/^(49|50)/);
  });

  it('sends what somebody found: still wet, by which means and how far', async () => {
    const { press, http } = await open([row(2, { readyAt: at(120), drying: drying() })], [place()]);
    await press('.track');
    expect(document.body.querySelector('kv-drying-card')!.textContent).toContain('Learned here, from 21 looks');
    const field = document.body.querySelector<HTMLInputElement>('#d-share')!;
    field.value = '70';
    field.dispatchEvent(new Event('input'));
    await press('[data-test=wet]');
    const { request } = http.expectOne('/api/shell/looks');
    expect(request.body).toEqual(
      jasmine.objectContaining({ stepId: 'st-2-0', dry: false, share: 0.7, means: 'conductivity' }),
    );
  });
});

describe('what the page works out by itself', () => {
  it('is the share at this minute, between the moments that were told', () => {
    const given = row(1, { drying: drying(0.6) });
    expect(shareAt(given, at(-60))).toBeCloseTo(0.3, 2);
    expect(shareAt(given, at(60))).toBeCloseTo(0.8, 2);
    expect(shareAt(given, at(500))).toBe(1);
    expect(shareAt(row(1), at(0))).toBeNull();
  });

  it('is an axis with a mark each six hours of the shop’s clock, days by name', () => {
    // Two hours ahead of UTC in summer: 14:00 there is 12:00 here.
    const track = timeTrack('2027-07-01T12:00:00.000Z', 'Europe/Helsinki');
    expect(track.x('2027-07-01T12:00:00.000Z')).toBeCloseTo(track.now, 9);
    expect(track.marks.map(({ label }) => label)).toEqual([
      '06:00',
      '12:00',
      '18:00',
      'Fri 2 Jul',
      '06:00',
      '12:00',
      '18:00',
    ]);
  });
});
