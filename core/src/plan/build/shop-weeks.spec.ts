import { DEFAULT_RESOURCES } from '../../records/plan.ts';
import { DEFAULT_SETTINGS } from '../../records/settings.ts';
import { snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, openStep, smallShop } from '../../testing/play.ts';
import { planShop } from './shop-plan.ts';
import { weeksOf } from './shop-weeks.ts';

const idOf = (room: string) => DEFAULT_RESOURCES.find((each) => each.kind === 'people' && each.room === room)!.id;
const people = DEFAULT_RESOURCES.filter(({ kind }) => kind === 'people').map(({ id }) => id);

describe('work for the hands of each room by week', () => {
  const shop = smallShop({}, counter());
  const weeks = (now = 480, rest = {}) => {
    const plan = planShop(snapshot(shop, START, rest));
    return { plan, hands: weeksOf(plan, { people, startDay: '2027-03-01', now }) };
  };
  const firstOf = (hands: ReturnType<typeof weeksOf>, room: string) =>
    hands.find(({ resourceId }) => resourceId === idOf(room))!.weeks[0]!;

  it('counts what is planned beside what the hands there can do in their hours, from now on', () => {
    const { hands } = weeks();
    // One mould maker: five days of 8 h; the mould of 0.16 m² takes 120 + 120 min and 3 coats at 90 min/m².
    expect(firstOf(hands, 'mould')).toEqual({ monday: '2027-03-01', planned: 283, there: 5 * 480 });
    // Two in the shell room: five days of 8.5 h and three on Saturday.
    expect(firstOf(hands, 'shell').there).toBe(2 * (5 * 510 + 180));
    // From Wednesday 08:00 on three of the five days are left.
    expect(firstOf(weeks(2 * 1440 + 480).hands, 'mould').there).toBe(3 * 480);
  });

  it('leaves out who is away, and counts the crew of a pour as at work', () => {
    const away = {
      id: 'a',
      resourceId: idOf('shell'),
      more: -1,
      from: '2027-03-02',
      to: '2027-03-02',
      why: '',
      version: 1,
    };
    expect(firstOf(weeks(480, { staffing: [away] }).hands, 'shell').there).toBe(2 * (5 * 510 + 180) - 510);
    const inPourWeek = (pourMetalHands: number) => {
      const { plan, hands } = weeks(480, { settings: { ...DEFAULT_SETTINGS, pourMetalHands } });
      const pour = plan.steps.find(({ stepId }) => stepId === openStep(shop, 'pour').id)!;
      return hands.find(({ resourceId }) => resourceId === idOf('chasing'))!.weeks[Math.floor(pour.start / 10_080)]!
        .planned;
    };
    // Two of the metal shop are there from an hour before to the end of a pour of 30 min.
    expect(inPourWeek(2) - inPourWeek(0)).toBe(2 * 90);
  });
});
