// How good plans are: against published optima, against priority rules, and against what is proven.
import type { PlanProblem, Schedule } from './problem.ts';
import { checkSchedule } from './check.ts';
import { planByRule, planProblem } from './plan.ts';
import { PRIORITY_RULES } from './engine/priority.ts';
import { foundryProblem } from '../testing/foundry-problem.ts';
import { JOB_SHOPS, jobShopProblem } from '../testing/job-shops.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const planned = (given: PlanProblem, iterations: number, seed = 1): Schedule => {
  const schedule = planProblem(given, { iterations, seed });
  expect(schedule.status).withContext(JSON.stringify(schedule.messages)).toBe('feasible');
  expect(checkSchedule(given, schedule)).toEqual([]);
  return schedule;
};

describe('classical job shops', () => {
  // Fifty moves are one trial; the numbers are the published optima, so the instances are typed right too.
  for (const [name, iterations, within] of [
    ['FT06', 60, 1],
    ['LA01', 200, 1],
    ['FT20', 600, 1],
    ['FT10', 400, 1.03],
  ] as const)
    it(`${name} is planned to ${within === 1 ? 'its published optimum' : 'within 3 % of its published optimum'}`, () => {
      const shop = JOB_SHOPS.find((each) => each.name === name)!;
      const { objective, lowerBound } = planned(jobShopProblem(shop), iterations);
      expect(objective!.makespan).toBeGreaterThanOrEqual(shop.optimum);
      expect(objective!.makespan).toBeLessThanOrEqual(shop.optimum * within);
      expect(lowerBound!.value).toBeLessThanOrEqual(shop.optimum);
    });

  it('have bounds as the literature has them, by one machine whose work may be interrupted', () => {
    // J. Carlier and E. Pinson 1989 and others: 52, 808 and 1164.
    for (const [name, bound] of [
      ['FT06', 52],
      ['FT10', 808],
      ['FT20', 1164],
    ] as const)
      expect(planned(jobShopProblem(JOB_SHOPS.find((each) => each.name === name)!), 0).lowerBound!.value).toBe(bound);
  });

  it('may have other objectives too, and waits between their steps', () => {
    const shop = jobShopProblem(JOB_SHOPS[0]!);
    const due: PlanProblem = {
      ...shop,
      jobs: shop.jobs.map((job, i) => ({ ...job, due: 30 + 3 * i })),
      links: shop.links.map((each, i) => ({ ...each, minLag: i % 3 })),
      objective: { tardiness: 1, flow: 0.1 },
    };
    const first = planned(due, 0);
    const later = planned(due, 400);
    expect(later.objective!.value).toBeLessThan(first.objective!.value);
    expect(later.lowerBound!.value).toBeLessThanOrEqual(later.objective!.value);
  });
});

describe('loads', () => {
  const pour = (id: string, rest = {}) =>
    task(id, 30, { job: id, spans: 'unbroken', needs: [at('crucible', 10)], ...rest });
  const crucible = (batch: object) => ({ id: 'crucible', capacity: 40, calendar: 'pour day', batch });

  it('are left time for more than their first task, or a pour day would be over before all that must be poured is', () => {
    const names = ['A', 'B', 'C', 'D', 'E', 'F'];
    const fired = names.map((id) => task(`${id} fired`, 0, { job: id, fixedStart: 0 }));
    // Tuesday from nine to twelve: the first heat is charged before, the next takes 30 min and 2 min for each kilogram. Alone in
    // it at 10:20 nobody else would have time; with 20 kg it is poured at 10:40.
    const given = problem({
      calendars: [{ id: 'pour day', weekly: [{ day: 2, from: '09:00', to: '12:00' }] }],
      resources: [crucible({ setup: 30, setupPerUnit: 2 })],
      jobs: names.map((id) => ({ id })),
      tasks: [...fired, ...names.map((id) => pour(id))],
      links: names.map((id) => link(`${id} fired`, id, 0, 2 * 1440)),
    });
    const { tasks } = planned(given, 0);
    const heats = tasks.filter(({ load }) => load !== undefined).map(({ start }) => start);
    expect(heats.sort((a, b) => a - b)).toEqual([1980, 1980, 1980, 1980, 2080, 2080]);
  });

  it('of a like are put together at the end, where nothing becomes worse by it', () => {
    const given = problem({
      calendars: [{ id: 'pour day', always: true }],
      resources: [crucible({ loadCost: 12 })],
      jobs: [{ id: 'A' }, { id: 'B' }],
      tasks: [pour('A'), pour('B', { earliest: 200 })],
      objective: { flow: 0.001, loads: 1 },
    });
    const starts = (tidy: boolean) => planProblem(given, { iterations: 0, tidy }).tasks.map(({ start }) => start);
    // One by one each goes at once; that A waits 200 min costs 0.2, and a heat 12.
    expect([starts(false), starts(true)]).toEqual([
      [0, 200],
      [200, 200],
    ]);
  });
});

