// Heats and firings that take more than their own time: charges that melt, another alloy, a cold furnace, somebody at the
// fire, a crew. Every minute is worked out by hand from the hours 8:00–12:00 and 12:30–16:30 of 2027-03-01, a Monday.
import { checkSchedule } from './check.ts';
import { planProblem } from './plan.ts';
import { promiseDates } from './promise.ts';
import type { Batch, PlanProblem, PlanTask, Schedule } from './problem.ts';
import { holdingChain } from './why.ts';
import { validateProblem } from './validate.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const FURNACE: Batch = { setup: 20, setupPerUnit: 0.5, change: 30, firstSetup: 60, coldAfter: 240, setupIn: 'shop' };

const heat = (id: string, kg: number, key = 'S', rest: Partial<PlanTask> = {}): PlanTask =>
  task(id, 30, { job: id, spans: 'unbroken', needs: [at('crucible', kg, key)], ...rest });

const shop = (tasks: readonly PlanTask[], batch: Batch = FURNACE, rest: Partial<PlanProblem> = {}): PlanProblem =>
  problem({
    resources: [
      { id: 'crucible', capacity: 100, calendar: 'shop', batch },
      { id: 'metal shop', capacity: 3, calendar: 'shop' },
    ],
    jobs: [...new Set(tasks.map(({ job }) => job))].map((id) => ({ id })),
    tasks,
    ...rest,
  });
const startsOf = ({ tasks }: Schedule) => Object.fromEntries(tasks.map(({ id, start }) => [id, start]));
const planned = (given: PlanProblem) => {
  const schedule = planProblem(given, { iterations: 60 });
  expect(schedule.status).withContext(JSON.stringify(schedule.messages)).toBe('feasible');
  expect(checkSchedule(given, schedule)).toEqual([]);
  return startsOf(schedule);
};

describe('a load that is set up for', () => {
  it('melts by its weight, the first of the day in a cold furnace', () => {
    // 8:00 is minute 480: 20 + 0.5 · 80 + 60 = 120 min, poured at 600, out at 630. Then 20 + 0.5 · 60 = 50 min.
    expect(planned(shop([heat('one', 80), heat('two', 60, 'S', { earliest: 601 })]))).toEqual({ one: 600, two: 680 });
  });

  it('takes longer after another alloy, and goes cold over night', () => {
    // Tin bronze after silicon bronze: 20 + 0.5 · 60 + 30 = 80 min from 630 on, and poured out by noon (720) it is not:
    // lit again at 12:30 (750), poured at 830.
    expect(planned(shop([heat('one', 80), heat('two', 60, 'T', { earliest: 601 })]))).toEqual({ one: 600, two: 830 });
    // The next day everything anew: 1440 + 480 + 110.
    expect(planned(shop([heat('one', 80), heat('two', 60, 'S', { earliest: 1440 })]))['two']).toBe(1440 + 590);
  });

  it('has the one before it to stay warm by: without it, it would be cold', () => {
    const given = shop([heat('one', 80, 'S', { fixedStart: 600 }), heat('two', 60, 'S', { fixedStart: 680 })]);
    expect(planProblem(given).status).toBe('feasible');
    const alone = planProblem(shop([heat('two', 60, 'S', { fixedStart: 550 })]));
    expect(alone.status).toBe('infeasible');
    expect(alone.messages[0]!.ids).toEqual(['two', 'crucible', 'shop']);
  });

  it('is not set up over lunch, when nobody watches the fire', () => {
    // 20 + 0.5 · 100 + 60 = 130: poured at 610 to 640. The second needs 70: it would be poured at 710, until after noon;
    // at 750 its setup would lie over lunch; so it is lit at 750 and poured at 820.
    expect(planned(shop([heat('one', 100), heat('two', 100, 'S', { earliest: 611 })]))['two']).toBe(820);
  });

  it('began before the plan: it has had its setup', () => {
    expect(planned(shop([heat('one', 80, 'S', { fixedStart: -10 })]))).toEqual({ one: -10 });
  });

  it('grows with what joins it, as far as there is time to melt more', () => {
    const given = shop([heat('one', 50, 'S', { fixedStart: 585 }), heat('two', 40)], { ...FURNACE, loadCost: 1e6 });
    // 20 + 25 + 60 = 105 min from 480 on for the first alone: 40 kg more would need 20 min that are not there.
    expect(planned({ ...given, objective: { flow: 1, loads: 1 } })['two']).toBeGreaterThan(585);
  });

  it('stands on any of several machines, each warm or cold by itself', () => {
    const two = shop([heat('one', 80), heat('two', 80, 'T'), heat('three', 60, 'T', { earliest: 601 })], {
      ...FURNACE,
      machines: 2,
    });
    expect(planned(two)).toEqual({ one: 600, two: 600, three: 680 });
  });
});

