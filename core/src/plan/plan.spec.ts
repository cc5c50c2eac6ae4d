import type { PlanProblem, ScheduledTask } from './problem.ts';
import { planDocument, planProblem } from './plan.ts';
import { foundryProblem } from '../testing/foundry-problem.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const placed = (given: PlanProblem): Record<string, ScheduledTask> => {
  const schedule = planProblem(given);
  expect(schedule.messages).toEqual([]);
  expect(schedule.status).toBe('feasible');
  return Object.fromEntries(schedule.tasks.map((each) => [each.id, each]));
};

describe('the planner', () => {
  // The example of the format's description: one load, the chain from the first open minute.
  it('plans the example of the format as it says', () => {
    const example = problem({
      resources: [
        { id: 'wax-bench', capacity: 3, calendar: 'shop' },
        {
          id: 'burnout-kiln',
          capacity: 420,
          calendar: 'shop',
          batch: { machines: 1, maxTasks: 12, setup: 60, loadCost: 30 },
        },
      ],
      jobs: [{ id: 'J', due: 43200, release: 0, weight: 1 }],
      tasks: [
        task('J1.wax', 90, { needs: [at('wax-bench')] }),
        task('J1.burnout', 180, { spans: 'through', needs: [at('burnout-kiln', 55, 'shell-profile')] }),
        task('J1.dry', 0, { spans: 'through', fixedStart: 300 }),
      ],
      links: [link('J1.wax', 'J1.burnout', 0, 20160)],
      objective: { tardiness: 1, flow: 0.001, loads: 1 },
    });
    const schedule = planProblem(example);
    expect(schedule.objective).toEqual({ value: 30.75, tardiness: 0, flow: 750, loads: 30, makespan: 750 });
    expect(schedule.lowerBound!.value).toBeCloseTo(30.75, 9);
    expect(schedule.tasks.map(({ start, end, load }) => [start, end, load])).toEqual([
      [480, 570, undefined],
      [570, 750, 'burnout-kiln#1'],
      [300, 300, undefined],
    ]);
  });

  it('begins a row of dips late enough that the weekend does not fall between two of them', () => {
    // Free from Friday 15:00; the second dip may follow after 3 h and must within 20 h, so both wait for Monday.
    const { one, two } = placed(
      problem({
        tasks: [
          task('one', 10, { spans: 'unbroken', needs: [at('bench')], earliest: 4 * 1440 + 900 }),
          task('two', 10, { spans: 'unbroken', needs: [at('bench')] }),
        ],
        links: [link('one', 'two', 180, 1200)],
      }),
    );
    expect(one!.start).toBeGreaterThanOrEqual(7 * 1440 + 480 - 0);
    expect(two!.start - one!.end).toBeGreaterThanOrEqual(180);
    expect(two!.start - one!.end).toBeLessThanOrEqual(1200);
  });

  it('gives the bench first to what is due first, ties by id', () => {
    const three = placed(
      problem({
        jobs: [{ id: 'late', due: 20_000 }, { id: 'soon', due: 900 }, { id: 'never' }],
        tasks: ['late', 'never', 'soon'].map((job) => task(job, 60, { job, needs: [at('bench')] })),
      }),
    );
    expect([three['soon']!.start, three['late']!.start, three['never']!.start]).toEqual([480, 540, 600]);
  });

  it('puts what can share a load into one, as long as key, room and count allow', () => {
    const kiln = { id: 'kiln', capacity: 3, batch: { maxTasks: 2, setup: 60 } };
    const fire = (id: string, key: string, units = 1) =>
      task(id, 100, { spans: 'through', needs: [at('kiln', units, key)] });
    const loads = placed(
      problem({
        resources: [kiln],
        tasks: [fire('a', 'x'), fire('b', 'x'), fire('c', 'x'), fire('d', 'y'), fire('e', 'x', 3)],
      }),
    );
    expect(loads['a']!.load).toBe(loads['b']!.load!);
    expect(new Set(Object.values(loads).map(({ load }) => load)).size).toBe(4);
  });

  it('keeps what has begun where it is and plans the rest round it', () => {
    const { running, next } = placed(
      problem({
        tasks: [
          task('running', 60, { needs: [at('bench')], fixedStart: 450 }),
          task('next', 60, { needs: [at('bench')] }),
        ],
        links: [link('next', 'running')],
      }),
    );
    // Begun before opening: only open minutes count; the link into it does not bind it.
    expect([running!.start, running!.end, next!.start]).toEqual([450, 540, 540]);
  });

  it('gives the same schedule for the same seed, and never a worse one for more tries', () => {
    const shop = foundryProblem(6, 3);
    const value = (iterations: number) => planProblem(shop, { seed: 5, iterations }).objective!.value;
    const values = [0, 3, 12].map(value);
    expect(values[1]).toBeLessThanOrEqual(values[0]!);
    expect(values[2]).toBeLessThanOrEqual(values[1]!);
    expect(value(12)).toBe(values[2]!);
  });

  it('plans a whole foundry with its dips, loads and pour days, within its own lower bound', () => {
    for (const [pieces, seed] of [
      [3, 1],
      [17, 2],
      [40, 3],
    ] as const) {
      const schedule = planProblem(foundryProblem(pieces, seed));
      expect(schedule.status).withContext(JSON.stringify(schedule.messages)).toBe('feasible');
      expect(schedule.lowerBound!.value).toBeLessThanOrEqual(schedule.objective!.value);
    }
  });
});

