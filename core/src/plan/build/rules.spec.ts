// Rules of a shop's plan on shops so small that the answer is known.
import type { Person } from '../../records/people.ts';
import { DEFAULT_RESOURCES } from '../../records/plan.ts';
import { DEFAULT_SETTINGS } from '../../records/settings.ts';
import type { Slurry } from '../../records/coat-plan.ts';
import type { Shop } from '../../records/shop.ts';
import type { TankStand } from '../../records/tanks.ts';
import { applyOps, update } from '../../records/shop.ts';
import { isOpen } from '../../records/step.ts';
import { indexShop } from '../../shop/index-shop.ts';
import { pinSteps } from '../../shop/pin-step.ts';
import { inWords } from '../../units/words.ts';
import { INES, doingBy } from '../../testing/doing.ts';
import { MIDNIGHT, snapshot } from '../../testing/plan-snapshot.ts';
import { START, counter, openStep, play, playThrough, smallShop } from '../../testing/play.ts';
import { addMinutes, fromMs } from '../../units/instant.ts';
import { pieceEnds } from './draft-plan.ts';
import { planShop } from './shop-plan.ts';
import { treeFigures } from '../../shop/tree-figures.ts';
import { checkSchedule } from '../check.ts';
import { reachOf } from './reach.ts';
import { endOfWorkingDays, workingDaysAfter } from './working-days.ts';

const DAY = 1440;
const at = (minute: number) => fromMs(MIDNIGHT + minute * 60_000);

/** The first open step of each carrier of a kind. */
const stepsOf = (shop: Shop, kind: string) => shop.steps.filter((step) => step.kind === kind && isOpen(step));

function planned(shop: Shop, now = START, rest: Parameters<typeof snapshot>[2] = {}) {
  const plan = planShop(snapshot(shop, now, rest));
  expect(plan.schedule.status).withContext(JSON.stringify(plan.schedule.messages)).toBe('feasible');
  return { ...plan, of: (stepId: string) => plan.steps.find((step) => step.stepId === stepId)! };
}

describe('working days', () => {
  const hours = snapshot(smallShop({}, counter()));

  it('are those on which some room is open: the shell room works on Saturday, nobody on Sunday', () => {
    // Today is Monday, minute 0 its 00:00.
    expect([0, 1, 2, 6, 7].map((count) => endOfWorkingDays(hours, count))).toEqual([0, DAY, 2 * DAY, 6 * DAY, 8 * DAY]);
    const closed = { ...hours, calendars: hours.calendars.map((each) => ({ ...each, closed: ['2027-03-02'] })) };
    expect(endOfWorkingDays(closed, 2)).toBe(3 * DAY);
  });

  it('a decision is expected at the same hour of the next one; from a Sunday of the one after Monday', () => {
    expect(workingDaysAfter(hours, 600, 1)).toBe(DAY + 600);
    expect(workingDaysAfter(hours, 5 * DAY + 600, 1)).toBe(7 * DAY + 600);
    expect(workingDaysAfter(hours, 6 * DAY + 600, 1)).toBe(8 * DAY);
    expect(workingDaysAfter(hours, 600, 0)).toBe(600);
  });
});