describe('what a load holds', () => {
  const CREW: Batch = { needs: [{ resource: 'metal shop', units: 2, before: 60 }] };
  const chase = (id: string, minutes: number, rest: Partial<PlanTask> = {}) =>
    task(id, minutes, { job: id, needs: [at('metal shop')], ...rest });

  it('is held once, however much is in it, and from before it starts', () => {
    const given = shop(
      [heat('a', 20), heat('b', 20), chase('grind', 100, { fixedStart: 480 }), chase('weld', 100)],
      { ...CREW, loadCost: 1e6 },
      { objective: { flow: 1, loads: 1 } },
    );
    // Two of the three from an hour before the pour: it cannot be before 9:00, and only one of the others can go on.
    expect(planned(given)).toEqual({ a: 540, b: 540, grind: 480, weld: 570 });
  });

  it('is named as what the others wait for, and adds up with what its tasks need themselves', () => {
    const given = shop([heat('a', 20, 'S', { fixedStart: 600 }), chase('long', 200), chase('late', 90)], CREW);
    const schedule = planProblem(given);
    expect(startsOf(schedule)).toEqual({ a: 600, long: 480, late: 630 });
    const { chain } = holdingChain(given, schedule, 'late');
    expect(chain[0]!.hold).toEqual({ kind: 'resource', by: 'a', resource: 'metal shop' });
    const pourer = heat('a', 20, 'S', { needs: [at('crucible', 20, 'S'), at('metal shop', 2)] });
    expect(planProblem(shop([pourer], CREW)).status).not.toBe('feasible');
  });

  it('keeps its order when things take longer, with the hour before', () => {
    const given = shop([heat('a', 20, 'S', { earliest: 700 }), chase('weld', 160), chase('grind', 160)], {
      needs: [{ resource: 'metal shop', units: 2, before: 30 }],
    });
    const schedule = planProblem(given);
    const jobs = promiseDates(given, schedule, { runs: 200 }).jobs;
    // Two welders until 640 as planned; whatever they need longer, the pour begins half an hour after one of them.
    expect(jobs.find(({ id }) => id === 'a')!.p90).toBeGreaterThan(jobs.find(({ id }) => id === 'a')!.planned);
  });
});

describe('loads that cannot be', () => {
  const proven: [what: string, given: PlanProblem, ids: string[]][] = [
    [
      'a charge that no stretch is long enough to melt',
      shop([heat('a', 100)], { ...FURNACE, setup: 300 }),
      ['a', 'crucible', 'shop'],
    ],
    [
      'more hands than there are',
      shop([heat('a', 20)], { needs: [{ resource: 'metal shop', units: 4 }] }),
      ['a', 'crucible', 'metal shop', 'shop'],
    ],
    [
      'a crew for longer than its hours',
      shop([heat('a', 20)], { needs: [{ resource: 'metal shop', before: 220 }] }),
      ['a', 'crucible', 'metal shop', 'shop'],
    ],
    [
      'a second pinned heat before its charge could melt',
      shop([heat('a', 80, 'S', { fixedStart: 600 }), heat('b', 60, 'S', { fixedStart: 660 })]),
      ['a', 'b', 'crucible'],
    ],
  ];
  for (const [what, given, ids] of proven)
    it(`are proven so: ${what}`, () => {
      const { status, messages } = planProblem(given);
      expect(status).toBe('infeasible');
      expect(messages[0]!.ids).toEqual(ids);
    });

  it('are found by the check', () => {
    const given = shop([heat('one', 80), heat('two', 60, 'T', { earliest: 601 })], {
      ...FURNACE,
      needs: [{ resource: 'metal shop', units: 2, before: 60 }],
    });
    const good = planProblem(given);
    const moved = (id: string, start: number): string =>
      checkSchedule(given, {
        ...good,
        tasks: good.tasks.map((each) => (each.id === id ? { ...each, start, end: start + 30 } : each)),
      })
        .map(({ text }) => text)
        .join('\n');
    expect(moved('two', 680)).toContain('no time for setting up, at 680');
    expect(moved('one', 590)).toContain('no time for setting up, at 590');
    expect(moved('two', 755)).toContain('what it holds is not open');
    expect(moved('two', 640)).toContain('more than 3 is in use');
  });

  it('are refused as a document, each by its path', () => {
    const wrong = shop([heat('a', 1)], {
      setupPerUnit: -1,
      coldAfter: 5,
      setupIn: 'nowhere',
      needs: [
        at('metal shop'),
        { resource: 'metal shop' },
        { resource: 'crucible' },
        { resource: 'oven', before: 1.5 },
      ],
    });
    const paths = (document: unknown) => validateProblem(document).messages?.map(({ path }) => path);
    expect(paths(wrong)).toEqual(['resources[0].batch.setupPerUnit', 'resources[0].batch.needs[3].before']);
    const known = JSON.parse(JSON.stringify(wrong).replace('"setupPerUnit":-1,', '').replace('1.5', '1')) as unknown;
    expect(paths(known)).toEqual([
      'resources[0].batch.setupIn',
      'resources[0].batch.coldAfter',
      'resources[0].batch.needs[1].resource',
      'resources[0].batch.needs[2].resource',
      'resources[0].batch.needs[3].resource',
    ]);
  });

  it('that follow one another are told what links ask beside', () => {
    const given = shop([heat('one', 80), heat('two', 60)], FURNACE, { links: [link('one', 'two', 400)] });
    // 600 + 30 + 400 is after four hours: cold again, 110 min of setup; 16:30 is the end of the day.
    expect(planned(given)['two']).toBe(1440 + 590);
  });
});
