// Foundries of any size as plan problems, for specs and benchmarks: the default route with its waits, rooms with people,
// a kiln, a crucible on pour days, moulds that are in use one pull at a time.
import { chance } from '../plan/engine/chance.ts';
import type { PlanLink, PlanProblem, PlanTask } from '../plan/problem.ts';

const WEEKDAYS = [1, 2, 3, 4, 5];
const H = 60;
const DAY = 1440;

/** A foundry with so many pieces, each of one to four sections with seven to ten coats. */
export function foundryProblem(pieces: number, seed = 1, { coats = 8 } = {}): PlanProblem {
  const random = chance(seed);
  const within = (low: number, high: number) => Math.round(low + (high - low) * random());
  const tasks: PlanTask[] = [];
  const links: PlanLink[] = [];
  const works = Math.max(1, Math.round(pieces / 8));
  const staff = Math.max(1, Math.round(pieces / 40));
  const jobs = [];
  for (let p = 0; p < pieces; p++) {
    const job = `P${p}`;
    const work = p % works;
    const sections = 1 + (work % 4);
    jobs.push({ id: job, due: within(4, 4 + Math.ceil(pieces / 4)) * 7 * DAY, weight: 1 });
    const add = (name: string, duration: number, spans: PlanTask['spans'], needs: PlanTask['needs']): string => {
      const id = `${job}.${name}`;
      tasks.push({ id, job, duration, spans, needs });
      return id;
    };
    const after = (from: string, to: string, minLag = 0, maxLag?: number) =>
      links.push({ from, to, minLag, ...(maxLag === undefined ? {} : { maxLag }) });
    const person = (room: string) => [{ resource: room }];
    const metal: string[] = [];
    for (let s = 0; s < sections; s++) {
      const at = (name: string) => `${String.fromCharCode(65 + s)}.${name}`;
      const kg = within(3, 35);
      const pull = add(at('pull'), 60, 'pausing', [{ resource: 'wax' }, { resource: `mould-${work}` }]);
      const chase = add(at('chase'), within(60, 150), 'pausing', person('wax'));
      const join = add(at('join'), 90, 'pausing', person('sprue'));
      after(pull, chase, H);
      after(chase, join, 0, 30 * DAY);
      let last = join;
      let wait: [number, number] = [2 * H, 14 * DAY];
      for (let c = 1; c <= coats + (s % 3); c++) {
        const coat = add(at(`coat${c}`), 10, 'unbroken', person('shell'));
        after(last, coat, ...wait);
        last = coat;
        wait = [c < 2 ? 3 * H : 4 * H, 48 * H];
      }
      const fire = add(at('fire'), 180, 'through', [{ resource: 'kiln', key: 'shell' }]);
      after(last, fire, ...wait);
      const test = add(at('test'), 15, 'unbroken', person('burnout'));
      after(fire, test, 4 * H);
      const pour = add(at('pour'), 30, 'unbroken', [{ resource: 'crucible', units: kg, key: work % 3 ? 'S' : 'T' }]);
      after(test, pour, 0, 14 * DAY);
      const knock = add(at('knock'), 60, 'pausing', person('chasing'));
      after(pour, knock, 2 * H + 12 * kg);
      const inspect = add(at('inspect'), 15, 'pausing', person('chasing'));
      after(knock, inspect);
      metal.push(inspect);
    }
    let last = metal[0]!;
    metal.slice(1).forEach((section, i) => {
      const joined = add(`weld${i + 1}`, within(120, 300), 'pausing', person('chasing'));
      after(last, joined);
      after(section, joined);
      last = joined;
    });
    for (const [name, minutes, room, lag] of [
      ['chase', within(300, 1200), 'chasing', 0],
      ['patina', 180, 'patina', 12 * H],
      ['buff', 30, 'patina', 12 * H],
      ['inspect', 30, 'patina', 0],
      ['pack', 60, 'out', 0],
    ] as const) {
      const next = add(name, minutes, 'pausing', person(room));
      after(last, next, name === 'buff' ? 12 * H : name === 'inspect' ? 12 * H : lag && 0);
      last = next;
    }
  }
  const shop = (days: readonly number[]) =>
    days.flatMap((day) => [
      { day, from: '08:00', to: '12:00' },
      { day, from: '12:30', to: '16:30' },
    ]);
  return {
    format: 'kalvet-plan/1',
    start: '2027-03-01T00:00:00',
    calendars: [
      { id: 'shop', weekly: shop(WEEKDAYS), closed: ['2027-03-26', '2027-03-29'] },
      { id: 'shell', weekly: [...shop(WEEKDAYS), { day: 6, from: '09:00', to: '12:00' }] },
      { id: 'pour days', weekly: [2, 4].map((day) => ({ day, from: '09:00', to: '16:00' })) },
    ],
    resources: [
      ...[
        ['wax', 2],
        ['sprue', 1],
        ['burnout', 1],
        ['chasing', 3],
        ['patina', 1],
        ['out', 1],
      ].map(([id, people]) => ({ id: String(id), capacity: Number(people) * staff, calendar: 'shop' })),
      { id: 'shell', capacity: 2 * staff, calendar: 'shell' },
      { id: 'kiln', capacity: 12, calendar: 'shop', batch: { machines: staff, setup: 60, loadCost: 30 } },
      { id: 'crucible', capacity: 120, calendar: 'pour days', batch: { machines: staff, setup: 120, loadCost: 60 } },
      ...Array.from({ length: works }, (_, i) => ({ id: `mould-${i}`, capacity: 1 })),
    ],
    jobs,
    tasks,
    links,
    objective: { tardiness: 1, flow: 0.001, loads: 1 },
  };
}
