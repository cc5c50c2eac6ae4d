// Small plan problems for specs: every part has what the format demands, a spec names what it is about.
import type { PlanLink, PlanProblem, PlanTask } from '../plan/problem.ts';

/** Monday 2027-03-01; shop hours 08:00–12:00 and 12:30–16:30 on weekdays. */
export const SHOP = {
  id: 'shop',
  weekly: [1, 2, 3, 4, 5].flatMap((day) => [
    { day, from: '08:00', to: '12:00' },
    { day, from: '12:30', to: '16:30' },
  ]),
};

export const problem = (given: Partial<PlanProblem> = {}): PlanProblem => ({
  format: 'kalvet-plan/1',
  start: '2027-03-01T00:00:00',
  calendars: [SHOP],
  resources: [{ id: 'bench', capacity: 1, calendar: 'shop' }],
  jobs: [{ id: 'J' }],
  tasks: [],
  links: [],
  objective: { flow: 1 },
  ...given,
});

export const task = (id: string, duration: number, rest: Partial<PlanTask> = {}): PlanTask => ({
  id,
  job: 'J',
  duration,
  spans: 'pausing',
  needs: [],
  ...rest,
});

export const at = (resource: string, units = 1, key?: string) => ({
  resource,
  units,
  ...(key === undefined ? {} : { key }),
});

export const link = (from: string, to: string, minLag = 0, maxLag?: number): PlanLink => ({
  from,
  to,
  minLag,
  ...(maxLag === undefined ? {} : { maxLag }),
});
