// Bounds with known answers: what one room has to do, and what no schedule can be below.
import { lowerBound } from './bound.ts';
import { compile } from './compile.ts';
import { planProblem } from './plan.ts';
import type { PlanProblem } from './problem.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const bound = (given: PlanProblem) => lowerBound(compile(given)).value;
const bench = { id: 'bench', capacity: 1 };
const three = (rest: Partial<PlanProblem>): PlanProblem =>
  problem({
    resources: [bench],
    jobs: ['a', 'b', 'c'].map((id) => ({ id })),
    tasks: [
      task('a', 30, { job: 'a', needs: [at('bench')] }),
      task('b', 10, { job: 'b', needs: [at('bench')] }),
      task('c', 20, { job: 'c', needs: [at('bench')] }),
    ],
    ...rest,
  });

describe('the bound', () => {
  it('is what the shortest first would cost where all are there at once', () => {
    // Ends 10, 30, 60: no order has a smaller sum, and the planner finds it.
    expect(bound(three({ objective: { flow: 1 } }))).toBe(100);
    expect(planProblem(three({ objective: { flow: 1 } }), { iterations: 40 }).objective!.value).toBe(100);
    expect(bound(three({ objective: { makespan: 2 } }))).toBe(120);
  });

  it('sets the k-th end against the k-th due date', () => {
    // All due at 15: the first in time at 10, then 30 and 60: 15 + 45 late.
    const jobs = ['a', 'b', 'c'].map((id) => ({ id, due: 15 }));
    expect(bound(three({ jobs, objective: { tardiness: 1 } }))).toBe(60);
    // With other weights the lightest counts for what they wait for each other: alone only a is late, by 15, thrice.
    const weighed = jobs.map((job, i) => ({ ...job, weight: 3 - i }));
    expect(bound(three({ jobs: weighed, objective: { tardiness: 1 } }))).toBe(3 * 15 + 5 + (60 - 20));
  });

  it('counts only open minutes, what comes before and what must follow', () => {
    const given = problem({
      jobs: [{ id: 'a' }, { id: 'b' }],
      tasks: ['a', 'b'].flatMap((job) => [
        task(`${job} first`, 10, { job }),
        task(`${job} bench`, 200, { job, needs: [at('bench')] }),
        task(`${job} last`, 50, { job }),
      ]),
      links: ['a', 'b'].flatMap((job) => [
        link(`${job} first`, `${job} bench`),
        link(`${job} bench`, `${job} last`, 5),
      ]),
    });
    // Open from 480, shut 720–750: the first ends its bench at 680, the second at 910; each 55 later is out.
    expect(bound(given)).toBe(680 + 55 + 910 + 55);
  });

  it('lets what has least left go first as it comes, and sets ends against due dates less what must follow', () => {
    const job = (id: string, head: number, work: number, tail: number) => [
      task(`${id} before`, head, { job: id }),
      task(`${id} bench`, work, { job: id, needs: [at('bench')] }),
      task(`${id} after`, tail, { job: id }),
    ];
    const given = (due: Record<string, number>): PlanProblem =>
      problem({
        resources: [bench],
        jobs: ['a', 'b', 'c'].map((id) => ({ id, ...(due[id] === undefined ? {} : { due: due[id]! }) })),
        tasks: [...job('a', 0, 100, 10), ...job('b', 20, 10, 300), ...job('c', 40, 30, 50)],
        links: ['a', 'b', 'c'].flatMap((id) => [
          link(`${id} before`, `${id} bench`),
          link(`${id} bench`, `${id} after`),
        ]),
        objective: { flow: 1, tardiness: 1 },
      });
    // b from 20 to 30, c from 40 to 70, a the rest to 140: with what follows 330, 120 and 150.
    expect(bound(given({}))).toBe(330 + 120 + 150);
    // Due less what follows: 30, 60 and 100 against ends at 30, 70 and 140.
    expect(bound(given({ a: 110, b: 330, c: 110 }))).toBe(600 + 10 + 40);
  });

  it('gives a furnace no more in a stretch of its hours than the loads that fit into it', () => {
    const pours = (setup: number, rest: Partial<PlanProblem['tasks'][number]> = {}, setupPerUnit?: number) => {
      const batch = { setup, ...(setupPerUnit === undefined ? {} : { setupPerUnit }) };
      return problem({
        resources: [{ id: 'furnace', capacity: 100, calendar: 'shop', batch }],
        jobs: ['a', 'b', 'c', 'd'].map((id) => ({ id })),
        tasks: ['a', 'b', 'c', 'd'].map((job) =>
          task(job, 20, { job, spans: 'unbroken', needs: [at('furnace', 60)], ...rest }),
        ),
      });
    };
    // 08:00 to 12:00 are four hours: with 300 min between two loads one of 100 kg, in 20 min, and one from 12:30 on. Of 240 kg the
    // first 60 are poured by 08:20, as alone; the second needs 20 kg more at 12:30, at 5 kg a minute by 12:34; the third is done
    // there too, by 12:46; the last on Tuesday by 08:08, but no sooner than alone.
    expect(bound(pours(300))).toBe(500 + 754 + 766 + (1440 + 488));
    // And a plan has one tree a load in turn: 08:20, 13:20 …; it is never below the bound.
    expect(planProblem(pours(300), { iterations: 60 }).objective!.value).toBeGreaterThanOrEqual(bound(pours(300)));
    // Without setups twelve loads fit into the morning: nothing waits for the furnace but its turn.
    expect(bound(pours(0))).toBeLessThan(4 * 540);
    // Melting by the kilogram counts too: 3 min each is 300 for a full crucible.
    expect(bound(pours(0, {}, 3))).toBeGreaterThan(500 + 740 + 750);
    // What runs on after hours is not bound by them.
    expect(bound(pours(300, { spans: 'through' }))).toBe(4 * 500);
  });

  it('what is ready within a stretch may still be in its last load', () => {
    const given = problem({
      resources: [{ id: 'furnace', capacity: 100, calendar: 'shop', batch: { setup: 300 } }],
      tasks: [task('only', 20, { spans: 'unbroken', earliest: 690, needs: [at('furnace', 60)] })],
    });
    expect(bound(given)).toBe(710);
  });

  it('fills every load, and knows what cannot share one', () => {
    const kiln = { id: 'kiln', capacity: 10, batch: { maxTasks: 3, loadCost: 7 } };
    const fire = (id: string, units: number, key?: string) =>
      task(id, 60, { spans: 'through', needs: [at('kiln', units, key)] });
    const loads = (...tasks: ReturnType<typeof fire>[]) =>
      bound(problem({ resources: [kiln], tasks, objective: { loads: 1 } })) / 7;
    expect(loads(fire('a', 5), fire('b', 5), fire('c', 5))).toBe(2);
    expect(loads(fire('a', 1), fire('b', 1), fire('c', 1), fire('d', 1))).toBe(2);
    expect(loads(fire('a', 1, 'x'), fire('b', 1, 'y'))).toBe(2);
  });
});