describe('plans of a foundry', () => {
  const tight = (pieces: number): PlanProblem => {
    const given = foundryProblem(pieces, 7);
    return { ...given, jobs: given.jobs.map((job) => ({ ...job, due: Math.round(job.due! * 0.4) })) };
  };
  const bestRule = (given: PlanProblem) =>
    Math.min(...Object.keys(PRIORITY_RULES).map((rule) => planByRule(given, rule)?.objective?.value ?? Infinity));

  it('are at least a tenth better than the best of ten priority rules, due dates loose or tight', () => {
    expect(Object.keys(PRIORITY_RULES).length).toBe(10);
    for (const given of [foundryProblem(20, 7), tight(20)])
      expect(planned(given, 250).objective!.value).toBeLessThan(0.9 * bestRule(given));
    expect(() => planByRule(tight(2), 'by heart')).toThrowError(RangeError, /no rule by heart/);
  });

  it('come close to what is proven where the shop is small', () => {
    const { objective, lowerBound } = planned(foundryProblem(3, 5), 300);
    expect(objective!.value).toBeLessThan(1.05 * lowerBound!.value);
  });

  it('are the same for the same seed and number of trials, and never worse for more', () => {
    const given = tight(8);
    const values = [0, 40, 120].map((iterations) => planned(given, iterations, 4).objective!.value);
    expect(values[1]).toBeLessThanOrEqual(values[0]!);
    expect(values[2]).toBeLessThanOrEqual(values[1]!);
    expect(planned(given, 120, 4).tasks).toEqual(planned(given, 120, 4).tasks);
  });

  it('put two trees into one load where that is worth the wait, and move what comes before', () => {
    // The second may only be fired on Wednesday; the first must be fired within a day of its dip, so its dip waits too.
    const kiln = { id: 'kiln', capacity: 2, batch: { loadCost: 5000 } };
    const given = problem({
      resources: [kiln],
      jobs: [{ id: 'one' }, { id: 'two' }],
      tasks: [
        task('dip', 10, { job: 'one' }),
        task('fire one', 60, { job: 'one', spans: 'through', needs: [at('kiln', 1, 'x')] }),
        task('fire two', 60, { job: 'two', spans: 'through', needs: [at('kiln', 1, 'x')], earliest: 2880 }),
      ],
      links: [link('dip', 'fire one', 0, 1440)],
      objective: { flow: 1, loads: 1 },
    });
    const { tasks, objective } = planned(given, 60);
    expect(objective!.loads).toBe(5000);
    expect(tasks.map(({ start }) => start)).toEqual([1430, 2880, 2880]);
  });
});

describe('loads that take no time', () => {
  it('may hold anything, but not beside something that does take time', () => {
    const fire = (id: string, duration: number, units: number) => task(id, duration, { needs: [at('kiln', units)] });
    const given = problem({
      resources: [{ id: 'kiln', capacity: 3, batch: { setup: 5, loadCost: 400 } }],
      tasks: [fire('a', 0, 1), fire('b', 0, 9), fire('c', 9, 1)],
      objective: { flow: 1, loads: 1 },
    });
    for (const seed of [1, 2, 3]) expect(planned(given, 120, seed).objective!.loads).toBe(800);
  });
});