describe('what cannot be', () => {
  const why = (given: PlanProblem) => {
    const schedule = planDocument(given);
    expect(schedule.tasks).toEqual([]);
    return { status: schedule.status, ids: schedule.messages[0]?.ids ?? [], text: schedule.messages[0]?.text ?? '' };
  };

  it('is proven of one task: too many units, never open, too long for any stretch', () => {
    expect(why(problem({ tasks: [task('a', 5, { needs: [at('bench', 2)] })] }))).toEqual({
      status: 'infeasible',
      ids: ['a', 'bench'],
      text: 'a needs 2 of bench, which has 1',
    });
    const closed = problem({ calendars: [{ id: 'shop' }], tasks: [task('a', 5, { needs: [at('bench')] })] });
    expect(why(closed).text).toBe('nothing is ever open for a');
    const long = problem({ tasks: [task('a', 241, { spans: 'unbroken', needs: [at('bench')] })] });
    expect(why(long).text).toContain('at most 240 are open');
  });

  it('is proven of one task whose hours end before it is done, and it is named with them', () => {
    // Open once, for twenty minutes: 25 do not go in, nor does anything that may begin only afterwards.
    const calendars = [{ id: 'once', extra: [{ date: '2027-03-01', from: '08:00', to: '08:20' }] }];
    const resources = [{ id: 'press', capacity: 1, calendar: 'once' }];
    const given = (...tasks: PlanProblem['tasks']) => problem({ calendars, resources, tasks });
    expect(why(given(task('a', 25, { needs: [at('press')] })))).toEqual({
      status: 'infeasible',
      ids: ['a', 'once'],
      text: 'a needs 25 open min; the hours of once have 20',
    });
    expect(why(given(task('a', 15, { needs: [at('press')], earliest: 490 }))).text).toBe(
      'a needs 15 open min from minute 490 on; the hours of once have 10',
    );
  });

  it('is proven of a chain of links with its hours, and only that chain is named', () => {
    const calendars = [
      { id: 'mondays', weekly: [{ day: 1, from: '08:00', to: '12:00' }] },
      { id: 'fridays', weekly: [{ day: 5, from: '08:00', to: '12:00' }] },
    ];
    const resources = calendars.map(({ id }) => ({ id: `on ${id}`, capacity: 1, calendar: id }));
    const chain = problem({
      calendars,
      resources,
      tasks: [
        task('before', 5),
        task('monday', 5, { needs: [at('on mondays')] }),
        task('friday', 5, { needs: [at('on fridays')] }),
        task('after', 5),
      ],
      links: [link('before', 'monday'), link('monday', 'friday', 0, 1440), link('friday', 'after', 0, 99)],
    });
    const found = why(chain);
    expect(found.status).toBe('infeasible');
    expect(found.ids).toEqual(['monday→friday', 'mondays', 'fridays']);
  });

  it('is proven of lags that contradict each other, however far the horizon', () => {
    // Two ways from a to d: at least 100 min by b, at most 99 by c.
    const tasks = ['a', 'b', 'c', 'd'].map((id) => task(id, 0));
    const links = [link('a', 'b', 100), link('b', 'd'), link('a', 'c', 0, 50), link('c', 'd', 0, 49)];
    const found = why(problem({ tasks, links }));
    expect(found.status).toBe('infeasible');
    expect([...found.ids].sort()).toEqual(['a→b', 'a→c', 'b→d', 'c→d']);
  });

  it('is proven of pinned tasks: together on one bench, or too far from what they hold', () => {
    const two = problem({
      tasks: ['a', 'b'].map((id) => task(id, 60, { needs: [at('bench')], fixedStart: 500 })),
    });
    expect(why(two)).toEqual(jasmine.objectContaining({ status: 'infeasible', ids: ['a', 'b', 'bench'] }));
    const far = problem({
      tasks: [task('a', 0, { fixedStart: -5000 }), task('b', 10, { needs: [at('bench')] })],
      links: [link('a', 'b', 0, 2000)],
    });
    expect(why(far)).toEqual(jasmine.objectContaining({ status: 'infeasible' }));
    expect(why(far).ids).toEqual(['a→b', 'a', 'shop']);
  });

  it('is proven of bounds that rise for ever, in hours that repeat by the week, without walking to the end of time', () => {
    // Open but for a minute a day: b is ready 100 min after a, d must come within 98 min and what closes between.
    const daily = [1, 2, 3, 4, 5, 6, 7].map((day) => ({ day, from: '00:00', to: '23:59' }));
    const given = problem({
      calendars: [{ id: 'days', weekly: daily }],
      resources: [{ id: 'any', capacity: 9, calendar: 'days' }],
      tasks: ['a', 'b', 'c', 'd'].map((id) => task(id, 10, { needs: [at('any')] })),
      links: [link('a', 'b', 100), link('b', 'd'), link('a', 'c', 0, 50), link('c', 'd', 0, 48)],
    });
    const found = why(given);
    expect(found.status).toBe('infeasible');
    expect([...found.ids].sort()).toEqual(['a→b', 'a→c', 'b→d', 'c→d', 'days']);
    // One closed day, nine months ahead, over which c can rest: there, and only there, it is possible.
    const calendars = [{ id: 'days', weekly: daily, closed: ['2027-12-24'] }];
    const { status, tasks } = planDocument({ ...given, calendars });
    expect(status).toBe('feasible');
    expect(Math.floor(tasks[2]!.end / 1440)).toBe(299);
  });

  it('is proven of a resource that is not open long enough for all it has to do', () => {
    const once = { id: 'once', extra: [{ date: '2027-03-02', from: '08:00', to: '12:00' }] };
    const given = problem({
      calendars: [once],
      resources: [{ id: 'hall', capacity: 1, calendar: 'once' }],
      tasks: ['a', 'b', 'c'].map((id, i) => task(id, 100 + i, { needs: [at('hall')] })),
    });
    expect(why(given)).toEqual({
      status: 'infeasible',
      ids: ['c', 'b', 'a', 'hall', 'once'],
      text: 'hall is open for 240 min in all; c, b, a need 303 of it',
    });
  });

  it('is proven of pinned tasks whose ends can never be one, and of two that must both start at once', () => {
    const kiln = { id: 'kiln', capacity: 5, batch: {} };
    const pinned = problem({
      resources: [kiln, { id: 'bench', capacity: 5, calendar: 'shop' }],
      tasks: [
        task('pauses', 300, { fixedStart: 600, needs: [at('kiln'), at('bench')] }),
        task('runs on', 300, { fixedStart: 600, spans: 'through', needs: [at('kiln')] }),
      ],
    });
    expect(why(pinned)).toEqual(jasmine.objectContaining({ status: 'infeasible', ids: ['pauses', 'runs on', 'kiln'] }));
    const hurried = problem({
      tasks: [
        task('poured', 0, { fixedStart: 480 }),
        ...['a', 'b'].map((id) => task(id, 60, { needs: [at('bench')] })),
      ],
      links: [link('poured', 'a', 0, 30), link('poured', 'b', 0, 30)],
    });
    expect(why(hurried)).toEqual(jasmine.objectContaining({ status: 'infeasible', ids: ['a', 'b', 'bench'] }));
  });

  it('is a time past the last minute: invalid in the problem, infeasible in the schedule', () => {
    expect(why(problem({ tasks: [task('a', 10_500_001)] })).status).toBe('invalid');
    const late = problem({ tasks: [task('a', 10_000_000), task('b', 10_000_000)], links: [link('a', 'b')] });
    expect(why(late).status).toBe('infeasible');
  });
});
