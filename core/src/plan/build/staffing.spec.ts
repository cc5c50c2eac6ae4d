import { DEFAULT_RESOURCES } from '../../records/plan.ts';
import type { Staffing } from '../../records/plan.ts';
import type { Shop } from '../../records/shop.ts';
import { applyOps, update } from '../../records/shop.ts';
import { snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, openStep, smallShop } from '../../testing/play.ts';
import { planShop } from './shop-plan.ts';
import { handsByDay } from './staffing.ts';

const metalShop = DEFAULT_RESOURCES.find(({ kind, room }) => kind === 'people' && room === 'chasing')!;
const mouldMakers = DEFAULT_RESOURCES.find(({ kind, room }) => kind === 'people' && room === 'mould')!;
const shellRoom = DEFAULT_RESOURCES.find(({ kind, room }) => kind === 'people' && room === 'shell')!;

const change = (more: number, from: string, to: string, resourceId = metalShop.id): Staffing => ({
  id: `${resourceId} ${from}`,
  resourceId,
  more,
  from,
  to,
  why: 'course',
  version: 1,
});

describe('hands more or fewer for a while', () => {
  it('are counted from day to day, both ends included, and are never fewer than none', () => {
    const days = handsByDay(
      2,
      [change(-1, '2027-03-02', '2027-03-03'), change(-3, '2027-03-03', '2027-03-03')],
      '2027-03-01',
    );
    // Monday two, Tuesday one, Wednesday 2 − 1 − 3 is none, from Thursday on two.
    expect(days.map(({ from, there }) => [from / 1440, there])).toEqual([
      [0, 2],
      [1, 1],
      [2, 0],
      [3, 2],
    ]);
    // What was over before the plan begins counts for nothing.
    expect(handsByDay(2, [change(-1, '2027-02-01', '2027-02-20')], '2027-03-01').length).toBe(1);
  });

  describe('in the plan of a shop', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 2 }, newId);
    const mould = openStep(shop, 'make-mould').id;
    const startOf = (staffing: readonly Staffing[], stepId: string, given: Shop = shop) => {
      const plan = planShop(snapshot(given, START, { staffing }));
      expect(plan.schedule.status).toBe('feasible');
      return plan.steps.find((step) => step.stepId === stepId)!.start;
    };

    it('who is away until Friday begins on Monday', () => {
      // 8:00 on the first Monday, and on the next.
      expect(startOf([], mould)).toBe(480);
      expect(startOf([change(-1, '2027-03-01', '2027-03-07', mouldMakers.id)], mould)).toBe(7 * 1440 + 480);
    });

    it('two chase at once while somebody helps out, and one after the other before', () => {
      const one = {
        resources: DEFAULT_RESOURCES.map((each) => (each.id === metalShop.id ? { ...each, count: 1 } : each)),
      };
      const ends = (staffing: readonly Staffing[]) => {
        const { schedule, problem } = planShop(snapshot(shop, START, { ...one, staffing }));
        const away = new Set(problem.tasks.filter(({ id }) => id.startsWith('away:')).map(({ id }) => id));
        return Math.max(...schedule.tasks.filter(({ id }) => !away.has(id)).map(({ end }) => end));
      };
      expect(ends([change(1, '2027-03-01', '2027-06-30')])).toBeLessThan(ends([]));
      // Help that comes when all is out helps nobody.
      expect(ends([change(1, '2029-01-01', '2029-01-31')])).toBe(ends([]));
    });

    it('who is at work at this moment finishes first, also where everybody is off from today', () => {
      const begun = applyOps(shop, [update('steps', mould, { state: 'running', startedAt: START })]);
      expect(startOf([change(-1, '2027-03-01', '2027-03-05', mouldMakers.id)], mould, begun)).toBe(480);
    });

    it('a pour waits until its crew is back', () => {
      const [pour] = shop.steps.filter(({ kind }) => kind === 'pour');
      const usual = startOf([], pour!.id);
      const day = new Date(Date.parse('2027-03-01T00:00:00Z') + Math.floor(usual / 1440) * 86_400_000)
        .toISOString()
        .slice(0, 10);
      // Thursdays only: without the shell room on that day a week later.
      expect(startOf([change(-2, day, day, shellRoom.id)], pour!.id)).toBeGreaterThanOrEqual(usual + 6.5 * 1440);
    });
  });
});