describe('a plan made anew', () => {
  const told = (given: PlanProblem, schedule: Schedule, rest: Partial<NonNullable<PlanProblem['previous']>>) => ({
    ...given,
    previous: {
      starts: schedule.tasks.map(({ id, start, load }) => ({ id, start, ...(load === undefined ? {} : { load }) })),
      ...rest,
    },
  });
  const before = foundryProblem(6, 3);
  let first: Schedule;
  beforeAll(() => (first = planProblem(before, { iterations: 150 })));
  const moved = (after: Schedule) => {
    const was = new Map(first.tasks.map(({ id, start }) => [id, start]));
    return after.tasks.filter(({ id, start }) => was.has(id) && was.get(id) !== start).map(({ id }) => id);
  };
  /** The same with a cast of P0 that takes a day longer to chase. */
  const slower: PlanProblem = {
    ...before,
    tasks: before.tasks.map((each) => (each.id === 'P0.A.chase' ? { ...each, duration: each.duration + 480 } : each)),
  };

  it('leaves everything where it was when nothing has changed', () => {
    const { moved: said, tasks } = planned(told(before, first, { weight: 0.01 }), 60);
    expect(said).toEqual({ tasks: 0, cost: 0 });
    expect(tasks.map(({ start }) => start)).toEqual(first.tasks.map(({ start }) => start));
  });

  it('moves what must move, and the fewer others the more moving costs', () => {
    const free = planned(told(slower, first, { weight: 0 }), 60);
    const kept = planned(told(slower, first, { weight: 0.02 }), 60);
    expect(moved(kept)).toContain('P0.A.join');
    expect(kept.moved!.tasks).toBe(moved(kept).length);
    expect(kept.moved!.tasks).toBeLessThan(free.moved!.tasks);
    expect(kept.moved!.cost).toBeGreaterThan(0);
    // What moving costs is beside the objective, whose parts add up as ever.
    const { value, tardiness, flow, loads } = kept.objective!;
    expect(value).toBeCloseTo(tardiness + 0.001 * flow + loads, 6);
  });

  it('does not believe loads that cannot be: too full by now, of several keys, of nothing that is there', () => {
    const starts = first.tasks.map(({ id, start, load }) => ({ id, start, ...(load ? { load: 'all in one' } : {}) }));
    const kiln = before.resources.map((each) =>
      each.batch ? { ...each, capacity: 40, batch: { maxTasks: 2 } } : each,
    );
    const small: PlanProblem = { ...before, resources: kiln, previous: { starts, weight: 0.01, frozen: 4000 } };
    expect(planned(small, 5).tasks.length).toBe(before.tasks.length);
  });

  it('keeps what is frozen where it can, and lets it go where nothing else could be done', () => {
    const frozen = 3 * 1440;
    const near = first.tasks.filter(({ start }) => start < frozen).map(({ id }) => id);
    const after = planned(told(before, first, { frozen }), 40);
    expect(near.filter((id) => moved(after).includes(id))).toEqual([]);
    expect(near.length).toBeGreaterThan(5);
    const slow = planned(told(slower, first, { frozen }), 20);
    // What hangs on the cast that takes longer cannot stay; what is before it does.
    expect(moved(slow)).not.toContain('P0.A.chase');
    expect(moved(slow)).toContain('P0.A.join');
    // Both on one bench within half an hour of a start that is past: the frozen one stands in the way.
    const crowded = problem({
      tasks: [
        task('begun', 0, { fixedStart: 480 }),
        task('late', 30, { needs: [at('bench')], earliest: 480 }),
        task('bound', 60, { needs: [at('bench')] }),
      ],
      links: [link('begun', 'bound', 0, 20)],
    });
    const { tasks } = planned({ ...crowded, previous: { starts: [{ id: 'late', start: 490 }], frozen: 600 } }, 0);
    expect(tasks.map(({ start }) => start)).toEqual([480, 540, 480]);
  });
});