describe('what is undecided', () => {
  it('is planned from when a decision can be expected, and its piece says that its dates assume it', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 2 }, newId);
    const before = playThrough(shop, ['make-mould', 'pull'], newId);
    const chase = openStep(before, 'chase-wax');
    // Twice the wax that was planned: outside its band, mend or leave it.
    const thick = play(before, chase, newId, { at: addMinutes(START, 10 * DAY), readings: { waxKg: 1.5 } });
    const now = addMinutes(START, 10 * DAY + 60);
    const minute = 10 * DAY + 540;
    const join = stepsOf(thick, 'join-tree').find((step) =>
      thick.treeCasts.some(({ treeId, castId }) => treeId === step.carrierId && castId === chase.carrierId),
    )!;
    const next = (decisionDays: number) => planned(thick, now, { settings: { ...DEFAULT_SETTINGS, decisionDays } });
    // Thursday 09:00 and one working day.
    expect(next(1).of(join.id).start).toBe(minute + DAY);
    expect(next(0).of(join.id).start).toBe(minute);
    const [first, second] = thick.pieces;
    expect([first!, second!].map(({ id }) => next(1).undecided.pieces.has(id))).toEqual([true, false]);
  });

  it('holds the dips in a tank that is blocked, and those in no other', () => {
    const newId = counter();
    const shop = playThrough(smallShop({ pieces: 1 }, newId), ['make-mould', 'pull', 'chase-wax', 'join-tree'], newId);
    const now = addMinutes(START, 30 * DAY);
    const stand = (slurry: Slurry, blockedSince: string | null): TankStand => ({
      ...{ tankId: slurry, name: slurry, slurry, blockedSince },
      ...{ doubtFrom: null, why: null, nextCheckAt: null },
    });
    const first = (tanks: readonly TankStand[]) => {
      const plan = planned({ ...shop, coatPlans: DEFAULT_SETTINGS.coatPlans, tanks }, now);
      return [plan.of(stepsOf(shop, 'coat')[0]!.id).start, plan.undecided.pieces.size] as const;
    };
    // The first coat is of the face slurry; later ones of the other hold the dates all the same.
    const [free] = first([]);
    expect(first([stand('backup', now)])).toEqual([free, 1]);
    expect(first([stand('face', null)])).toEqual([free, 0]);
    expect(first([stand('face', now)])).toEqual([free + DAY, 1]);
  });
});

