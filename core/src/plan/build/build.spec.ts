import { DEFAULT_CALENDARS } from '../../records/plan.ts';
import type { Shop } from '../../records/shop.ts';
import { applyOps, insert, update } from '../../records/shop.ts';
import { indexShop } from '../../shop/index-shop.ts';
import { kindOf } from '../../shop/kinds.ts';
import { learnedHours } from '../../shop/learned-hours.ts';
import { inWords } from '../../units/words.ts';
import type { Step } from '../../records/step.ts';
import { isOpen } from '../../records/step.ts';
import { standings } from '../../route/standing.ts';
import { MIDNIGHT, snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, openStep, play, playThrough, smallShop } from '../../testing/play.ts';
import { addMinutes, toMs } from '../../units/instant.ts';
import { buildProblem } from './build.ts';
import { stepIdOf } from './parts.ts';
import { planShop } from './shop-plan.ts';

const change = (shop: Shop, step: Step, patch: Partial<Step>) => applyOps(shop, [update('steps', step.id, patch)]);

describe('a plan made from the records', () => {
  let newId: () => string;
  let shop: Shop;
  beforeEach(() => {
    newId = counter();
    shop = smallShop({ pieces: 2, sections: [{ areaCm2: 1600 }, { seamM: 0.4, areaCm2: 900 }] }, newId);
  });
  const planned = (given: Shop, now?: string) => {
    const plan = planShop(snapshot(given, now));
    expect(plan.schedule.status).withContext(JSON.stringify(plan.schedule.messages)).toBe('feasible');
    return { ...plan, at: (step: Step) => plan.steps.find(({ stepId }) => stepId === step.id)! };
  };

  it('plans every open step, in the order of the route, within the hours of its room', () => {
    const plan = planned(shop);
    expect(plan.steps.length).toBe(shop.steps.filter(isOpen).length);
    expect(plan.notes).toEqual([]);
    const mould = plan.at(openStep(shop, 'make-mould'));
    // 120 min, 60 for each half, 3 coats on 0.25 m² at 90 min/m²: 308 min from Monday 08:00 with half an hour's break end at
    // 13:38; then 24 h of curing.
    expect([mould.start, mould.end]).toEqual([480, 818]);
    const pulls = shop.steps.filter(({ kind }) => kind === 'pull').map((step) => plan.at(step));
    expect(Math.min(...pulls.map(({ start }) => start))).toBe(818 + 1440);
    // One mould makes one wax at a time.
    for (const one of pulls)
      for (const other of pulls) if (one !== other) expect(one.start < other.end && other.start < one.end).toBeFalse();
    // Seam 0.4 m × 6 h/m; two sections of 0.75 kg wax × 8.54 are 12.8 kg: 1.5 h × kg^⅔, more than 2500 cm² × 15 h/m².
    expect(plan.problem.tasks.find(({ id }) => id === openStep(shop, 'join-section').id)!.duration).toBe(144);
    const chase = openStep(shop, 'chase-metal').id;
    const parts = plan.problem.tasks.filter(({ id }) => stepIdOf(id) === chase).map(({ duration }) => duration);
    // Laid down every two hours for whatever needs the hands more.
    expect(parts).toEqual([120, 120, 120, 120, 13]);
    const pours = shop.steps.filter(({ kind }) => kind === 'pour').map((step) => plan.at(step));
    // Thursdays only.
    for (const { start } of pours) expect(Math.floor(start / 1440) % 7).toBe(3);
    for (const { load } of pours) expect(load).toContain('#');
  });

  it('leaves out what is done, and begins nothing before the wait after it has passed', () => {
    const after = playThrough(shop, ['make-mould'], newId);
    const done = after.steps.find(({ kind }) => kind === 'make-mould')!;
    const now = addMinutes(done.endedAt!, 60);
    const plan = planned(after, now);
    expect(plan.steps.some(({ stepId }) => stepId === done.id)).toBeFalse();
    const first = Math.min(...after.steps.filter(({ kind }) => kind === 'pull').map((step) => plan.at(step).start));
    expect(first).toBeGreaterThanOrEqual((toMs(done.endedAt!) - MIDNIGHT) / 60_000 + 24 * 60);
  });

  const dipped = () => {
    const single = smallShop({ pieces: 1 }, newId);
    return playThrough(single, ['make-mould', 'pull', 'chase-wax', 'join-tree', 'coat'], newId);
  };

  it('keeps a maximum wait that runs, and lets one that is broken go, as urgent and noted', () => {
    const after = dipped();
    const coat = after.steps.find(({ kind, state }) => kind === 'coat' && state === 'done')!;
    const next = openStep(after, 'coat');
    const soon = planned(after, addMinutes(coat.endedAt!, 600));
    const end = (toMs(coat.endedAt!) - MIDNIGHT) / 60_000;
    expect(soon.at(next).start).toBeLessThanOrEqual(end + 72 * 60);
    const late = planned(after, addMinutes(coat.endedAt!, 73 * 60));
    expect(late.notes).toEqual([
      jasmine.objectContaining({
        stepId: next.id,
        urgent: true,
        text: jasmine.stringContaining('longer after dip coat'),
      }),
    ]);
    expect(late.problem.tasks.find(({ id }) => id === next.id)!.job).toBe('urgent');
  });

  it('fixes what runs now, with what is left of it', () => {
    const after = dipped();
    const chase = openStep(after, 'patina');
    const running = change(after, chase, { state: 'running', startedAt: START });
    const built = buildProblem(snapshot(running, addMinutes(START, 50)));
    const task = built.problem.tasks.find(({ id }) => id === chase.id)!;
    // 60 min and 240 min/m² of 0.16 m² are 98, of which 50 have passed.
    expect([task.fixedStart, task.duration]).toEqual([530, 48]);
  });

  it('keeps a pin that can be kept and lets one go that comes too early, saying so', () => {
    const mould = openStep(shop, 'make-mould');
    const pinned = change(shop, mould, { pinKind: 'at', pinAt: '2027-03-09T10:00:00.000Z' });
    expect(planned(pinned).at(mould).start).toBe(8 * 1440 + 600);
    const notBefore = change(shop, mould, { pinKind: 'not before', pinAt: '2027-03-10T00:00:00.000Z' });
    expect(planned(notBefore).at(mould).start).toBe(9 * 1440 + 480);
    const patina = openStep(shop, 'patina');
    const early = planned(change(shop, patina, { pinKind: 'at', pinAt: '2027-03-03T10:00:00.000Z' }));
    expect(
      early.notes.map(({ stepId, text }) => [stepId, inWords(text).includes('cannot be kept where it is pinned')]),
    ).toEqual([[patina.id, true]]);
  });

  it('does not plan what is on hold for good, plans what is on hold until a day from that day', () => {
    const [first, second] = shop.pieces as [Shop['pieces'][number], Shop['pieces'][number]];
    const held = applyOps(shop, [
      update('pieces', first.id, { state: 'hold', holdReason: 'x' }),
      update('pieces', second.id, { state: 'hold', holdReason: 'y', holdUntil: '2027-04-05' }),
    ]);
    const plan = planned(held);
    const own = (piece: string) => held.steps.filter((step) => step.carrierId === piece).map((step) => plan.at(step));
    expect(own(first.id).every((step) => step === undefined)).toBeTrue();
    expect(Math.min(...own(second.id).map(({ start }) => start))).toBeGreaterThanOrEqual(35 * 1440);
  });

  it('gives a plan also where something is set for the end of days, or must be done in one go in hours that are too short', () => {
    const [first] = shop.pieces;
    const far = applyOps(change(shop, openStep(shop, 'patina'), { pinKind: 'at', pinAt: '9999-01-01T00:00:00.000Z' }), [
      update('pieces', first!.id, { state: 'hold', holdReason: 'x', holdUntil: '9999-12-31' }),
    ]);
    expect(planned(far).steps.length).toBeGreaterThan(0);
    const short = DEFAULT_CALENDARS.map((calendar) =>
      calendar.name === 'Pour days' ? { ...calendar, weekly: [{ day: 4, from: '09:00', to: '09:10' }] } : calendar,
    );
    const plan = planShop(snapshot(shop, START, { calendars: short }));
    expect(plan.schedule.status).toBe('feasible');
    const tooLong = plan.notes.filter(({ cause }) => cause === 'hours');
    expect(tooLong.length).toBe(4);
    expect(tooLong[0]!.text).toContain('takes 30 min in one go');
  });

  it('uses the shop’s own times at once', () => {
    const own = { ...shop, routeTimes: { 'make-mould': { minutes: 60, minWait: 0 }, coat: { maxWait: null } } };
    const plan = planned(own);
    expect(plan.at(openStep(shop, 'make-mould')).end).toBe(540);
    expect(Math.min(...shop.steps.filter(({ kind }) => kind === 'pull').map((step) => plan.at(step).start))).toBe(540);
  });

  it('plans as late as needed when pour days are far away, and notes what cannot be kept', () => {
    // A block must be poured within 12 h of its burnout; the kiln may only be lit on Mondays, metal flows on Thursdays.
    const block = smallShop({ work: { method: 'block' }, sections: [{ method: 'block' }] }, newId);
    const mondays = DEFAULT_CALENDARS.map((calendar) =>
      calendar.name === 'Kiln may be lit'
        ? { ...calendar, weekly: [{ day: 1, from: '08:00', to: '09:00' }] }
        : calendar,
    );
    const plan = planShop(snapshot(block, START, { calendars: mondays }));
    expect(plan.schedule.status).toBe('feasible');
    expect(plan.notes.map(({ text }) => text)).toEqual([jasmine.stringContaining('cannot be done in time after')]);
  });

  it('says once for a tree that its coats come too late, not once a coat', () => {
    // The shell room opens on Mondays for an hour: nothing follows within the 72 h that a coat may wait.
    const shop = smallShop({}, newId);
    const mondays = DEFAULT_CALENDARS.map((calendar) =>
      calendar.name === 'Shell room' ? { ...calendar, weekly: [{ day: 1, from: '08:00', to: '09:00' }] } : calendar,
    );
    const plan = planShop(snapshot(shop, START, { calendars: mondays }));
    expect(plan.schedule.status).toBe('feasible');
    const coats = shop.steps.filter(({ kind }) => kind === 'coat').length;
    // Every coat after the first; the first follows the joining within its fourteen days.
    expect(plan.notes.filter(({ cause }) => cause === 'wait').map(({ text }) => text)).toEqual([
      `T-0 (OTT 1): ${coats - 1} steps come later than their waits allow, first dip coat 2 of ${coats}`,
    ]);
  });

  it('counts pulls against the life of a mould: the next one is planned for those beyond it, and it says by when', () => {
    const four = playThrough(smallShop({ pieces: 4 }, newId), ['make-mould'], newId);
    const [mould] = four.moulds;
    const made = four.steps.find(({ kind }) => kind === 'make-mould')!;
    const worn = applyOps(four, [update('moulds', mould!.id, { lifePulls: 3, pullsBefore: 1 })]);
    const now = addMinutes(made.endedAt!, 60);
    const { problem, schedule, notes, at } = planned(worn, now);
    const pulls = worn.steps.filter(({ kind }) => kind === 'pull');
    const remake = schedule.tasks.find(({ id }) => id === `remake:${mould!.id}`)!;
    // Two of four are left: the other two wait until the next mould is made, 120 + 120 min and 3 coats on 0.16 m² at
    // 90 min/m², and has cured for a day.
    expect(problem.tasks.find(({ id }) => id === remake.id)!.duration).toBe(283);
    const [, , third, fourth] = pulls.map((step) => at(step).start);
    expect([third! >= remake.end + 1440, fourth! >= remake.end + 1440]).toEqual([true, true]);
    expect(notes.map(({ cause, text }) => [cause, inWords(text)])).toEqual([
      ['mould', jasmine.stringMatching(/Mould M-\d+ has no pull left for .* 3\/4, about .*: make the next by /)],
    ]);
    // With another in the making nothing more is planned.
    const making = applyOps(worn, [insert('moulds', { ...mould!, id: newId(), state: 'making', lifePulls: null })]);
    expect(planned(making, now).notes).toEqual([]);
  });

  it('learns hours from what was logged: the median of actual by estimate, three records weighing as much as the estimate', () => {
    const single = smallShop({ pieces: 3 }, newId);
    const chases = single.steps.filter(({ kind }) => kind === 'chase-metal');
    const estimate = buildProblem(snapshot(single))
      .problem.tasks.filter(({ id }) => stepIdOf(id) === chases[2]!.id)
      .reduce((sum, { duration }) => sum + duration, 0);
    const logged = applyOps(
      single,
      chases
        .slice(0, 2)
        .map(({ id }) =>
          update('steps', id, { state: 'done', endedAt: START, readings: { hours: (2 * estimate) / 60 } }),
        ),
    );
    const learned = learnedHours(indexShop(logged)).get('chase-metal')!;
    // Twice as long both times: 2 ^ (2 / 5).
    expect([learned.n, Number(learned.factor.toFixed(6))]).toEqual([2, Number((2 ** 0.4).toFixed(6))]);
    const planned = buildProblem(snapshot(logged))
      .problem.tasks.filter(({ id }) => stepIdOf(id) === chases[2]!.id)
      .reduce((sum, { duration }) => sum + duration, 0);
    expect(planned).toBe(Math.round(estimate * 2 ** 0.4));
  });

  it('always gives a plan, whatever was done however late', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const ids = counter(`s${seed}`);
      let now = smallShop({ pieces: 3, sections: [{}, { deep: true }] }, ids);
      let at = START;
      let dice = seed * 7919;
      const roll = (sides: number) => (dice = (dice * 48_271) % 2_147_483_647) % sides;
      for (let i = 0; i < 60; i++) {
        const able = [...standings(indexShop(now)).values()].filter(({ waitsFor }) => waitsFor.length === 0);
        if (able.length === 0) break;
        const { step } = able[roll(able.length)]!;
        const { outcomes } = kindOf(step.kind);
        at = addMinutes(at, 30 + roll(6000));
        now = play(now, step, ids, {
          at,
          note: 'x',
          outcome: outcomes[roll(6) === 0 ? roll(outcomes.length) : 0]!.code,
        });
      }
      const plan = planShop(snapshot(now, addMinutes(at, 5000)));
      expect(plan.schedule.status)
        .withContext(`${seed} ${JSON.stringify(plan.schedule.messages)}`)
        .toBe('feasible');
    }
  });
});
