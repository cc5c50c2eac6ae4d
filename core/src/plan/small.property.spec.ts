// Tiny random problems against a search of every schedule there is: what is called impossible must be, and what the
// planner gives can never beat the best one.
import fc from 'fast-check';
import { checkSchedule } from './check.ts';
import { compile } from './compile.ts';
import { endOf } from './openings.ts';
import { objectiveOf } from './objective.ts';
import { planProblem } from './plan.ts';
import type { PlanProblem, Schedule, Spans } from './problem.ts';

const HORIZON = 40;

/** Every task at every minute up to the horizon, every way of sharing loads that starts allow; the best value or undefined. */
function bestOfAll(problem: PlanProblem): number | undefined {
  const compiled = compile(problem);
  const { tasks } = compiled;
  let best: number | undefined;
  const starts: number[] = [];
  const tryAll = (place: number): void => {
    if (place < tasks.length) {
      const { fixed } = tasks[place]!;
      for (let start = fixed ?? 0; start <= (fixed ?? HORIZON); start++) {
        starts[place] = start;
        tryAll(place + 1);
      }
      return;
    }
    const inLoads = tasks.filter(({ batch }) => batch);
    // Two tasks in loads at most: together, or apart.
    for (const together of inLoads.length === 2 ? [false, true] : [false]) {
      const loads = new Map(inLoads.map(({ place: at }, i) => [at, together ? 'l' : `l${i}`]));
      const longest = Math.max(0, ...inLoads.map(({ duration }) => duration));
      const ends = tasks.map((task) =>
        endOf(task.open, task.spans, starts[task.place]!, together && task.batch ? longest : task.duration),
      );
      const resourceOf = new Map([...loads.values()].map((load) => [load, 'kiln']));
      const objective = objectiveOf(problem, ends, resourceOf);
      if (best !== undefined && objective.value >= best) continue;
      const schedule: Schedule = {
        format: 'kalvet-schedule/1',
        status: 'feasible',
        objective,
        messages: [],
        tasks: tasks.map(({ id, place: at }) => ({
          id,
          start: starts[at]!,
          end: ends[at]!,
          ...(loads.has(at) ? { load: loads.get(at)! } : {}),
        })),
      };
      if (checkSchedule(problem, schedule, compiled).length === 0) best = objective.value;
    }
  };
  tryAll(0);
  return best;
}

const spans = fc.constantFrom<Spans>('pausing', 'unbroken', 'through');
const problems: fc.Arbitrary<PlanProblem> = fc
  .record({
    windows: fc.uniqueArray(fc.integer({ min: 0, max: 9 }), { minLength: 3, maxLength: 10 }),
    tasks: fc.array(
      fc.record({
        duration: fc.integer({ min: 0, max: 6 }),
        spans,
        need: fc.constantFrom('none', 'bench', 'kiln'),
        due: fc.integer({ min: 0, max: 20 }),
      }),
      { minLength: 2, maxLength: 3 },
    ),
    links: fc.array(fc.tuple(fc.integer({ min: 0, max: 5 }), fc.option(fc.integer({ min: 0, max: 6 }))), {
      maxLength: 2,
    }),
    setup: fc.integer({ min: 0, max: 3 }),
    ordered: fc.option(
      fc.record(
        {
          setupPerUnit: fc.constantFrom(0.5, 1, 2),
          change: fc.integer({ min: 1, max: 4 }),
          firstSetup: fc.integer({ min: 0, max: 5 }),
          setupIn: fc.constant('c'),
          needs: fc.constantFrom([{ resource: 'bench' }], [{ resource: 'bench', before: 2 }]),
        },
        { requiredKeys: [] },
      ),
    ),
    coldAfter: fc.integer({ min: 0, max: 6 }),
    keys: fc.constantFrom([undefined, undefined], ['a', 'a'], ['a', 'b']),
    begun: fc.boolean(),
  })
  .map(({ windows, tasks, links, setup, ordered, coldAfter, keys, begun }) => ({
    format: 'kalvet-plan/1' as const,
    start: '2027-03-01T00:00:00',
    // Stretches of three minutes, some open, some not, in the first half hour.
    calendars: [
      {
        id: 'c',
        weekly: windows.map((i) => ({
          day: 1,
          from: `00:${String(i * 3).padStart(2, '0')}`,
          to: `00:${String(i * 3 + 3).padStart(2, '0')}`,
        })),
      },
    ],
    resources: [
      { id: 'bench', capacity: 1, calendar: 'c' },
      {
        id: 'kiln',
        capacity: 2,
        batch: {
          setup,
          loadCost: 5,
          ...ordered,
          ...(ordered?.firstSetup === undefined ? {} : { coldAfter }),
        },
      },
    ],
    jobs: tasks.map(({ due }, i) => ({ id: `j${i}`, due })),
    tasks: tasks.map(({ duration, spans: how, need }, i) => ({
      id: `t${i}`,
      job: `j${i}`,
      duration,
      spans: how,
      // The search knows two tasks in loads at most.
      needs:
        need === 'none' || (need === 'kiln' && i === 2)
          ? []
          : [{ resource: need, ...(need === 'kiln' && keys[i] !== undefined ? { key: keys[i] } : {}) }],
      ...(begun && need === 'kiln' && i === 0 ? { fixedStart: -2 } : {}),
    })),
    // A load that waits so as to leave its own machine warm for what follows it is beyond what the planner looks for.
    links: links
      .slice(0, ordered?.firstSetup !== undefined && tasks[1]!.need === 'kiln' ? 0 : tasks.length - 1)
      .map(([minLag, more], i) => ({
        from: `t${i}`,
        to: `t${i + 1}`,
        minLag,
        ...(more === null ? {} : { maxLag: minLag + more }),
      })),
    objective: { tardiness: 1, flow: 0.1, loads: 1 },
  }));

describe('tiny problems, searched through', () => {
  it('are called impossible only where they are, and planned as well as the best there is', () => {
    fc.assert(
      fc.property(problems, (problem) => {
        const schedule = planProblem(problem, { iterations: 400 });
        const best = bestOfAll(problem);
        if (schedule.status === 'infeasible') expect(best).toBeUndefined();
        if (best === undefined) return;
        expect(schedule.status).toBe('feasible');
        expect(checkSchedule(problem, schedule)).toEqual([]);
        // The search of all of them ends at its horizon: something better can begin beyond it.
        expect(schedule.objective!.value).toBeLessThanOrEqual(best + 1e-9);
        expect(schedule.lowerBound!.value).toBeLessThanOrEqual(best + 1e-9);
      }),
      { numRuns: 40, seed: 11 },
    );
  });
});