describe('fires that share what there is', () => {
  it('a heat takes as many trees as the pit has places for', () => {
    const shop = smallShop({ pieces: 3 }, counter());
    const loads = (pitPlaces: number) => {
      const plan = planned(shop, START, { settings: { ...DEFAULT_SETTINGS, pitPlaces } });
      const heats = new Map<string, number>();
      for (const { id } of stepsOf(shop, 'pour')) heats.set(plan.of(id).load!, (heats.get(plan.of(id).load!) ?? 0) + 1);
      return Math.max(...heats.values());
    };
    // Three trees of some 8 kg are ready for one pour day, and go into one crucible of 120 kg.
    expect([loads(12), loads(1)]).toEqual([3, 1]);
  });

  it('nothing is fired in a kiln while shells soak in it, and heats of one day soak together', () => {
    const newId = counter();
    const shop = smallShop({ pieces: 4 }, newId);
    const small = { ...DEFAULT_SETTINGS, pitPlaces: 1, kilnPlaces: 1 };
    const overlaps = (preheatMinutes: number) => {
      const plan = planned(shop, START, { settings: { ...small, preheatMinutes } });
      const fires = stepsOf(shop, 'fire').map(({ id }) => plan.of(id));
      const pours = stepsOf(shop, 'pour').map(({ id }) => plan.of(id));
      const soaks = pours.map(({ start, end }) => [start - 150, end] as const);
      return {
        both: fires.filter((fire) => soaks.some(([from, to]) => fire.start < to && fire.end > from)).length,
        days: new Set(pours.map(({ start }) => Math.floor(start / DAY))).size,
      };
    };
    expect(overlaps(150).both).toBe(0);
    // Four heats of one tree: a day of soaking is no reason to pour them on four days.
    expect(overlaps(150).days).toBeLessThan(4);
  });

  it('what was poured on a Thursday is knocked out on Friday, never on the same afternoon', () => {
    const shop = smallShop({ pieces: 3 }, counter());
    const plan = planned(shop);
    const poured = new Map(stepsOf(shop, 'pour').map(({ id, carrierId }) => [carrierId, plan.of(id)]));
    for (const { id, carrierId } of stepsOf(shop, 'knock-out')) {
      const pour = poured.get(carrierId)!;
      // A tree of some 8 kg has cooled after four hours.
      expect(Math.floor(plan.of(id).start / DAY) - Math.floor(pour.start / DAY)).toBe(1);
    }
  });

  it('somebody stays at a flash kiln: it is lit so early that it is over within the day, and has no other work meanwhile', () => {
    const shop = smallShop({ pieces: 4 }, counter());
    const burning = (kilnHands: number) => {
      // One load a tree, so that one burns while another can be tested.
      const plan = planned(shop, START, { settings: { ...DEFAULT_SETTINGS, kilnHands, kilnPlaces: 1 } });
      const fires = stepsOf(shop, 'fire').map(({ id }) => plan.of(id));
      const tests = stepsOf(shop, 'leak-test').map(({ id }) => plan.of(id));
      return {
        ends: fires.map(({ end }) => end % DAY),
        beside: tests.filter((test) => fires.some((fire) => fire.start < test.end && fire.end > test.start)).length,
      };
    };
    // The burnout's hours end at 16:30; six hours of firing begin by 10:30.
    expect(Math.max(...burning(1).ends)).toBeLessThanOrEqual(16 * 60 + 30);
    expect(Math.max(...burning(0).ends)).toBeGreaterThan(16 * 60 + 30);
    expect(burning(1).beside).toBe(0);
  });

  it('no day is long enough to stay at a whole firing: it is planned all the same, and said', () => {
    const long = { ...smallShop({}, counter()), routeTimes: { fire: { minutes: 700 } } };
    const plan = planned(long, START, { settings: { ...DEFAULT_SETTINGS, kilnHands: 1 } });
    expect(plan.notes.map(({ text }) => inWords(text)).join()).toContain('stay at a whole firing');
  });

  it('heavy trees hang on a hoist one after the other, and on none while the crucible hangs on it', () => {
    const shop = smallShop({ pieces: 3 }, counter());
    const atOnce = (hoists: number, hoistFromKg: number) => {
      const settings = { ...DEFAULT_SETTINGS, hoists, hoistFromKg };
      const resources = DEFAULT_RESOURCES.map((each) => (each.kind === 'people' ? { ...each, count: 4 } : each));
      const plan = planned(shop, START, { settings, resources });
      const lifted = [...stepsOf(shop, 'coat'), ...stepsOf(shop, 'knock-out')].map(({ id }) => plan.of(id));
      const heats = stepsOf(shop, 'pour').map(({ id }) => ({ start: plan.of(id).start - 60, end: plan.of(id).end }));
      const beside = (one: { start: number; end: number }, others: readonly { start: number; end: number }[]) =>
        others.filter((other) => other.start < one.end && other.end > one.start).length;
      return Math.max(...lifted.map((one) => beside(one, lifted) + Math.min(1, beside(one, heats))));
    };
    // Each tree of some 3 kg counts as heavy; then none does.
    expect([atOnce(1, 1), atOnce(1, 5000)]).toEqual([1, 3]);
  });

  it('with a second kiln it fires beside the soak', () => {
    const two = DEFAULT_RESOURCES.map((each) => (each.kind === 'kiln' ? { ...each, count: 2 } : each));
    const shop = smallShop({ pieces: 2 }, counter());
    const { problem } = planned(shop, START, { resources: two });
    const inUse = problem.resources.find(({ id }) => id === 'kilns in use')!;
    expect(inUse.capacity).toBe(2);
  });
});

