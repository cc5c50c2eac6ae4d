import type { Calendar } from '../../records/plan.ts';
import { DEFAULT_CALENDARS } from '../../records/plan.ts';
import type { Shop } from '../../records/shop.ts';
import { MIDNIGHT, snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, smallShop } from '../../testing/play.ts';
import type { ToldPlan } from './keep-word.ts';
import { planKeepingWord } from './keep-word.ts';
import type { ShopPlan } from './shop-plan.ts';
import type { PlanSnapshot } from './snapshot.ts';

describe('a plan keeps its word', () => {
  const newId = counter();
  // Three works of four pieces in two sections, all due at once: room for a search to change its mind.
  const shop = ['OTT', 'HER', 'MAL'].reduce<Shop>(
    (before, code) => smallShop({ pieces: 4, sections: [{}, { seamM: 0.4 }], work: { code } }, newId, before),
    smallShop({ pieces: 1 }, newId),
  );
  const due: Shop = { ...shop, pieces: shop.pieces.map((piece) => ({ ...piece, dueDate: '2027-04-20' })) };
  const snapshotOf = (previous: ToldPlan, calendars: readonly Calendar[] = DEFAULT_CALENDARS): PlanSnapshot =>
    snapshot(due, START, { previous, calendars });
  const told = ({ steps }: ShopPlan): ToldPlan => steps;
  /** How many steps begin on another day. */
  const moved = (one: ShopPlan, other: ShopPlan): number => {
    const before = new Map(one.steps.map(({ stepId, start }) => [stepId, Math.floor(start / 1440)]));
    return other.steps.filter(({ stepId, start }) => before.get(stepId) !== Math.floor(start / 1440)).length;
  };
  const withoutPourDay = (date: string): Calendar[] =>
    DEFAULT_CALENDARS.map((calendar) => (calendar.name === 'Pour days' ? { ...calendar, closed: [date] } : calendar));

  it('gives the same shop the same plan, however often it is asked', () => {
    const first = planKeepingWord(snapshotOf([]), { tries: 400 });
    expect(planKeepingWord(snapshotOf([]), { tries: 400 }).steps).toEqual(first.steps);
    // Planned again from itself, with a search that could find other dates for little gain: nothing moves.
    expect(moved(first, planKeepingWord(snapshotOf(told(first)), { tries: 400 }))).toBe(0);
  });

  it('brings back what was told when a pour day that was closed is open again', () => {
    const first = planKeepingWord(snapshotOf([]), { tries: 400 });
    const pour = first.steps.find(
      ({ load, stepId }) => load !== null && snapshotOf([]).index.step.get(stepId)!.kind === 'pour',
    )!;
    const date = new Date(MIDNIGHT + pour.start * 60_000).toISOString().slice(0, 10);
    const closed = planKeepingWord(snapshotOf(told(first), withoutPourDay(date)), { tries: 400 });
    expect(moved(first, closed)).toBeGreaterThan(0);
    const open = planKeepingWord(snapshotOf(told(closed)), { older: [told(first)], tries: 400 });
    expect(moved(first, open)).toBe(0);
  });
});
