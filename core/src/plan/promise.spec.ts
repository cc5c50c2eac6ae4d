// Promises: quantiles with known answers, losses, order kept, the same numbers for the same seed.
import { planProblem } from './plan.ts';
import type { PlanProblem, PlanTask, Schedule } from './problem.ts';
import type { JobPromise } from './promise.ts';
import { promiseDates } from './promise.ts';
import { foundryProblem } from '../testing/foundry-problem.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const promised = (given: PlanProblem, runs = 4000): Record<string, JobPromise> => {
  const schedule = planProblem(given);
  return Object.fromEntries(promiseDates(given, schedule, { runs }).jobs.map((job) => [job.id, job]));
};
const steady = (given: PlanProblem): PlanProblem => ({
  ...given,
  tasks: given.tasks.map((each) => ({ ...each, spread: 0 })),
});

describe('promises', () => {
  it('of a shop where nothing differs and nothing is lost are the plan itself', () => {
    const given = steady(foundryProblem(8, 2));
    const schedule = planProblem(given, { iterations: 20 });
    for (const { planned, p50, p90 } of promiseDates(given, schedule, { runs: 3 }).jobs)
      expect([p50, p90]).toEqual([planned, planned]);
  });

  it('have the quantiles of the one task that a job is', () => {
    // Lognormal, middle 1000, one standard deviation × 1.2; the 90 % quantile of the normal lies at 1.2816. Nothing starts sooner.
    const { J } = promised(problem({ jobs: [{ id: 'J', due: 1200 }], tasks: [task('a', 1000, { spread: 0.2 })] }));
    expect(J!.planned).toBe(1000);
    expect(Math.abs(J!.p50 - 1000)).toBeLessThan(12);
    expect(Math.abs(J!.p90 - 1000 * 1.2 ** 1.2816)).toBeLessThan(15);
    // 1200 is one standard deviation: 84.13 % of all runs.
    expect(Math.abs(J!.onTime! - 0.8413)).toBeLessThan(0.02);
  });

  it('add up along links and resources, and never start before the plan', () => {
    // Two on one bench, the second one's start at 200 in the plan. Standard deviations of 20 % each.
    const given = problem({
      resources: [{ id: 'bench', capacity: 1 }],
      jobs: [{ id: 'one' }, { id: 'two' }],
      tasks: [
        task('a', 100, { job: 'one', needs: [at('bench')] }),
        task('b', 100, { job: 'two', needs: [at('bench')] }),
      ],
    });
    const { one, two } = promised(given);
    expect([one!.planned, two!.planned]).toEqual([100, 200]);
    // Half of the time the first is late; b starts at 100 or later, so its middle lies above 200.
    expect(two!.p50).toBeGreaterThan(203);
    expect(two!.p50).toBeLessThan(215);
    expect(two!.p90).toBeGreaterThan(one!.p90 + 100);
  });

  it('count what is lost: its chain is made again', () => {
    const chain = (rest: Partial<PlanTask>) =>
      steady(
        problem({
          jobs: [{ id: 'J' }],
          tasks: [
            task('mould', 500, { room: 'mould' }),
            task('wax', 100, { room: 'wax' }),
            task('pour', 200, { room: 'pour', ...rest }),
            task('chase', 50, { room: 'chasing', loss: 0 }),
          ],
          links: [link('mould', 'wax'), link('wax', 'pour', 300), link('pour', 'chase')],
        }),
      );
    // Never lost by itself: 500 + 100 + 300 + 200 + 50. Lost in one case of three: 600 more, from the wax to the pour.
    const { J } = promised(chain({ loss: 1 / 3 }));
    expect([J!.planned, J!.p50, J!.p90]).toEqual([1150, 1150, 1150 + 2 * 600]);
    // The room's own share where the task says none: 4 % at the pour, and 5 % of the waxes.
    const runs = promiseDates(chain({}), planProblem(chain({})), { runs: 6000 });
    expect(runs.jobs[0]!.p90).toBe(1150);
    const none = promised(chain({ loss: 0, room: 'elsewhere' }));
    expect(none['J']!.p90).toBe(1150);
  });

  it('keep loads together: all of one wait for the last', () => {
    const given = problem({
      resources: [{ id: 'kiln', capacity: 2, batch: { loadCost: 10_000 } }],
      jobs: [{ id: 'quick' }, { id: 'slow' }],
      tasks: [
        task('dry', 1000, { job: 'slow', spread: 1 }),
        task('fire', 60, { job: 'slow', spans: 'through', needs: [at('kiln')], spread: 0 }),
        task('other', 60, { job: 'quick', spans: 'through', needs: [at('kiln')], spread: 0 }),
      ],
      links: [link('dry', 'fire')],
      objective: { flow: 1, loads: 1 },
    });
    const schedule = planProblem(given, { iterations: 30 });
    expect(new Set(schedule.tasks.flatMap(({ load }) => load ?? [])).size).toBe(1);
    const { jobs } = promiseDates(given, schedule);
    expect(jobs[0]!.p90).toBe(jobs[1]!.p90);
    expect(jobs[0]!.p90).toBeGreaterThan(1060 * 1.8);
  });

  it('are the same for the same seed, can be broken off, and refuse a schedule of something else', () => {
    const given = foundryProblem(4, 2);
    const schedule = planProblem(given);
    const one = promiseDates(given, schedule, { runs: 50, seed: 9 });
    expect(promiseDates(given, schedule, { runs: 50, seed: 9 })).toEqual(one);
    expect(promiseDates(given, schedule, { runs: 50, seed: 10 })).not.toEqual(one);
    let asked = 0;
    expect(promiseDates(given, schedule, { runs: 50, cancelled: () => ++asked > 7 }).runs).toBe(8);
    expect(() => promiseDates(foundryProblem(5, 2), schedule)).toThrowError(RangeError, /does not have the task P4/);
  });

  it('do not end where the hours end: what fits in no opening any more still comes out', () => {
    const given = problem({
      calendars: [{ id: 'shop', weekly: [{ day: 1, from: '08:00', to: '09:00' }] }],
      tasks: [task('a', 58, { spans: 'unbroken', needs: [at('bench')], spread: 0.5 })],
    });
    const schedule: Schedule = planProblem(given);
    const [job] = promiseDates(given, schedule, { runs: 200 }).jobs;
    expect(job!.planned).toBe(538);
    expect(job!.p90).toBeGreaterThan(538);
    expect(job!.p90).toBeLessThan(1000);
  });

  it('as a shop lives them let a pour go without what is not ready; kept to the letter, it waits a week for it', () => {
    const mondays = { id: 'pour', weekly: [{ day: 1, from: '10:00', to: '12:00' }] };
    const given = problem({
      calendars: [mondays],
      resources: [{ id: 'crucible', capacity: 100, calendar: 'pour', batch: { loadCost: 5000 } }],
      jobs: [{ id: 'slow' }, { id: 'ready' }],
      tasks: [
        task('patch', 590, { job: 'slow', spread: 0.9 }),
        task('pour slow', 30, { job: 'slow', spans: 'unbroken', needs: [at('crucible', 10)], spread: 0 }),
        task('pour ready', 30, { job: 'ready', spans: 'unbroken', needs: [at('crucible', 10)], spread: 0 }),
      ],
      links: [link('patch', 'pour slow')],
      objective: { flow: 1, loads: 1 },
    });
    const schedule = planProblem(given, { iterations: 40 });
    // Monday at 10:00 both of them, in one heat; the patching often takes beyond noon.
    expect(schedule.tasks.map(({ start }) => start)).toEqual([0, 600, 600]);
    const of = (id: string, lived: boolean) =>
      promiseDates(given, schedule, { runs: 400, lived }).jobs.find((job) => job.id === id)!;
    expect([of('ready', true).p50, of('ready', true).p90]).toEqual([630, 630]);
    expect(of('ready', false).p90).toBe(10_080 + 630);
    expect(of('slow', true).p90).toBe(10_080 + 630);
  });

  it('as a shop lives them begin nothing before the plan, and wait for what is lost as long as it took to make', () => {
    const given = problem({
      jobs: [{ id: 'J' }, { id: 'K' }],
      tasks: [
        task('wax', 100, { needs: [at('bench')], spread: 0, room: 'wax', loss: 0 }),
        task('shell', 50, { needs: [at('bench')], spread: 0, room: 'shell', loss: 0.5 }),
        task('chase', 20, { needs: [at('bench')], spread: 0, earliest: 400 }),
        task('other', 10, { job: 'K', needs: [at('desk')], spread: 0 }),
      ],
      resources: ['bench', 'desk'].map((id) => ({ id, capacity: 1 })),
      links: [link('wax', 'shell'), link('shell', 'chase')],
    });
    const schedule = planProblem(given);
    const { jobs } = promiseDates(given, schedule, { runs: 400, lived: true });
    const [own, other] = [jobs.find(({ id }) => id === 'J')!, jobs.find(({ id }) => id === 'K')!];
    // One in two is lost once or more; who needs other hands waits for none of it.
    expect([own.planned < own.p90, other.p90]).toEqual([true, other.planned]);
  });

  it('as a shop lives them make what is lost again with the same hands, and all of what was done of it before the plan', () => {
    const lost = (rest: Partial<PlanTask>, others: readonly PlanTask[] = []) =>
      problem({
        resources: [{ id: 'bench', capacity: 1 }],
        jobs: [{ id: 'J' }, { id: 'K' }],
        tasks: [
          task('wax', 100, { needs: [at('bench')], spread: 0, loss: 0 }),
          task('shell', 50, { needs: [at('bench')], spread: 0, loss: 0.5, ...rest }),
          ...others,
        ],
        links: [link('wax', 'shell')],
      });
    const of = (given: PlanProblem, id = 'J') =>
      promiseDates(given, planProblem(given), { runs: 3000, lived: true }).jobs.find((job) => job.id === id)!;
    // One in eight is lost three times or more: nine in ten are out after three more rounds of 150.
    expect([of(lost({})).p50, of(lost({})).p90].map((end) => end - 150)).toEqual([150, 450]);
    // Two hours and a half were spent on it before the plan: each round takes as much longer.
    const before = of(lost({ redo: 150 }));
    expect([before.p50, before.p90].map((end) => end - 150)).toEqual([300, 900]);
    // Who comes behind on the same bench waits for the rounds too, but only for those that were begun before.
    const behind = lost({}, [task('other', 10, { job: 'K', needs: [at('bench')], spread: 0, earliest: 200 })]);
    expect([of(behind, 'K').planned, of(behind, 'K').p90]).toEqual([210, jasmine.any(Number)]);
    expect(of(behind, 'K').p90).toBeGreaterThan(210);
    // A wax that is lost on the way again is begun anew from there.
    const twice = lost({ loss: 0.2 });
    const often = {
      ...twice,
      tasks: twice.tasks.map((each) => (each.id === 'wax' ? { ...each, loss: 0.6 } : each)),
    };
    expect(of(often).p90).toBeGreaterThan(of(twice).p90);
  });

  it('what is finished together is finished with the last of it, in each run', () => {
    const both = problem({
      jobs: [{ id: 'A' }, { id: 'B' }],
      tasks: [
        task('a', 1000, { job: 'A', spread: 0.2 }),
        task('b', 1000, { job: 'B', spread: 0.2 }),
        task('c', 100, { job: 'B', spread: 0 }),
      ],
    });
    const { jobs, together } = promiseDates(both, planProblem(both), {
      runs: 4000,
      together: [
        { id: 'order', jobs: ['A', 'B'] },
        { id: 'alone', jobs: ['A', 'nobody'] },
        { id: 'none', jobs: ['nobody'] },
      ],
    });
    const [a, b] = jobs;
    expect(together.map(({ id }) => id)).toEqual(['order', 'alone']);
    const [order, alone] = together;
    expect([alone!.p50, alone!.p90]).toEqual([a!.p50, a!.p90]);
    // Two alike that are independent: both are done by a date in the square of the share in which one is, so one chance in two
    // of both is where each has √½ = 71 %; lognormal with 20 %: 1000 × 1.2^0.545 = 1104. Nine in ten: √0.9 = 94.9 %, 1.2^1.632 = 1347.
    expect(order!.planned).toBe(Math.max(a!.planned, b!.planned));
    expect(order!.p50 / 1104).toBeCloseTo(1, 1);
    expect(order!.p90 / 1347).toBeCloseTo(1, 1);
    expect(order!.p90).toBeGreaterThanOrEqual(Math.max(a!.p90, b!.p90));
  });
});
