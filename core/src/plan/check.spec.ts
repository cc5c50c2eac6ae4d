import type { PlanProblem, Schedule, ScheduledTask } from './problem.ts';
import { checkSchedule } from './check.ts';
import { planProblem } from './plan.ts';
import { at, link, problem, task } from '../testing/plan-parts.ts';

const shop: PlanProblem = problem({
  resources: [
    { id: 'bench', capacity: 1, calendar: 'shop' },
    { id: 'kiln', capacity: 2, calendar: 'shop', batch: { setup: 60, loadCost: 30, maxTasks: 2 } },
  ],
  tasks: [
    task('a', 120, { needs: [at('bench')] }),
    task('b', 120, { needs: [at('bench')], earliest: 500 }),
    task('fire a', 180, { spans: 'through', needs: [at('kiln', 1, 'shell')] }),
    task('fire b', 180, { spans: 'through', needs: [at('kiln', 1, 'shell')] }),
    task('begun', 0, { fixedStart: -90 }),
    task('dip', 10, { spans: 'unbroken', needs: [at('bench')] }),
  ],
  links: [link('a', 'fire a', 30), link('b', 'fire b', 30), link('begun', 'dip', 0, 2880)],
  objective: { flow: 1, loads: 1 },
});
const good = planProblem(shop);
const changed = (id: string, patch: Partial<ScheduledTask>): Schedule => ({
  ...good,
  tasks: good.tasks.map((each) => (each.id === id ? { ...each, ...patch } : each)),
});
const faults = (schedule: Schedule) =>
  checkSchedule(shop, schedule)
    .filter(({ text }) => !text.startsWith('objective'))
    .map(({ text, ids }) => `${ids?.join(' ')}: ${text}`)
    .join('\n');

describe('the check of a schedule', () => {
  it('finds nothing wrong with a good one', () => {
    expect(good.status).toBe('feasible');
    expect(checkSchedule(shop, good)).toEqual([]);
    expect(good.tasks.find(({ id }) => id === 'begun')).toEqual({ id: 'begun', start: -90, end: -90 });
  });

  const [a, fireA] = ['a', 'fire a'].map((id) => good.tasks.find((each) => each.id === id)!) as [
    ScheduledTask,
    ScheduledTask,
  ];
  const broken: [what: string, schedule: Schedule, says: string][] = [
    ['a task is missing', { ...good, tasks: good.tasks.slice(1) }, 'is not scheduled'],
    ['a task is there twice', { ...good, tasks: [...good.tasks, a] }, 'is scheduled twice'],
    ['an end is wrong', changed('a', { end: a.end + 1 }), 'a: starts at'],
    ['it starts in closed hours', changed('dip', { start: 725, end: 735 }), 'dip: may not start at 725'],
    ['it would break over lunch', changed('dip', { start: 715, end: 725 }), 'dip: may not start at 715'],
    ['it starts before its earliest', changed('b', { start: 480, end: 600 }), 'b: starts at 480, before 500'],
    ['two are on one bench', changed('b', { start: a.start + 20, end: a.start + 140 }), 'bench: more than 1'],
    ['a wait is cut', changed('fire a', { start: 481, end: 661 }), 'a→fire a:'],
    ['a maximum is passed', changed('dip', { start: 3360, end: 3370 }), 'begun→dip: 3450 min after, at most 2880'],
    ['a fixed start is moved', changed('begun', { start: 0, end: 0 }), 'is fixed at -90'],
    ['a load is missing', changed('fire a', { load: undefined as never }), 'fire a: needs kiln and is in no load'],
    ['a load is where none is needed', changed('a', { load: 'kiln#1' }), 'a: is in load kiln#1 and needs none'],
    [
      'load mates start apart',
      changed('fire a', { start: fireA.start + 1, end: fireA.end + 1, load: good.tasks[3]!.load! }),
      'do not start and end together',
    ],
    [
      'a load follows without time for setting up',
      {
        ...changed('fire b', { start: fireA.end + 30, end: fireA.end + 210, load: 'kiln#9' }),
      },
      'kiln: more loads than machines',
    ],
  ];
  for (const [what, schedule, says] of broken)
    it(`finds that ${what}`, () => {
      expect(faults(schedule)).toContain(says);
    });

  it('finds a wrong objective and a bound above the value', () => {
    const wrong = { ...good, objective: { ...good.objective!, flow: 1 }, lowerBound: { value: 1e9, why: '' } };
    const texts = checkSchedule(shop, wrong).map(({ text }) => text);
    expect(texts.some((text) => text.startsWith('objective.flow is 1'))).toBeTrue();
    expect(texts.some((text) => text.startsWith('the lower bound'))).toBeTrue();
  });
});
