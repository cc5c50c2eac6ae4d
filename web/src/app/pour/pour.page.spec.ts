import type { HttpTestingController } from '@angular/common/http/testing';
import { RouterTestingHarness } from '@angular/router/testing';
import type { Figure, HeatAnswer, PourAnswer, PourTreeView, PourWindow } from '@kalvet/core';
import { heatAnswer, nextStep, planStand } from '../testing/pieces';
import { bed } from '../testing/screen';
import { PourPage } from './pour.page';

const figure = (value: number, unit: Figure['unit']): Figure => ({
  value,
  unit,
  source: 'computed',
  inWords: 'worked out',
  inputs: {},
});
const cup: Figure = { value: 1150, unit: '°C', plusMinus: 15, source: 'computed', inWords: 'by wall', inputs: {} };
const window: PourWindow = {
  metalC: [1036, 1196],
  cup,
  mouldC: [400, 721],
  pace: 'steady',
  inWords: 'general practice',
};
const pouring = (id: string, plannedKg: number, order: number): HeatAnswer['pourings'][number] => ({
  ...heatAnswer().pourings[0]!,
  id: `po-${id}`,
  treeId: id,
  stepId: `st-${id}`,
  label: `T-${id}`,
  order,
  plannedKg,
});
const heat = (rest: Partial<PourAnswer['heats'][number]> = {}): PourAnswer['heats'][number] => ({
  ...heatAnswer(),
  plannedFor: '2027-03-04T13:00:00.000Z',
  pourings: [pouring('a', 30, 1), pouring('b', 50, 2)],
  chargeLines: [{ what: 'ingot', alloyId: 'C87300', kg: 84, lot: 'B-1', dry: true }],
  charge: figure(83.7, 'kg'),
  freeKg: 36.3,
  returnsKg: 0,
  ingotKg: 84,
  warnings: [],
  melt: figure(90, 'min'),
  lightAt: '2027-03-04T11:30:00.000Z',
  windows: { a: window, b: window },
  furnace: { ...cup, value: 1204, inWords: 'T-b: 1150 °C at the cup' },
  order: null,
  kilnOut: {
    a: { wallMm: 7.2, fromC: 870, share: 1, fromS: 29.6, toS: 204 },
    b: { wallMm: 7.2, fromC: 380, share: 1, fromS: 0, toS: 0 },
  },
  fillings: {},
  ...rest,
});
const tree = (id: string, pourKg: number | null, alloyId = 'C87300'): PourTreeView => ({
  ...nextStep({
    stepId: `st-${id}`,
    kind: 'pour',
    name: 'Preheat and pour',
    on: `T-${id}`,
    carrierId: id,
    room: 'pour',
  }),
  pieceIds: ['p'],
  alloyId,
  pourKg,
  window,
  wet: false,
});
const answer = (rest: Partial<PourAnswer> = {}): PourAnswer => ({
  change: 1,
  past: [],
  shorts: [],
  now: '2027-03-01T10:00:00.000Z',
  plan: planStand(),
  heats: [heat()],
  waiting: [tree('c', 20), tree('d', 60), tree('t', 8, 'C90500')],
  pourDays: ['2027-03-04'],
  proposed: [],
  asks: [],
  ready: {},
  fills: {},
  looks: [],
  coming: [],
  ...rest,
});

