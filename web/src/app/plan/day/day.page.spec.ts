import type { HttpTestingController } from '@angular/common/http/testing';
import { RouterTestingHarness } from '@angular/router/testing';
import type { DayAnswer, DayLine } from '@kalvet/core';
import { nextStep, planStand, question } from '../../testing/pieces';
import { bed } from '../../testing/screen';
import { DayPage } from './day.page';

const at = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
const line = (id: string, rest: Partial<DayLine> = {}): DayLine => ({
  ...nextStep({ stepId: id, on: `T-${id}` }),
  version: 1,
  through: null,
  plannedStart: null,
  plannedEnd: null,
  load: null,
  pieceIds: ['p'],
  late: false,
  after: false,
  ...rest,
});
const answer = (rest: Partial<DayAnswer> = {}): DayAnswer => ({
  change: 1,
  now: at(0),
  today: at(0).slice(0, 10),
  day: at(0).slice(0, 10),
  dayEnd: at(24 * 60),
  plan: planStand(),
  lines: [],
  questions: [],
  timetable: [],
  heats: [],
  loads: [],
  visits: [],
  ...rest,
});

describe('the day sheet', () => {
  let http: HttpTestingController;
  let harness: RouterTestingHarness;
  const root = () => harness.routeNativeElement!;
  const text = () => root().textContent!.replace(/\s+/g, ' ');
  const settle = async () => {
    harness.detectChanges();
    await harness.fixture.whenStable();
  };
  const open = async (given: DayAnswer, path = '/') => {
    http = bed([{ path: '', component: DayPage }]);
    harness = await RouterTestingHarness.create(path);
    await settle();
    http.expectOne('/api/day').flush(given);
    await settle();
  };
  const tick = async (id: string) => {
    root().querySelector<HTMLInputElement>(`#tick-${id}`)!.click();
    await settle();
  };

  it('has a room’s lines under what they are: overdue, now, today; and says what only waits', async () => {
    await open(
      answer({
        lines: [
          line('a'),
          line('b', { tooOldAt: at(-10) }),
          line('c', { readyAt: at(45) }),
          line('d', { waits: ['Dip coat 2'] }),
        ],
      }),
    );
    const groups = [...root().querySelectorAll('.group h3')].map((head) => head.textContent!.trim().split(/\s{2,}/)[0]);
    expect(groups.length).toBe(3);
    expect(text()).toContain('1 more waits for something');
    expect(text()).toContain('too old since');
  });

  it('lets only steps of one kind onto one tray', async () => {
    await open(answer({ lines: [line('a'), line('b'), line('t', { kind: 'leak-test', room: 'burnout' })] }));
    await tick('a');
    expect(root().querySelector<HTMLInputElement>('#tick-t')!.disabled).toBeTrue();
    expect(root().querySelector<HTMLInputElement>('#tick-b')!.disabled).toBeFalse();
    await tick('a');
    await settle();
    expect(root().querySelector<HTMLInputElement>('#tick-a')!.checked).toBeFalse();
    expect(root().querySelector('[data-test=together]')).toBeNull();
    expect(root().querySelector<HTMLInputElement>('#tick-t')!.disabled).toBeFalse();
  });

  it('lets go of what was recorded elsewhere meanwhile, also where nothing is left of the tray', async () => {
    await open(answer({ lines: [line('a'), line('b')] }));
    await tick('a');
    root().querySelector<HTMLElement>('[data-test=together]')!.click();
    await settle();
    http.expectOne('/api/steps/forms?ids=a');
    (harness.routeDebugElement!.componentInstance as unknown as { read: () => void }).read();
    await new Promise((resolve) => setTimeout(resolve, 80));
    http.expectOne('/api/day').flush(answer({ lines: [line('b')] }));
    await settle();
    expect(document.body.querySelector('kv-record-many')).toBeNull();
    expect(root().querySelector('[data-test=together]')).toBeNull();
  });

  it('shows the dearest questions first and the rest when asked', async () => {
    await open(answer({ questions: Array.from({ length: 14 }, (_, i) => question(i)) }));
    const shown = () => [...root().querySelectorAll('.decide li')];
    expect([shown().length, shown()[0]!.textContent]).toEqual([4, jasmine.stringContaining('Thing 0?')]);
    expect(shown()[0]!.textContent).toContain('19 days');
    [...root().querySelectorAll<HTMLElement>('button')]
      .find((each) => each.textContent!.includes('and 10 more'))!
      .click();
    await settle();
    expect(shown().length).toBe(14);
  });

  it('says when to light the furnace, and why then', async () => {
    await open(
      answer({
        timetable: [
          {
            at: at(60),
            what: 'Light the furnace',
            text: 'H-3: 100 kg silicon bronze, 4 trees',
            planned: false,
            why: '100 kg to 1096 °C hold 17.2 kWh',
            stepId: null,
          },
        ],
      }),
    );
    expect(text()).toContain('Light the furnace');
    expect(text()).toContain('17.2 kWh');
  });

  it('says where to go where nothing is in work', async () => {
    await open(answer());
    expect(text()).toContain('Nothing is in work.');
    expect(text()).toContain('No firing and no pour in the next three days.');
  });
});
