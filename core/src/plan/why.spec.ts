// What holds a finish, link by link, and what would relieve it.
import { planProblem } from './plan.ts';
import type { PlanProblem } from './problem.ts';
import { whyLate } from './relief.ts';
import { holdingChain } from './why.ts';
import { foundryProblem } from '../testing/foundry-problem.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const chainOf = (given: PlanProblem, job: string, iterations = 0) =>
  holdingChain(given, planProblem(given, { iterations }), job).chain.map(({ task: id, hold, waited, closed }) => ({
    id,
    kind: hold.kind,
    by: 'by' in hold ? hold.by : undefined,
    waited,
    closed,
  }));

describe('the chain that holds a job', () => {
  it('names links, resources and hours, back to the beginning', () => {
    const given = problem({
      jobs: [{ id: 'first', due: 100 }, { id: 'second' }],
      tasks: [
        task('a', 200, { job: 'first', needs: [at('bench')] }),
        task('b', 60, { job: 'second', needs: [at('bench')] }),
        task('c', 30, { job: 'second', needs: [at('bench')] }),
      ],
      links: [link('b', 'c', 600)],
    });
    // Open from 480; a 480–680; b 680–720 and 750–770; c ten hours later, which is closed until 1920.
    expect(chainOf(given, 'second')).toEqual([
      { id: 'c', kind: 'link', by: 'b', waited: 0, closed: 1920 - (770 + 600) },
      { id: 'b', kind: 'resource', by: 'a', waited: 200, closed: 0 },
      { id: 'a', kind: 'earliest', by: undefined, waited: 0, closed: 480 },
    ]);
  });

  it('names a mate in the load, a follower that must not wait, and what was pinned', () => {
    const given = problem({
      resources: [{ id: 'kiln', capacity: 2, batch: { loadCost: 9000 } }],
      jobs: [{ id: 'early' }, { id: 'late' }],
      tasks: [
        task('dip', 10, { job: 'early' }),
        task('fire', 60, { job: 'early', spans: 'through', needs: [at('kiln')] }),
        task('pinned', 100, { job: 'late', fixedStart: 2000 }),
        task('other', 60, { job: 'late', spans: 'through', needs: [at('kiln')] }),
      ],
      links: [link('dip', 'fire', 0, 500), link('pinned', 'other')],
      objective: { flow: 1, loads: 1 },
    });
    expect(chainOf(given, 'early', 40).map(({ id, kind, by }) => [id, kind, by])).toEqual([
      ['fire', 'load', 'other'],
      ['other', 'link', 'pinned'],
      ['pinned', 'fixed', undefined],
    ]);
    const held = holdingChain(
      problem({
        jobs: [{ id: 'J' }, { id: 'K' }],
        tasks: [task('wait', 5000, { job: 'K' }), task('dip', 10), task('fire', 60, { job: 'K' })],
        links: [link('wait', 'fire'), link('dip', 'fire', 0, 500)],
      }),
      planProblem(
        problem({
          jobs: [{ id: 'J' }, { id: 'K' }],
          tasks: [task('wait', 5000, { job: 'K' }), task('dip', 10), task('fire', 60, { job: 'K' })],
          links: [link('wait', 'fire'), link('dip', 'fire', 0, 500)],
        }),
      ),
      'J',
    );
    expect(held.chain.map(({ hold }) => hold.kind)).toEqual(['follower', 'link', 'earliest']);
  });

  it('refuses a job that there is not, and one without tasks', () => {
    const given = problem({ jobs: [{ id: 'J' }, { id: 'empty' }], tasks: [task('a', 5)] });
    expect(() => chainOf(given, 'X')).toThrowError(RangeError, /no job X/);
    expect(() => chainOf(given, 'empty')).toThrowError(RangeError, /has no tasks/);
  });
});

describe('reliefs', () => {
  it('are a second mould where one holds the job, with what it gains', () => {
    const pull = (id: string, job: string) => task(id, 60, { job, needs: [at('mould')] });
    const given = problem({
      resources: [{ id: 'mould', capacity: 1 }],
      jobs: [{ id: 'one', due: 60 }, { id: 'two' }],
      tasks: [pull('a', 'one'), pull('b', 'two')],
    });
    const { finish, replanned, reliefs } = whyLate(given, planProblem(given), 'two');
    expect([finish, replanned]).toEqual([120, 120]);
    expect(reliefs).toEqual([
      {
        what: { kind: 'resource', resource: 'mould' },
        text: 'one more mould (2 instead of 1)',
        finish: 60,
        sooner: 60,
        // The flow of the job alone, which is an hour less.
        objective: 60,
      },
    ]);
  });

  it('are another pour day where the metal waits for one, on a working day in between', () => {
    const given = problem({
      calendars: [{ id: 'pour days', weekly: [{ day: 2, from: '09:00', to: '16:00' }] }],
      resources: [{ id: 'crucible', capacity: 100, calendar: 'pour days', batch: {} }],
      tasks: [task('shell', 3000), task('pour', 30, { spans: 'unbroken', needs: [at('crucible', 20)] })],
      links: [link('shell', 'pour')],
    });
    // Ready on Wednesday the 3rd at 02:00; the next Tuesday is the 9th. Thursday would do: the first day shut all day.
    const { reliefs } = whyLate(given, planProblem(given), 'J');
    expect(reliefs.map(({ what, sooner }) => [what, sooner])).toEqual([
      [{ kind: 'day', calendar: 'pour days', date: '2027-03-03' }, 6 * 1440],
    ]);
  });

  it('of a whole foundry never make its objective worse than planning anew without them', () => {
    const given = foundryProblem(8, 3);
    const schedule = planProblem(given, { iterations: 60 });
    const last = schedule.tasks.reduce((one, other) => (other.end > one.end ? other : one));
    const { chain, reliefs } = whyLate(given, schedule, last.id.split('.')[0]!, () => ({ iterations: 5 }));
    expect(chain[0]!.end).toBe(last.end);
    // Back to something that begins by itself, or to what is in the chain already: mates of a load can hold one another.
    const { hold } = chain.at(-1)!;
    const isKnown = 'by' in hold && chain.some(({ task }) => task === hold.by);
    expect(isKnown || /earliest|fixed/.test(hold.kind)).toBeTrue();
    expect(reliefs.length).toBeGreaterThan(0);
    for (const { objective } of reliefs) expect(objective).toBeGreaterThan(-1);
  });
});