describe('the pour page', () => {
  let http: HttpTestingController;
  let harness: RouterTestingHarness;
  const root = () => harness.routeNativeElement!;
  const settle = async () => {
    harness.detectChanges();
    await harness.fixture.whenStable();
  };

  const open = async (given: PourAnswer) => {
    http = bed([{ path: '', component: PourPage }]);
    harness = await RouterTestingHarness.create('/');
    await settle();
    http.expectOne('/api/pour').flush(given);
    await settle();
  };
  const press = async (name: string) => {
    const found = [...root().querySelectorAll<HTMLElement>('button')].find(
      (each) => each.getAttribute('aria-label') === name || each.textContent!.trim() === name,
    )!;
    found.click();
    await settle();
  };
  const key = async (bar: number, name: string) => {
    root()
      .querySelectorAll('.tree')
      [bar]!.dispatchEvent(new KeyboardEvent('keydown', { key: name, altKey: true, bubbles: true }));
    await settle();
  };

  it('shows each heat as long as its crucible, with windows, the furnace’s hour and what is missing', async () => {
    await open(answer());
    const bars = [...root().querySelectorAll<HTMLElement>('.tree')].map((bar) => bar.style.width);
    // 30 and 50 of 120 kg.
    expect(bars).toEqual(['25%', '41.6667%']);
    const text = root().textContent!.replace(/\s+/g, ' ');
    expect(text).toContain('36 kg free');
    const cells = [...root().querySelectorAll('kv-heat-trees tbody tr')].map((row) =>
      [...row.children].map((cell) => cell.textContent!.trim()),
    );
    expect(cells[0]).toEqual(['T-a', '', '1150 ± 15 °C', '400–721 °C', '30 s to 3 min 24 s', 'steady']);
    // Colder than its window when it leaves the kiln.
    expect(cells[1]![4]).toBe('too cold from the first');
    expect(text).toContain('crew and cover not confirmed yet');
  });

  it('puts a tree earlier, later, or out of its heat by keyboard', async () => {
    await open(answer());
    await key(1, 'ArrowLeft');
    const sent = () => http.expectOne({ url: '/api/heats/h-1', method: 'PUT' });
    const body = (request: ReturnType<typeof sent>) =>
      (request.request.body as { trees: { treeId: string }[] }).trees.map(({ treeId }) => treeId);
    const first = sent();
    expect([body(first), (first.request.body as { version: number }).version]).toEqual([['b', 'a'], 5]);
    first.flush({ change: 2, id: 'h-1' });
    await settle();
    await new Promise((resolve) => setTimeout(resolve, 80));
    http.expectOne('/api/pour').flush(answer());
    await settle();
    await key(0, 'ArrowLeft');
    http.expectNone({ url: '/api/heats/h-1', method: 'PUT' });
    await key(0, 'ArrowDown');
    const last = sent();
    // What was worked out never comes back as if somebody had typed it.
    expect((last.request.body as { trees: unknown[] }).trees).toEqual([{ treeId: 'b' }]);
  });

  it('lists what was poured until somebody has looked whether it is full', async () => {
    const look = { treeId: 'x', label: 'T-x', stepId: 'st-x', pouredAt: '2027-03-01T09:00:00.000Z' };
    await open(
      answer({
        looks: [
          { ...look, from: '2020-01-01T00:00:00.000Z' },
          { ...look, treeId: 'y', label: 'T-y', stepId: 'st-y', from: '2999-01-01T00:00:00.000Z' },
        ],
      }),
    );
    const rows = [...root().querySelectorAll('.looks li')].map((row) => row.textContent!.replace(/\s+/g, ' '));
    expect(rows[0]).toContain('free a corner or the cup');
    expect(rows[1]).toContain('from');
    await press('Full or short: T-x');
    http.expectOne('/api/steps/st-x/form');
  });

  it('says what the furnace is brought to, and pours in the order that needs less', async () => {
    const order = { treeIds: ['b', 'a'], labels: ['T-b', 'T-a'], coolerK: 38 };
    await open(answer({ heats: [{ ...heat(), order }] }));
    const text = root().textContent!.replace(/\s+/g, ' ');
    expect(text).toContain('furnace to 1204 °C');
    expect(text).toContain('Hottest first: T-b, T-a; the furnace then needs 38 K less.');
    await press('Pour in this order, H-31');
    const { request } = http.expectOne({ url: '/api/heats/h-1', method: 'PUT' });
    expect((request.body as { trees: unknown }).trees).toEqual([{ treeId: 'b' }, { treeId: 'a' }]);
  });

  it('says what each tree still waits for, which cannot be ready, and what could be by then', async () => {
    const ready = (from: string, needs = 'leak test') => ({ from, needs, held: null });
    const coming = { label: 'T-e', stepId: 'st-e', alloyId: 'C87300', pourKg: 12 };
    await open(
      answer({
        ready: { a: ready('2027-03-03T08:00:00.000Z'), b: ready('2027-03-09T08:00:00.000Z', '3 coats, leak test') },
        fills: { 'h-1': [{ treeId: 'e', label: 'T-e', kg: 12 }] },
        asks: [
          {
            key: 'heat h-1',
            text: 'H-31 cannot be kept',
            costs: '',
            days: 3,
            urgent: true,
            pieceId: null,
            answers: [],
          },
          { key: 'heat other', text: 'another', costs: '', days: 3, urgent: true, pieceId: null, answers: [] },
        ],
        coming: [
          { ...coming, treeId: 'e', ready: ready('2027-03-03T08:00:00.000Z') },
          { ...coming, treeId: 'f', label: 'T-f', ready: ready('2027-03-20T08:00:00.000Z') },
        ],
      }),
    );
    const text = root().textContent!.replace(/\s+/g, ' ');
    expect(text).toContain('from Wed 3 Mar 2027: leak test');
    expect(root().querySelector('.late')!.textContent).toContain('3 coats, leak test before it');
    expect(root().querySelector('.heat kv-question')!.textContent).toContain('H-31 cannot be kept');
    expect(root().querySelectorAll('kv-question').length).toBe(1);
    // Only what can be ready for a heat is offered into it.
    const offers = [...root().querySelectorAll('.coming li')].map((row) => row.querySelectorAll('.into button').length);
    expect(offers).toEqual([1, 0]);
    // Where the heat is asked about, that question has what would fill it.
    expect(root().querySelector('[data-test=fills]')).toBeNull();
  });

  it('puts in what fills a heat with room, and says what refuses that', async () => {
    await open(answer({ fills: { 'h-1': [{ treeId: 'e', label: 'T-e', kg: 12 }] } }));
    await press('Put it in H-31');
    const sent = http.expectOne({ url: '/api/heats/h-1', method: 'PUT' });
    expect((sent.request.body as { trees: unknown[] }).trees).toEqual([
      { treeId: 'a' },
      { treeId: 'b' },
      { treeId: 'e' },
    ]);
    // Refused by a rule that may be passed: it goes again with the reason.
    const refusal = { rule: 'ready', message: 'T-e can be poured from Friday.', mayOverride: true };
    const error = { code: 'refused', message: 'refused', refusals: [refusal] };
    sent.flush({ error }, { status: 409, statusText: 'Conflict' });
    await settle();
    expect(root().textContent).toContain('T-e can be poured from Friday.');
  });

  it('says what does not go in, and why, before anything is sent', async () => {
    await open(answer());
    await press('Put T-d into H-31');
    // (30 + 50 + 60 + 2) / 0.98 = 144.9 kg.
    expect(root().textContent).toContain('144.9 kg would be above the usable mark of 120 kg');
    http.expectNone({ url: '/api/heats/h-1', method: 'PUT' });
    await press('Put T-c into H-31');
    http.expectOne({ url: '/api/heats/h-1', method: 'PUT' });
    // Tin bronze is never offered a silicon bronze heat.
    expect(root().querySelector('[aria-label="Put T-t into H-31"]')).toBeNull();
  });

  it('takes over a heat that the plan puts together', async () => {
    await open(
      answer({
        heats: [],
        proposed: [
          {
            name: 'L1',
            kind: 'heat',
            startsAt: '2027-03-04T09:00:00.000Z',
            endsAt: '2027-03-04T09:30:00.000Z',
            count: 2,
            alloyId: 'C87300',
            kg: 80,
            labels: ['T-c', 'T-d'],
            full: 0.5,
            holds: 120,
            treeIds: ['c', 'd'],
            melt: figure(80, 'min'),
            lightAt: '2027-03-04T07:40:00.000Z',
          },
        ],
      }),
    );
    await press('Plan this heat, T-c, T-d');
    expect(http.expectOne('/api/heats').request.body).toEqual(
      jasmine.objectContaining({
        alloyId: 'C87300',
        plannedFor: '2027-03-04T09:00:00.000Z',
        trees: [{ treeId: 'c' }, { treeId: 'd' }],
      }),
    );
  });

  it('says what to do where no heat is planned and nothing waits, and tries again after an error', async () => {
    http = bed([{ path: '', component: PourPage }]);
    harness = await RouterTestingHarness.create('/');
    await settle();
    http
      .expectOne('/api/pour')
      .flush({ error: { code: 'unavailable', message: 'The records are away.' } }, { status: 503, statusText: 'away' });
    await settle();
    expect(root().textContent).toContain('The records are away.');
    await press('Try again');
    await new Promise((resolve) => setTimeout(resolve, 80));
    http.expectOne('/api/pour').flush(answer({ heats: [], waiting: [], pourDays: [] }));
    await settle();
    const text = root().textContent!;
    expect(text).toContain('No heat is planned');
    expect(text).toContain('no pour day in the next four weeks');
    expect(text).toContain('Every tree that can be poured stands in a heat');
  });
});
