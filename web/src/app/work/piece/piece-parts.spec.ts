import type { HistoryLine, LaneView } from '@kalvet/core';
import { floorPiece, nextStep, floorWork, stepView } from '../../testing/pieces';
import { bed, page, press, show, type } from '../../testing/screen';
import { Disc } from '../../shared/disc.component';
import { PieceCard } from '../floor/piece-card.component';
import { History } from './history.component';
import { Lanes } from './lanes.component';
import { PieceActions } from './piece-actions.component';
import { WeightsChart } from './weights-chart.component';

const line = (number: number, rest: Partial<HistoryLine> = {}): HistoryLine => ({
  number,
  verb: 'record step',
  text: `Record ${number}`,
  room: 'wax',
  at: '2027-03-01T10:00:00.000Z',
  typedAt: '2027-03-01T11:00:00.000Z',
  actor: 'Ines',
  reason: null,
  bad: false,
  takenBack: false,
  mayTakeBack: true,
  how: 'pin',
  ...rest,
});
const kg = (value: number, plusMinus = 0.1) => ({
  value,
  unit: 'kg' as const,
  plusMinus,
  source: 'computed' as const,
  inWords: 'w',
  inputs: {},
});
const lane = (rest: Partial<LaneView> = {}): LaneView => ({
  sectionId: 's',
  name: 'Body',
  letter: 'A',
  method: 'shell',
  attempts: [],
  plannedWax: kg(2.4),
  plannedCast: kg(20),
  wax: null,
  castFromWax: null,
  cast: null,
  wall: null,
  wallTargetMm: 5,
  deviation: null,
  ...rest,
});

describe('the history', () => {
  it('takes a wrong record back with a reason, and shows what is taken back as such', async () => {
    const http = bed();
    const fixture = await show(History, {
      lines: [line(8), line(7, { takenBack: true, mayTakeBack: false })],
    });
    expect(page(fixture).querySelector('.gone')!.textContent).toContain('taken back');
    await press(fixture, 'take back');
    const send = [...page(fixture).querySelectorAll('button')].find(
      (button) => button.textContent!.trim() === 'Take it back',
    )!;
    expect(send.disabled).toBeTrue();
    await type(fixture, '#back-8', 'wrong piece');
    await press(fixture, 'Take it back');
    const call = http.expectOne('/api/changes/8/take-back');
    expect(call.request.body).toEqual({ reason: 'wrong piece' });
    call.flush(
      {
        error: {
          code: 'refused',
          message: 'x',
          refusals: [{ rule: 'follows', message: 'Dip coat 2 was done after it.', mayOverride: false }],
        },
      },
      { status: 409, statusText: 'x' },
    );
    await fixture.whenStable();
    expect(page(fixture).textContent).toContain('Dip coat 2 was done after it.');
  });

  it('shows the newest thirty and the rest when asked', async () => {
    bed();
    const fixture = await show(History, { lines: Array.from({ length: 45 }, (_, i) => line(100 - i)) });
    expect(page(fixture).querySelectorAll('li').length).toBe(30);
    await press(fixture, 'All 45 records');
    expect(page(fixture).querySelectorAll('li').length).toBe(45);
  });
});

describe('what can be decided about a piece', () => {
  it('holds with a reason and sends the version that was seen', async () => {
    const http = bed();
    const fixture = await show(PieceActions, {
      piece: floorPiece(4, ['wax'], { version: 6 }),
      title: 'Heron 4/8',
    });
    await press(fixture, 'Hold');
    await type(fixture, '#action-reason', 'client undecided');
    await press(fixture, 'Save');
    const { request } = http.expectOne('/api/pieces/piece-4/hold');
    expect(request.body).toEqual({ version: 6, reason: 'client undecided', until: null });
  });

  it('offers only what the state allows', async () => {
    bed();
    const words = async (state: 'hold' | 'lost' | 'delivered') =>
      [
        ...page(await show(PieceActions, { piece: floorPiece(1, ['wax'], { state }), title: 'x' })).querySelectorAll(
          'button',
        ),
      ].map((button) => button.textContent!.trim());
    expect(await words('hold')).toEqual(['Take the hold off', 'Due date, priority', 'Cancel the piece']);
    expect(await words('lost')).toEqual(['Model it again', 'Due date, priority', 'Cancel the piece']);
    expect(await words('delivered')).toEqual([]);
  });
});

