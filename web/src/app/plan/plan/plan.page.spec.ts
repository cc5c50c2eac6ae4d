import type { HttpTestingController } from '@angular/common/http/testing';
import { RouterTestingHarness } from '@angular/router/testing';
import type { Lane, LaneBar, PlanAnswer, PlanRow, Reach } from '@kalvet/core';
import { planStand } from '../../testing/pieces';
import { bed } from '../../testing/screen';
import { PlanPage } from './plan.page';

/** A whole minute, once for all: a busy machine takes its time between two lines. */
const NOW = Math.floor(Date.now() / 60_000) * 60_000;
const at = (hours: number) => new Date(NOW + hours * 3_600_000).toISOString();
const row = (id: string, rest: Partial<PlanRow> = {}): PlanRow => ({
  pieceId: id,
  workId: 'w',
  title: 'Otter with Reed',
  mark: `${id}/8`,
  state: 'in work',
  dueDate: null,
  finishesAt: at(200),
  likely: null,
  lateDays: 0,
  moved: null,
  spans: [['chasing', at(10), at(100)]],
  ...rest,
});
const answer = (rest: Partial<PlanAnswer> = {}): PlanAnswer => ({
  movedSince: null,
  change: 1,
  now: at(0),
  today: at(0).slice(0, 10),
  plan: planStand(),
  rows: [row('1'), row('2')],
  loads: [],
  pourDays: [],
  hands: [],
  asks: [],
  ...rest,
});
const chase: LaneBar = {
  name: 'st-1',
  steps: [{ id: 'st-1', version: 4, pinKind: 'not before', pinAt: at(5) }],
  kind: 'chase-metal',
  what: 'Chase metal',
  on: 'Otter with Reed 1/8',
  pieceIds: ['1'],
  spells: [[at(30), at(60)]],
  isRunning: false,
  isSet: false,
  full: null,
};
const lane = (rest: Partial<Lane> = {}): Lane => ({
  resourceId: 'r-1',
  name: 'Metal shop',
  kind: 'people',
  room: 'chasing',
  count: 3,
  open: null,
  bars: [chase],
  ...rest,
});

