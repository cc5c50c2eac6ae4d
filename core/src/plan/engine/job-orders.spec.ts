// In which order jobs come before a bottleneck.
import { compile } from '../compile.ts';
import type { PlanJob } from '../problem.ts';
import { at, problem, task } from '../../testing/plan-parts.ts';
import { chance } from './chance.ts';
import { JobOrders } from './job-orders.ts';
import { urgencyOf } from './priority.ts';

/** Three jobs with 300, 100 and 200 minutes on one bench each; a tree without a weight leads to the first. */
const orders = (jobs: readonly PlanJob[]) => {
  const compiled = compile(
    problem({
      resources: [{ id: 'bench', capacity: 1 }],
      jobs: [...jobs, { id: 'tree', weight: 0 }],
      tasks: [
        task('long', 300, { job: 'long', needs: [at('bench')] }),
        task('short', 100, { job: 'short', needs: [at('bench')] }),
        task('middle', 200, { job: 'middle', needs: [at('bench')] }),
        task('dip', 5, { job: 'tree' }),
      ],
      links: [{ from: 'dip', to: 'long' }],
      objective: { tardiness: 1, flow: 0.001 },
    }),
  );
  return { compiled, orders: new JobOrders(compiled, urgencyOf(compiled)) };
};
const named = ({ compiled }: ReturnType<typeof orders>, order: Float64Array) =>
  [...compiled.tasks].sort((a, b) => order[a.place]! - order[b.place]!).map(({ id }) => id);

describe('the order of jobs', () => {
  const look = { ahead: 0.05, margin: 0, work: 1 };

  it('is the shortest first where nothing is due, by the weight that a job has', () => {
    const none = orders([{ id: 'long' }, { id: 'short' }, { id: 'middle' }]);
    // What leads to a job goes with it.
    expect(named(none, none.orders.byApparentTardiness(look))).toEqual(['short', 'middle', 'dip', 'long']);
    const heavy = orders([{ id: 'long', weight: 9 }, { id: 'short' }, { id: 'middle' }]);
    expect(named(heavy, heavy.orders.byApparentTardiness(look))).toEqual(['dip', 'long', 'short', 'middle']);
    // Where work does not count at all, all are alike and stay as they are.
    expect(named(none, none.orders.byApparentTardiness({ ...look, work: 0 }))).toEqual([
      'dip',
      'long',
      'short',
      'middle',
    ]);
  });

  it('puts first what will be late, and the sooner the farther it looks ahead', () => {
    const jobs = [
      { id: 'long', due: 320 },
      { id: 'short', due: 5000 },
      { id: 'middle', due: 5000 },
    ];
    const one = orders(jobs);
    expect(named(one, one.orders.byApparentTardiness(look))[1]).toBe('long');
    expect(named(one, one.orders.bySlack()).slice(0, 2)).toEqual(['dip', 'long']);
    const later = orders(jobs.map((job) => ({ ...job, due: job.due + 4000 })));
    expect(named(later, later.orders.byApparentTardiness(look)).at(-1)).toBe('long');
    expect(named(later, later.orders.byApparentTardiness({ ...look, margin: 7 }))[1]).toBe('long');
  });

  it('is looked for over a wide field at first, then near what was good', () => {
    const { orders: any } = orders([{ id: 'long' }, { id: 'short' }, { id: 'middle' }]);
    const random = chance(4);
    const wide = Array.from({ length: 200 }, () => any.look(random));
    expect(Math.max(...wide.map(({ ahead }) => ahead)) / Math.min(...wide.map(({ ahead }) => ahead))).toBeGreaterThan(
      50,
    );
    for (const like of wide.slice(0, 50)) {
      const near = any.look(random, like);
      expect(Math.abs(Math.log(near.ahead / like.ahead))).toBeLessThanOrEqual(0.6);
      expect(near.work >= 0 && near.work <= 1).toBeTrue();
    }
  });
});