describe('the dips of a day', () => {
  it('begin at the face tank, small trees before large, and keep all their waits', () => {
    const newId = counter();
    const heavy = smallShop(
      { work: { code: 'BIG' }, pieces: 3, sections: [{ areaCm2: 9000, expectedWaxKg: 6 }] },
      newId,
    );
    const both = smallShop({ pieces: 3, sections: [{ areaCm2: 900, expectedWaxKg: 0.4 }] }, newId, heavy);
    // All trees are joined; half of them have had three coats.
    const joined = playThrough(both, Array(2).fill('make-mould'), newId);
    const waxes = ['pull', 'chase-wax', 'join-tree'].flatMap((kind) => Array<string>(6).fill(kind));
    const made = playThrough(joined, waxes, newId);
    const at = (day: number) => addMinutes(START, (made.steps.length + 40 + day) * DAY);
    const coated = made.trees.filter((_, i) => i % 2 === 0).flatMap(({ id }) => [0, 1, 2].map((day) => ({ id, day })));
    const shop = coated.reduce(
      (before, { id, day }) => play(before, openStep(before, 'coat', id), newId, { at: at(day) }),
      made,
    );
    const now = shop.steps.reduce((last, { endedAt }) => (endedAt && endedAt > last ? endedAt : last), START);
    const plan = planned(shop, now);
    expect(checkSchedule(plan.problem, plan.schedule)).toEqual([]);
    const dips = stepsOf(shop, 'coat')
      .map((step) => ({ ...step, start: plan.of(step.id).start }))
      .sort((a, b) => a.start - b.start);
    const weight = (treeId: string) => treeFigures(indexShop(shop), treeId, 25).dipping!.weight.value;
    // The first dip of each tree waits for nothing any more: those are in the whole order, two hands side by side.
    const rounds = shop.trees.map(({ id }) => dips.find(({ carrierId }) => carrierId === id)!);
    const ranks = rounds
      .map(({ start, sequence, carrierId }) => ({ start, rank: (sequence <= 2 ? 0 : 1000) + weight(carrierId) }))
      .sort((a, b) => a.start - b.start || a.rank - b.rank)
      .map(({ rank }) => rank);
    expect(new Set(rounds.map(({ start }) => Math.floor(start / DAY))).size).toBe(1);
    expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
  });
});

describe('a priority', () => {
  it('says who waits where two pieces of one due date want the same hands', () => {
    const grown = smallShop({ pieces: 2, sections: [{ areaCm2: 4000, expectedWaxKg: 3 }] }, counter());
    const one = DEFAULT_RESOURCES.map((each) => (each.kind === 'people' ? { ...each, count: 1 } : each));
    const firstOut = (place: number) => {
      const shop = applyOps(
        grown,
        grown.pieces.map(({ id }, i) =>
          update('pieces', id, { dueDate: '2027-03-05', priority: i === place ? 'first' : 'last' }),
        ),
      );
      const plan = planShop(snapshot(shop, START, { resources: one }), { iterations: 300 });
      const ends = shop.pieces.map((piece) => pieceEnds({ plan }).get(piece.id)!);
      return ends.indexOf(Math.min(...ends));
    };
    expect([firstOut(0), firstOut(1)]).toEqual([0, 1]);
  });
});

describe('what only some can do', () => {
  const newId = counter();
  const shop = smallShop({ pieces: 3, sections: [{}, { seamM: 0.5 }] }, newId);
  const joins = stepsOf(shop, 'join-section').map(({ id }) => id);
  const welder = (id: string): Person => ({ ...INES, id, skills: ['weld'] });
  /** How many are joined at once at most. */
  const atOnce = (people: readonly Person[]) => {
    const plan = planned(shop, START, { people });
    const spans = joins.map((id) => plan.of(id));
    return Math.max(
      ...spans.map(({ start }) => spans.filter((other) => other.start <= start && start < other.end).length),
    );
  };

  it('is done by as many as can, and by whoever is there where nobody said who', () => {
    // Three hands in the metal shop; three pieces are poured on one day.
    expect([atOnce([INES]), atOnce([welder('a'), INES]), atOnce([welder('a'), welder('b')])]).toEqual([3, 1, 2]);
    // Somebody who left welds no more.
    expect(atOnce([welder('a'), { ...welder('b'), active: false }])).toBe(1);
  });

  it('waits for the one who is off', () => {
    const off = (personId: string | null) =>
      planned(shop, START, {
        people: [welder('a'), INES],
        staffing: [
          {
            id: 's',
            resourceId: DEFAULT_RESOURCES.find(({ kind, room }) => kind === 'people' && room === 'chasing')!.id,
            more: -1,
            from: '2027-03-01',
            to: '2027-04-18',
            why: '',
            personId,
            version: 1,
          },
        ],
      });
    const first = (plan: ReturnType<typeof planned>) => Math.min(...joins.map((id) => plan.of(id).start));
    // Back on Monday the 19th of April, 49 days on.
    expect(first(off('a'))).toBeGreaterThanOrEqual(49 * DAY);
    expect(first(off(null))).toBeLessThan(49 * DAY);
    expect(first(off(INES.id))).toBeLessThan(49 * DAY);
  });
});