describe('the plan', () => {
  let http: HttpTestingController;
  let harness: RouterTestingHarness;
  const root = () => harness.routeNativeElement!;
  const text = () => root().textContent!.replace(/\s+/g, ' ');
  const settle = async () => {
    harness.detectChanges();
    await harness.fixture.whenStable();
    harness.detectChanges();
    await harness.fixture.whenStable();
  };
  const open = async (given: PlanAnswer, by = '', person: Parameters<typeof bed>[1] = {}) => {
    http = bed([{ path: '', component: PlanPage }], person);
    harness = await RouterTestingHarness.create(by ? `/?by=${by}` : '/');
    await settle();
    http.expectOne('/api/plan').flush(given);
    await settle();
  };
  /** By people and machines, with what is planned on them. */
  const openHands = async (lanes: readonly Lane[] = [lane()], person: Parameters<typeof bed>[1] = {}) => {
    await open(answer(), 'hands', person);
    // First for as much as was in sight before there was anything to look at, then for two weeks.
    for (let i = 0; i < 3; i++) {
      await new Promise((resolve) => setTimeout(resolve, 80));
      for (const call of http.match((request) => request.url.startsWith('/api/plan/lanes')))
        if (!call.cancelled) call.flush({ change: 1, from: '', to: '', lanes });
      await settle();
    }
  };
  const work = () => root().querySelector<SVGElement>('[data-name="st-1"]')!;
  const key = async (name: string, shiftKey = false) => {
    work().dispatchEvent(new KeyboardEvent('keydown', { key: name, shiftKey, bubbles: true }));
    await settle();
  };
  const choose = async (reach: Partial<Reach> = {}) => {
    await key('Enter');
    http
      .expectOne('/api/plan/reach?steps=st-1')
      .flush({ notBefore: null, endBy: null, tooOldAt: null, ...reach } satisfies Reach);
    await settle();
  };
  const pinHere = () => root().querySelector<HTMLButtonElement>('[data-test=pin-here]');

  it('finds pieces by their name and number, and counts what is late', async () => {
    await open(answer({ rows: [row('1'), row('2', { title: 'Heron', lateDays: 3 })] }));
    expect(text()).toContain('2 pieces');
    expect(text()).toContain('1 late');
    const find = root().querySelector<HTMLInputElement>('[data-test=plan-find]')!;
    find.value = 'heron 2';
    find.dispatchEvent(new Event('input'));
    await settle();
    expect([...root().querySelectorAll('.row-label .name')].map((each) => each.textContent)).toEqual(['Heron']);
  });

  it('marks what rests on a decision, and fills heats by their metal', async () => {
    const likely = { evenAt: at(210), ninetyAt: at(300), assumes: at(24) };
    const heat = {
      name: 'heat',
      kind: 'heat' as const,
      startsAt: at(20),
      endsAt: at(21),
      count: 2,
      kg: 90,
      alloyId: 'C87300',
      treeIds: [],
      labels: ['T-1', 'T-2'],
      full: 0.75,
      holds: 120,
    };
    await open(answer({ rows: [row('1', { likely }), row('2')], loads: [heat] }));
    expect(root().querySelectorAll('.asked').length).toBe(1);
    expect(root().querySelectorAll('.bar.assumed').length).toBe(1);
    expect(text()).toContain('if what is undecided is decided in time');
    const [outer, inner] = ['.load', '.filled'].map((css) => Number(root().querySelector(css)!.getAttribute('height')));
    expect(inner! / outer!).toBeCloseTo(0.75, 6);
    expect(text()).toContain('90 kg of 120 kg');
  });

  it('by rooms says how much work there is by week, and which week is full', async () => {
    const week = (monday: string, planned: number) => ({ monday, planned: planned * 60, there: 40 * 60 });
    const hands = [
      {
        resourceId: 'r-1',
        name: 'Patina',
        room: 'patina' as const,
        count: 1,
        weeks: [week('2027-03-01', 20), week('2027-03-08', 39)],
      },
    ];
    await open(answer({ hands }), 'rooms');
    expect(text()).toContain('20 of 40 h this week');
    expect(root().querySelectorAll('.full').length).toBe(1);
    expect(root().querySelector('kv-room-weeks [role=img]')!.getAttribute('aria-label')).toContain(
      '39 h of work, 40 h of hands',
    );
  });

  it('moves work by keys: says what holds it, pins it, and puts back the pin that it had', async () => {
    await openHands();
    await choose({ notBefore: { at: at(28), because: 'Knock out' }, endBy: { at: at(62), before: 'Patina' } });
    await key('ArrowLeft');
    await key('ArrowLeft');
    await key('ArrowLeft');
    expect(text()).toContain('Not before');
    expect(pinHere()!.disabled).toBeTrue();
    for (let i = 0; i < 6; i++) await key('ArrowRight');
    // Three hours later than planned: an hour into what follows.
    expect(text()).toContain('Patina comes 1 h later.');
    await key('Enter');
    const call = http.expectOne('/api/plan/moves');
    const [sent] = (call.request.body as { steps: { at: string; kind: string; version: number }[] }).steps;
    expect([sent!.kind, sent!.version, sent!.at]).toEqual(['at', 4, at(33)]);
    call.flush({ change: 2, stepIds: ['st-1'] });
    await settle();
    root().querySelector<HTMLElement>('[data-test=undo]')!.click();
    await settle();
    expect(http.expectOne('/api/plan/moves').request.body).toEqual({
      steps: [{ id: 'st-1', version: 5, kind: 'not before', at: chase.steps[0]!.pinAt }],
    });
  });

  it('pins nothing before it is known what that breaks, and then only where it can be', async () => {
    for (const [notBefore, sent] of [
      [29, 1],
      [33, 0],
    ] as const) {
      await openHands();
      await key('Enter');
      for (const name of ['ArrowRight', 'Enter']) await key(name);
      http.expectNone('/api/plan/moves');
      http
        .expectOne('/api/plan/reach?steps=st-1')
        .flush({ notBefore: { at: at(notBefore), because: 'Knock out' }, endBy: null, tooOldAt: null });
      await settle();
      expect(http.match('/api/plan/moves').length).toBe(sent);
    }
  });

  it('takes a pin off, and lets go with Escape', async () => {
    await openHands();
    await choose();
    root().querySelector<HTMLElement>('[data-test=unpin]')!.click();
    await settle();
    expect(http.expectOne('/api/plan/moves').request.body).toEqual({
      steps: [{ id: 'st-1', version: 4, kind: null, at: null }],
    });
    await key('Escape');
    expect(text()).toContain('Choose work');
  });

  it('shows what is planned to who moves nothing, and what is set up elsewhere to nobody to be moved', async () => {
    await openHands([lane()], { roles: ['hand'] });
    await choose();
    await key('ArrowRight');
    expect(pinHere()).toBeNull();
    expect(text()).not.toContain('Enter pins it');
    await openHands([lane({ kind: 'crucible', count: 1, bars: [{ ...chase, isSet: true, full: 0.5 }] })]);
    await choose();
    await key('ArrowRight');
    expect(text()).toContain('set up already');
    expect(pinHere()!.disabled).toBeTrue();
  });
});