describe('the card of a piece', () => {
  it('puts what can be done now first, folds what is blocked, and says of each how it stands', async () => {
    bed();
    const steps = [
      nextStep({ stepId: 'a' }),
      nextStep({ stepId: 'b', waits: ['Leak test · T-2'] }),
      nextStep({ stepId: 'c', tooOldAt: '2020-01-01T10:00:00.000Z' }),
      nextStep({ stepId: 'd', state: 'running' }),
    ];
    const piece = floorPiece(4, ['shell'], { next: steps, weight: kg(6.4) });
    const fixture = await show(PieceCard, { piece, work: floorWork([piece]) });
    const said = () =>
      [...page(fixture).querySelectorAll('kv-next-steps li')].map(
        (li) => li.querySelector('p:last-child')!.textContent,
      );
    expect(said()).toEqual(['begun', 'too old since Wed 1 Jan 2020 10:00', 'ready']);
    await press(fixture, '[data-test=blocked]');
    expect(said()[3]).toBe('waits for Leak test · T-2');
    expect(page(fixture).textContent).toContain('6.4 ± 0.1 kg');
  });
});

describe('the drawings', () => {
  it('a disc shows late, hold, recast and its mark by shape, not by colour alone', async () => {
    bed();
    const draw = async (rest: object) => page(await show(Disc, { piece: floorPiece(9, ['wax'], rest) }));
    expect((await draw({})).querySelector('text')!.textContent!.trim()).toBe('9');
    expect((await draw({ series: 'ap' })).querySelector('text')!.textContent!.trim()).toBe('AP9');
    expect((await draw({ late: true })).querySelectorAll('path').length).toBe(1);
    expect((await draw({ state: 'hold' })).querySelector('rect')!.getAttribute('stroke-dasharray')).toBeTruthy();
    const ring = floorPiece(2, ['wax', 'shell']);
    expect(page(await show(Disc, { piece: ring })).querySelectorAll('path').length).toBe(2);
  });

  it('weights: the band is ten per cent of the plan on each side, on the axis’ own scale', async () => {
    bed();
    const fixture = await show(WeightsChart, {
      lanes: [lane({ castFromWax: kg(22), deviation: { share: 0.1, flagged: false, inWords: '' } })],
      band: 0.1,
    });
    const [band, plan, dot] = ['.band', '.plan', '.wax'].map((css) => page(fixture).querySelector(css)!);
    const x = (element: Element, name: string) => Number(element.getAttribute(name));
    const perKg = x(plan!, 'x1') / 20;
    expect(x(band!, 'width')).toBeCloseTo(4 * perKg, 6);
    expect(x(dot!, 'cx')).toBeCloseTo(22 * perKg, 6);
    expect(page(fixture).textContent).toContain('wax says 22.0 ± 0.1 kg · +10 % of plan');
  });

  it('lanes: every step can be reached by keyboard and says everything about itself', async () => {
    bed();
    const done = stepView({
      id: 'a',
      state: 'done',
      outcome: 'done',
      endedAt: '2027-03-01T10:00:00.000Z',
      by: ['Petra Lund'],
      told: [{ key: 'waxKg', label: 'Wax weighs', value: '0.800 kg', taken: false }],
      flags: ['too old'],
    });
    const attempt = {
      castId: 'c',
      label: 'OTT 5',
      attempt: 1,
      state: 'wax',
      lostRoom: null,
      lostWhy: null,
      lostAt: null,
      version: 1,
      tree: null,
      steps: [done, stepView({ id: 'b', kind: 'coat', room: 'shell', waits: ['Join tree'] })],
    };
    const fixture = await show(Lanes, {
      lanes: [lane({ attempts: [attempt] })],
      pieceSteps: [],
      nextIds: new Set(['b']),
    });
    const marks = [...page(fixture).querySelectorAll<SVGGElement>('.mark')];
    expect(marks.map((mark) => mark.getAttribute('tabindex'))).toEqual(['0', '0']);
    expect(marks[0]!.getAttribute('aria-label')).toBe(
      'Chase and weigh wax · OTT 5; done Mon 1 Mar 2027, 10:00; by Petra Lund; wax weighs 0.800 kg; too old',
    );
    expect(marks[1]!.getAttribute('aria-label')).toContain('waits for Join tree');
    let chosen = '';
    fixture.componentInstance.chosen.subscribe(({ id }) => (chosen = id));
    marks[1]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter' }));
    expect(chosen).toBe('b');
  });
});