describe('a hold of shells half dipped', () => {
  it('dips on to the seal coat where the hold says so, and nothing else', () => {
    const newId = counter();
    const shop = playThrough(smallShop({}, newId), ['make-mould', 'pull', 'chase-wax', 'join-tree', 'coat'], newId);
    const last = shop.steps.filter(({ kind, state }) => kind === 'coat' && state === 'done').at(-1)!;
    const now = addMinutes(last.endedAt!, 60);
    const held = (holdShells: 'on' | 'stop') =>
      planned(
        applyOps(shop, [
          update('pieces', shop.pieces[0]!.id, { state: 'hold', holdReason: 'x', holdUntil: null, holdShells }),
        ]),
        now,
      ).steps.map(({ stepId }) => shop.steps.find(({ id }) => id === stepId)!.kind);
    expect(held('stop')).toEqual([]);
    expect(new Set(held('on'))).toEqual(new Set(['coat']));
  });
});

describe('moving what is planned', () => {
  const newId = counter();
  const shop = playThrough(smallShop({ pieces: 2 }, newId), ['make-mould'], newId);
  const index = indexShop(shop);
  const made = shop.steps.find(({ kind }) => kind === 'make-mould')!;
  const now = addMinutes(made.endedAt!, 60);

  it('says what it cannot begin before, and by when it ends so that nothing behind it moves', () => {
    const plan = planned(shop, now);
    const dates = new Map(
      plan.steps.map(({ stepId, start, end }) => [stepId, { startsAt: at(start), endsAt: at(end) }]),
    );
    const [pull] = stepsOf(shop, 'pull');
    const chase = stepsOf(shop, 'chase-wax').find(({ carrierId }) => carrierId === pull!.carrierId)!;
    const reach = reachOf(index, [pull!], dates);
    // Rubber cures for a day; an hour in the mould passes before the wax is chased.
    expect(reach.notBefore).toEqual({ at: addMinutes(made.endedAt!, DAY), because: jasmine.anything() });
    expect(inWords(reach.notBefore!.because)).toMatch(/^Make mould · .* and its wait$/);
    expect(reach.endBy!.at).toBe(addMinutes(dates.get(chase.id)!.startsAt, -60));
    // A chased wax is joined within thirty days.
    const join = stepsOf(shop, 'join-tree')[0]!;
    expect(reachOf(index, [join], dates).tooOldAt).not.toBeNull();
  });

  it('pins several together or none of them', () => {
    const [one, other] = stepsOf(shop, 'pull');
    const later = { kind: 'at' as const, at: addMinutes(now, 3 * DAY) };
    const act = pinSteps(
      index,
      [
        { step: one!, pin: later },
        { step: other!, pin: later },
      ],
      doingBy(newId, { now }),
    );
    expect(act.ops.length).toBe(2);
    expect(inWords(act.tell(index).event.text)).toContain('of 2 together: pinned at');
    const past = { kind: 'at' as const, at: addMinutes(now, -DAY) };
    const refused = pinSteps(
      index,
      [
        { step: one!, pin: later },
        { step: other!, pin: past },
      ],
      doingBy(newId, { now }),
    );
    expect([refused.ops.length, refused.fields]).toEqual([0, { at: 'lies behind us' }]);
  });
});
