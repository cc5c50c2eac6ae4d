// Large shops with too much to do: long chains of dips that no closed fortnight may part, loads by litres and kilograms, one
// specialist for the patina, and a fifth to a third of the pieces late whatever is done. For benchmarks.
import { chance } from '../plan/engine/chance.ts';
import { dateOf, dayNumber } from '../plan/dates.ts';
import type { PlanJob, PlanLink, PlanProblem, PlanTask } from '../plan/problem.ts';

const H = 60;
const DAY = 1440;
const START = '2027-03-01';
const DRY_DAYS = 3;
/** The soonest that anything is promised, and what share of the time that the busiest room needs the promises count on. */
const SOONEST_WEEKS = 7;
const COUNTED_ON = 1;
const WEEK_OPEN = 40 * H;

const hours = (days: readonly number[], ...windows: readonly (readonly [string, string])[]) =>
  days.flatMap((day) => windows.map(([from, to]) => ({ day, from, to })));
const WORKDAYS = [1, 2, 3, 4, 5];
const dates = (first: number, count: number): string[] =>
  Array.from({ length: count }, (_, i) => dateOf(dayNumber(START)! + first + i));

/** A crowded shop with so many pieces in editions of eight, each of one to six sections with seven to thirteen coats. */
export function crowdedFoundry(pieces: number, seed = 1): PlanProblem {
  const random = chance(seed);
  const within = (low: number, high: number) => Math.round(low + (high - low) * random());
  const [tasks, links, jobs]: [PlanTask[], PlanLink[], PlanJob[]] = [[], [], []];
  const editions = Math.max(2, Math.round(pieces / 8));
  const works = Array.from({ length: editions }, () => ({
    sections: within(1, 6),
    coats: within(7, 13),
    dry: within(4, 24) * H,
    kg: within(3, 40),
    alloy: random() < 0.6 ? 'S' : 'T',
    profile: random() < 0.7 ? 'two hours' : 'slow',
    approval: within(1, 5) * DAY,
    chasing: within(1, 5),
  }));
  const staff = Math.max(1, Math.round(pieces / 25));
  for (let p = 0; p < pieces; p++) {
    const work = works[p % editions]!;
    const job = `P${p}`;
    const add = (name: string, duration: number, spans: PlanTask['spans'], ...needs: PlanTask['needs'][number][]) => {
      const id = `${job}.${name}`;
      tasks.push({ id, job, duration, spans, needs });
      return id;
    };
    const link = (from: string, to: string, minLag = 0, maxLag?: number) =>
      links.push({ from, to, minLag, ...(maxLag === undefined ? {} : { maxLag }) });
    const metal: string[] = [];
    for (let s = 0; s < work.sections; s++) {
      const named = (name: string) => `${String.fromCharCode(65 + s)}.${name}`;
      const kg = Math.max(1, Math.round(work.kg * (0.6 + 0.8 * random())));
      const mould = { resource: `mould-${p % editions}-${s}` };
      const cast = add(named('cast'), within(30, 60), 'unbroken', { resource: 'wax' }, mould);
      const set = add(named('set'), within(45, 120), 'through', mould);
      link(cast, set, 0, 0);
      const chase = add(named('chase wax'), within(45, 180), 'pausing', { resource: 'wax' });
      link(set, chase, H);
      const sprue = add(named('sprue'), within(60, 150), 'pausing', { resource: 'sprue' });
      link(chase, sprue);
      let last = add(named('wash'), 15, 'unbroken', { resource: 'sprue' });
      link(sprue, last, 2 * H);
      let wait: [number, number] = [H, 14 * DAY];
      for (let coat = 1; coat <= work.coats; coat++) {
        const tank = coat <= 2 ? 'face tank' : 'back-up tank';
        const dip = add(named(`dip ${coat}`), within(5, 12), 'unbroken', { resource: 'shell' }, { resource: tank });
        const sand = add(named(`sand ${coat}`), 5, 'unbroken', { resource: 'shell' });
        link(last, dip, ...wait);
        link(dip, sand, 0, 15);
        last = sand;
        wait = [work.dry, DRY_DAYS * DAY];
      }
      const litres = Math.round(kg * 2.2 + 6);
      const fire = add(named('fire'), work.profile === 'slow' ? 600 : 180, 'through', {
        resource: 'kiln',
        units: Math.min(litres, 250),
        key: work.profile,
      });
      link(last, fire, DAY);
      const heavy = kg > 30 ? [{ resource: 'hoist' }] : [];
      const pour = add(named('pour'), 20, 'unbroken', { resource: 'crucible', units: kg, key: work.alloy }, ...heavy);
      link(fire, pour, 4 * H, 14 * DAY);
      const knock = add(named('knock out'), 20 + 2 * kg, 'pausing', { resource: 'metal' });
      link(pour, knock, 12 * H);
      const blast = add(named('blast'), 20, 'unbroken', { resource: 'cabinet' });
      link(knock, blast);
      const cut = add(named('cut'), 15 + kg, 'pausing', { resource: 'metal' });
      link(blast, cut);
      metal.push(cut);
    }
    const fit = add('fit', 30 * work.sections, 'pausing', { resource: 'metal' });
    for (const cut of metal) link(cut, fit);
    let last = fit;
    const then = (name: string, minutes: number, resource: string, lag = 0) => {
      const id = add(name, minutes, 'pausing', { resource });
      link(last, id, lag);
      last = id;
    };
    then('weld', 90 * work.sections, 'metal');
    then('chase', Math.round(work.chasing * 8 * H * (0.7 + 0.6 * random())), 'metal');
    then('patina', within(120, 480), 'patina', work.approval);
    then('wax', 45, 'patina', 12 * H);
    then('base', within(60, 180), 'out', work.approval);
    then('pack', 60, 'out', 12 * H);
  }
  const day = [
    ['08:00', '12:00'],
    ['12:30', '16:30'],
  ] as const;
  const closed = [...dates(42, 14), ...dates(165, 14)];
  const room = (id: string, people: number, calendar = 'shop') => ({ id, capacity: people * staff, calendar });
  const rooms = [
    room('wax', 2),
    room('sprue', 1),
    room('shell', 2, 'shell'),
    room('face tank', 1, 'shell'),
    room('back-up tank', 1, 'shell'),
    room('metal', 4),
    room('cabinet', 1),
    room('out', 1),
    { id: 'patina', capacity: Math.max(1, Math.round(staff * 0.75)), calendar: 'patina' },
  ];
  const workOf = (id: string) =>
    tasks.reduce((sum, { needs, duration }) => sum + (needs.some(({ resource }) => resource === id) ? duration : 0), 0);
  const weeks = Math.max(
    ...rooms.map(({ id, capacity }) => workOf(id) / capacity / (id === 'patina' ? 0.6 : 1) / WEEK_OPEN),
  );
  for (let p = 0; p < pieces; p++) {
    const due = Math.round((SOONEST_WEEKS + weeks * random() * COUNTED_ON) * 7) * DAY;
    jobs.push({ id: `P${p}`, due, weight: random() < 0.15 ? 2 : 1 });
  }
  return {
    format: 'kalvet-plan/1',
    start: `${START}T00:00:00`,
    calendars: [
      { id: 'shop', weekly: hours(WORKDAYS, ...day), closed },
      { id: 'shell', weekly: [...hours(WORKDAYS, ...day), ...hours([6], ['09:00', '12:00'])], closed },
      { id: 'pour afternoons', weekly: hours([2, 4], ['12:30', '16:30']), closed },
      { id: 'patina', weekly: hours([1, 2, 4], ...day), closed: [...closed, ...dates(84, 7)] },
    ],
    resources: [
      ...rooms,
      room('hoist', 1),
      { id: 'kiln', capacity: 260, calendar: 'shop', batch: { machines: staff, setup: 60, loadCost: 60 } },
      {
        id: 'crucible',
        capacity: 120,
        calendar: 'pour afternoons',
        batch: { machines: staff, setup: 60, loadCost: 120 },
      },
      ...works.flatMap((work, w) =>
        Array.from({ length: work.sections }, (_, s) => ({ id: `mould-${w}-${s}`, capacity: 1 })),
      ),
    ],
    jobs,
    tasks,
    links,
    objective: { tardiness: 1, flow: 0.01, loads: 1 },
  };
}
