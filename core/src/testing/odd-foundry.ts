// Foundries as they may be anywhere: shells and blocks side by side, short waits, weekends off, small kilns, hoists,
// several weights, trees as jobs of their own. For specs that hold whatever the shop.
import { chance } from '../plan/engine/chance.ts';
import type { PlanJob, PlanLink, PlanProblem, PlanTask } from '../plan/problem.ts';

const H = 60;
const DAY = 1440;

/** @param fires whether fires are lit and watched by somebody, charges melt by their weight, and a pour takes its crew along */
export function oddFoundry(seed: number, { fires = false } = {}): PlanProblem {
  const random = chance(seed);
  const within = (low: number, high: number) => Math.round(low + (high - low) * random());
  const oneOf = (list: readonly number[]) => list[Math.floor(random() * list.length)]!;
  const [tasks, links, jobs]: [PlanTask[], PlanLink[], PlanJob[]] = [[], [], []];
  const [coatMax, pourMax] = [oneOf([18, 24, 30, 48, 72]) * H, oneOf([5, 6, 8, 14]) * DAY];
  const coats = within(2, 7);
  const isByTree = random() < 0.5;
  const pieces = within(2, 10);
  for (let p = 0; p < pieces; p++) {
    const piece = `P${p}`;
    jobs.push({
      id: piece,
      weight: within(1, 3),
      ...(random() < 0.8 ? { due: within(10, 60) * DAY } : {}),
      ...(random() < 0.2 ? { release: within(0, 10) * DAY } : {}),
    });
    const isBlock = random() < 0.25;
    const sections = within(1, 3);
    const metal: string[] = [];
    for (let s = 0; s < sections; s++) {
      const tree = isByTree ? `${piece}.tree${s}` : piece;
      if (isByTree) jobs.push({ id: tree, weight: 0 });
      const add = (name: string, duration: number, spans: PlanTask['spans'], needs: PlanTask['needs'], job = tree) => {
        const id = `${piece}.${s}.${name}`;
        tasks.push({ id, job, duration, spans, needs });
        return id;
      };
      const link = (from: string, to: string, minLag = 0, maxLag?: number) =>
        links.push({ from, to, minLag, ...(maxLag === undefined ? {} : { maxLag }) });
      const pull = add('pull', 60, 'pausing', [{ resource: 'wax' }, { resource: `mould${p % 2}` }], piece);
      let last = add('chase', within(30, 200), 'pausing', [{ resource: 'wax' }], piece);
      link(pull, last, H);
      for (let c = 0; c < (isBlock ? 1 : coats); c++) {
        const coat = add(`coat${c}`, isBlock ? 120 : 10, isBlock ? 'pausing' : 'unbroken', [{ resource: 'shell' }]);
        link(last, coat, c === 0 ? 2 * H : 4 * H, c === 0 ? 14 * DAY : coatMax);
        last = coat;
      }
      const load = isBlock ? { resource: 'kiln', key: 'block', units: 2 } : { resource: 'kiln', key: 'shell' };
      const fire = add('fire', isBlock ? 4 * DAY : 180, 'through', [load]);
      link(last, fire, isBlock ? DAY : 4 * H, isBlock ? undefined : coatMax);
      const metalNeed = { resource: 'crucible', units: within(3, 60), key: p % 2 ? 'S' : 'T' };
      const pour = add('pour', 30, 'unbroken', random() < 0.3 ? [metalNeed, { resource: 'hoist' }] : [metalNeed]);
      link(fire, pour, 4 * H, Math.max(pourMax, isBlock ? 7 * DAY : 0));
      const inspect = add('inspect', 75, 'pausing', [{ resource: 'chasing' }], piece);
      link(pour, inspect, within(2, 20) * H);
      metal.push(inspect);
    }
    const finish = `${piece}.finish`;
    tasks.push({
      id: finish,
      job: piece,
      duration: within(60, 1000),
      spans: 'pausing',
      needs: [{ resource: 'chasing' }],
    });
    for (const from of metal) links.push({ from, to: finish });
  }
  const hours = (days: readonly number[]) =>
    days.flatMap((day) => [
      { day, from: '08:00', to: '12:00' },
      { day, from: '12:30', to: '16:30' },
    ]);
  const week = [1, 2, 3, 4, 5];
  return {
    format: 'kalvet-plan/1',
    start: '2027-03-01T00:00:00',
    calendars: [
      { id: 'shop', weekly: hours(week), closed: ['2027-03-26', '2027-03-29'] },
      { id: 'shell', weekly: hours([...week, ...(random() < 0.6 ? [6] : []), ...(random() < 0.3 ? [7] : [])]) },
      { id: 'pour days', weekly: [2, 4].map((day) => ({ day, from: '09:00', to: '16:00' })) },
    ],
    resources: [
      { id: 'wax', capacity: 2, calendar: 'shop' },
      { id: 'shell', capacity: within(1, 2), calendar: 'shell' },
      { id: 'chasing', capacity: within(1, 3), calendar: 'shop' },
      { id: 'hoist', capacity: 2 },
      {
        id: 'kiln',
        capacity: within(3, 12),
        calendar: random() < 0.5 ? 'shop' : 'shell',
        batch: {
          machines: within(1, 2),
          setup: 60,
          loadCost: 30,
          maxTasks: within(2, 12),
          ...(fires ? { setupIn: 'shell', firstSetup: 30, coldAfter: within(1, 3) * DAY } : {}),
        },
      },
      {
        id: 'crucible',
        capacity: 120,
        calendar: 'pour days',
        batch: {
          machines: within(1, 2),
          setup: within(0, 120),
          loadCost: 60,
          ...(fires
            ? {
                setupPerUnit: 0.5,
                change: 30,
                firstSetup: 45,
                coldAfter: 4 * H,
                setupIn: 'shell',
                needs: [{ resource: 'chasing', before: 30 }],
              }
            : {}),
        },
      },
      ...[0, 1].map((i) => ({ id: `mould${i}`, capacity: 1 })),
    ],
    jobs,
    tasks,
    links,
    objective: { tardiness: 1, flow: 0.001, loads: 1 },
  };
}
