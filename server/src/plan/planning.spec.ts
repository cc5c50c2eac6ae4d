import { inWords } from '@kalvet/core';
import type { DayAnswer, PlanAnswer, PlanningAnswer, Resource, SaveCalendar } from '@kalvet/core';
import { DEFAULT_CALENDARS } from '@kalvet/core';
import { TestShop, section } from '../testing/shop.ts';
import { Replanner } from './replanner.ts';
import { compareProjections } from '../shop/project.ts';
import { WallClock } from './wall-clock.ts';

const kept = ({ id, version, count, calendarId, setupMinutes }: Resource) => ({
  id,
  version,
  count,
  calendarId,
  setupMinutes,
});

describe('wall-clock minutes', () => {
  it('begin a day at its first minute where the clocks change at midnight', () => {
    // Santiago puts its clocks forward at 00:00 on 5 September 2027: that day begins at 01:00, which is 04:00 UTC.
    const clock = new WallClock('2027-09-03T15:00:00.000Z', 'America/Santiago');
    expect(clock.minuteOf('2027-09-05T11:00:00.000Z')).toBe(2 * 1440 + 480);
    expect(clock.instantOf(2 * 1440 + 480)).toBe('2027-09-05T11:00:00.000Z');
    expect(clock.instantOf(3 * 1440 + 480)).toBe('2027-09-06T11:00:00.000Z');
  });

  it('count every day as 1440 minutes, also where the clocks change', () => {
    // In London the clocks go forward on 2027-03-28 and back on 2027-10-31.
    const clock = new WallClock('2027-03-26T10:00:00.000Z', 'Europe/London');
    expect(clock.startDay).toBe('2027-03-26');
    expect(clock.minuteOf('2027-03-29T07:00:00.000Z')).toBe(3 * 1440 + 480);
    expect(clock.instantOf(3 * 1440 + 480)).toBe('2027-03-29T07:00:00.000Z');
    expect(clock.instantOf(2 * 1440 + 600)).toBe('2027-03-28T09:00:00.000Z');
    expect(clock.minuteOf('2027-03-25T23:30:00.000Z')).toBe(-30);
    for (const minute of [0, 480, 1439, 4000, 100_000]) expect(clock.minuteOf(clock.instantOf(minute))).toBe(minute);
  });
});

describe('dates in the shop', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  const planPage = () => shop.get<PlanAnswer>('/api/plan');

  it('come with a plan, stay when a step is recorded, and say how many changes were made since', async () => {
    const { pieceIds } = await shop.setUp({ editionSize: 2, dueDate: '2027-03-20' });
    expect((await shop.floor()).plan).toEqual(jasmine.objectContaining({ planId: null, madeAt: null }));
    const made = await shop.plan();
    expect(made.status).toBe('feasible');
    await shop.makeMould(pieceIds[0]!);
    const { piece, plan, pieceSteps } = await shop.piece(pieceIds[0]!);
    expect(plan).toEqual(jasmine.objectContaining({ planId: made.planId, changesSince: 1, failed: null }));
    // Monday to Tuesday the mould; a wax, a tree, seven coats at 4 h; pours on Thursdays only: after 20 March.
    expect(piece.plannedFinish! > '2027-03-15').toBeTrue();
    // The first pour day after the shell is dry is 11 March; chasing, patina and packing follow within two weeks.
    expect(piece.plannedFinish!.slice(0, 7)).toBe('2027-03');
    expect(piece.lateDays).toBe(Math.max(0, Number(piece.plannedFinish!.slice(8, 10)) - 20));
    expect(pieceSteps.at(-1)!.plannedEnd).toBe(piece.plannedFinish);
    // With its chances: nothing starts sooner than planned, and a lost cast in ten makes the last of them late by weeks.
    const { evenAt, ninetyAt } = piece.likely!;
    expect(evenAt <= ninetyAt && ninetyAt > piece.plannedFinish!).toBeTrue();
    const row = (await planPage()).rows.find(({ pieceId }) => pieceId === piece.id)!;
    expect(row.likely).toEqual(piece.likely);
    await shop.plan();
    const again = await shop.piece(pieceIds[0]!);
    expect(again.plan.changesSince).toBe(0);
    expect(again.plan.planId).not.toBe(made.planId);
    // The one before stays readable, and no step was changed by planning.
    const [rows] = await shop.store.db.query('SELECT state FROM plan ORDER BY madeAt, id');
    expect((rows as { state: string }[]).map(({ state }) => state)).toEqual(['superseded', 'current']);
    expect(again.pieceSteps.every(({ version }) => version === 1)).toBeTrue();
  });

  it('count with what was logged, and Settings say it with the number of records', async () => {
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'chase-metal');
    const chase = await shop.open(pieceIds[0]!, 'chase-metal');
    await shop.must(shop.record(chase, 'done', { hours: 12 }));
    await shop.plan();
    const { kinds } = await shop.get<PlanningAnswer>('/api/planning');
    const of = (code: string) => kinds.find(({ kind }) => kind === code)!;
    expect(of('chase-metal').learned).toEqual({ n: 1, factor: jasmine.any(Number) });
    // More than estimated, and one record counts a quarter.
    expect(of('chase-metal').learned!.factor).toBeGreaterThan(1);
    expect([of('patina').bySize, of('patina').learned, of('coat').bySize]).toEqual([true, null, false]);
  });

  it('put trees into loads and heats on pour days, and make a piece late when there is none', async () => {
    await shop.setUp({ dueDate: '2027-04-30', sections: [section('Front'), section('Back', { seamM: 0.5 })] });
    await shop.plan();
    const plan = await planPage();
    const heats = plan.loads.filter(({ kind }) => kind === 'heat').map(({ startsAt }) => startsAt);
    // Two sections of one work in one crucible, or one after the other: on Thursdays.
    expect(heats.length).toBeGreaterThan(0);
    expect(heats.map((startsAt) => new Date(startsAt).getUTCDay())).toEqual(heats.map(() => 4));
    expect(plan.rows[0]!.lateDays).toBe(0);
    const pour = (await shop.get<PlanningAnswer>('/api/planning')).calendars.find(({ name }) => name === 'Pour days')!;
    const save = (given: Partial<SaveCalendar>) => {
      const { id, name, version, always, weekly, closed, extra } = { ...pour, ...given };
      return shop.send('post', '/api/calendars', { id, name, version, always, weekly, closed, extra });
    };
    // Every Thursday up to May is closed: metal flows after the due date, until a day is put in.
    const thursdays = Array.from({ length: 10 }, (_, week) =>
      new Date(Date.UTC(2027, 2, 4 + 7 * week)).toISOString().slice(0, 10),
    );
    await shop.must(save({ closed: thursdays }));
    await shop.plan();
    expect((await planPage()).rows[0]!.lateDays).toBeGreaterThan(0);
    await shop.must(
      save({
        version: pour.version + 1,
        closed: thursdays,
        extra: [{ date: '2027-03-23', from: '09:00', to: '16:00' }],
      }),
    );
    await shop.plan();
    const saved = await planPage();
    expect(saved.rows[0]!.lateDays).toBe(0);
    expect(saved.pourDays).toContain('2027-03-23');
  });

  it('refuse hours that are never open, and times that fit into none', async () => {
    const [hours] = DEFAULT_CALENDARS;
    const never = { ...hours!, weekly: [] };
    const answer = await shop.send('post', '/api/calendars', never);
    expect([answer.status, answer.body.error.fields.weekly]).toEqual([
      400,
      jasmine.stringContaining('would never be open'),
    ]);
    const short = { ...DEFAULT_CALENDARS[1]!, weekly: [{ day: 1, from: '08:00', to: '08:09' }] };
    const coat = await shop.send('post', '/api/calendars', short);
    expect(coat.body.error.fields.weekly).toContain('Dip coat takes 10 min without a break');
    const back = { ...hours!, weekly: [{ day: 1, from: '12:00', to: '08:00' }] };
    expect((await shop.send('post', '/api/calendars', back)).status).toBe(400);
    const long = { version: 0, times: { coat: { minutes: 600 } } };
    expect((await shop.send('put', '/api/settings', long)).body.error.fields['times.coat.minutes']).toContain(
      'at most',
    );
    // A coat that waits a year: no plan of this shop reaches so far.
    const year = { version: 0, times: { coat: { minWait: 365 * 1440 } } };
    const refused = await shop.send('put', '/api/settings', year);
    expect([refused.status, refused.body.error.fields['times.coat.minWait']]).toEqual([400, 'must be at most 262080']);
    const crossed = { version: 0, times: { coat: { minWait: 600, maxWait: 60 } } };
    expect((await shop.send('put', '/api/settings', crossed)).status).toBe(400);
    expect((await shop.get<PlanningAnswer>('/api/planning')).settings.routeTimes).toEqual({});
  });

  it('use the shop’s own times at once, for what is ready and for what is planned', async () => {
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    const pull = await shop.open(pieceIds[0]!, 'pull');
    await shop.must(shop.done(pull.id));
    const before = (await shop.piece(pieceIds[0]!)).piece.next[0]!;
    await shop.must(shop.send('put', '/api/settings', { version: 0, times: { pull: { minWait: 180 } } }));
    const after = (await shop.piece(pieceIds[0]!)).piece.next[0]!;
    expect(Date.parse(after.readyAt!) - Date.parse(before.readyAt!)).toBe(120 * 60_000);
    const stale = await shop.send('put', '/api/settings', { version: 0, times: { pull: {} } });
    expect([stale.status, stale.body.error.code]).toEqual([409, 'stale']);
  });

  it('are saved together or not at all', async () => {
    const { resources, settings } = await shop.get<PlanningAnswer>('/api/planning');
    const [first] = resources;
    const more = { ...kept(first!), count: first!.count + 1 };
    const cups = [{ name: 'own', topRadiusMm: 40, bottomRadiusMm: 20, heightMm: 70 }];
    const broken = { version: 0, resources: [more], cups, times: { coat: { minutes: 600 } } };
    expect((await shop.send('put', '/api/settings', broken)).status).toBe(400);
    const before = await shop.get<PlanningAnswer>('/api/planning');
    expect([before.resources, before.settings]).toEqual([resources, settings]);
    await shop.must(shop.send('put', '/api/settings', { ...broken, times: {}, barStock: ['S12', 'R7'] }));
    const after = await shop.get<PlanningAnswer>('/api/planning');
    expect(after.resources.find(({ id }) => id === first!.id)!.count).toBe(more.count);
    expect([after.settings.cups, after.settings.barStock]).toEqual([cups, ['S12', 'R7']]);
    const upside = { version: 1, cups: [{ ...cups[0]!, bottomRadiusMm: 50 }], barStock: ['T9'] };
    const { fields } = (await shop.send('put', '/api/settings', upside)).body.error;
    expect(Object.keys(fields).sort()).toEqual(['barStock.0', 'cups.0.bottomRadiusMm']);
  });

  it('are right in what is kept ready, however settings and records overlap', async () => {
    const { pieceIds } = await shop.setUp({ editionSize: 6 });
    await shop.makeMould(pieceIds[0]!);
    const pulls = await Promise.all(pieceIds.map((id) => shop.open(id, 'pull')));
    for (let round = 0; round < 6; round++) {
      // One writer changes how long a wax cools; the other takes a wax out of the mould at the same time.
      const minWait = 90 + 30 * round;
      const [settings] = await Promise.all([
        shop.send('put', '/api/settings', { version: round, times: { pull: { minWait } } }),
        shop.must(shop.done(pulls[round]!.id)),
      ]);
      expect(settings.status).toBe(200);
      const { stored, anew } = await compareProjections(shop.store);
      expect([...stored].filter(([id, data]) => anew.get(id) !== data))
        .withContext(`round ${round}`)
        .toEqual([]);
      shop.later(61);
    }
  }, 30_000);

  it('come from the newest change, also when the clock was set back', async () => {
    await shop.setUp();
    for (let i = 0; i < 6; i++) {
      await shop.setUp({ code: `A${i}` });
      shop.later(10);
      await shop.plan();
    }
    // Somebody sets the machine's clock back by a week: the next plan is by far the oldest by its time.
    shop.later(-7 * 1440);
    await shop.setUp({ code: 'NEW' });
    const { planId } = await shop.plan();
    expect((await shop.floor()).plan).toEqual(jasmine.objectContaining({ planId, changesSince: 0 }));
    shop.later(1);
    await shop.setUp({ code: 'NEX' });
    const next = await shop.plan();
    expect((await shop.floor()).plan.planId).toBe(next.planId);
  });

  it('keep a pin, and say when it cannot be kept', async () => {
    const { pieceIds } = await shop.setUp();
    const mould = (await shop.steps(pieceIds[0]!)).find(({ kind }) => kind === 'make-mould')!;
    const pin = (version: number, kind: string | null, at: string | null) =>
      shop.send('post', `/api/steps/${mould.id}/pin`, { version, kind, at });
    expect((await pin(1, 'at', null)).status).toBe(400);
    expect((await pin(1, 'at', '2027-02-01T10:00:00.000Z')).body.error.fields.at).toBe('lies behind us');
    await shop.must(pin(1, 'at', '2027-03-03T10:00:00.000Z'));
    await shop.plan();
    const pinned = (await shop.steps(pieceIds[0]!)).find(({ id }) => id === mould.id)!;
    expect([pinned.pinKind, pinned.plannedStart]).toEqual(['at', '2027-03-03T10:00:00.000Z']);
    await shop.must(pin(2, null, null));
    await shop.plan();
    expect((await shop.steps(pieceIds[0]!)).find(({ id }) => id === mould.id)!.plannedStart).toBe(shop.now);
  });

  it('stay where they were told when something changes elsewhere', async () => {
    const works = [await shop.setUp(), await shop.setUp({ code: 'HER' }), await shop.setUp({ code: 'MAL' })];
    await shop.plan();
    // A firing may wait for another tree: one less of them is worth a move that no date of a piece notices.
    const told = async (work: (typeof works)[number]) =>
      (await shop.steps(work.pieceIds[0]!))
        .filter(({ room }) => room !== 'burnout')
        .map(({ id, plannedStart }) => [id, plannedStart]);
    const mouldOf = async (work: (typeof works)[number]) =>
      (await shop.steps(work.pieceIds[0]!)).find(({ kind }) => kind === 'make-mould')!.plannedStart!;
    // One mould room: one of them comes first, and one last, which is not begun when the first is made.
    const moulds = await Promise.all(works.map(async (work) => ({ work, at: await mouldOf(work) })));
    const inTurn = moulds.sort((a, b) => a.at.localeCompare(b.at)).map(({ work }) => work);
    const [first, other] = [inTurn[0], inTurn.at(-1)];
    const before = await told(other!);
    expect(before.filter(([, start]) => start !== null).length).toBeGreaterThan(15);
    // Its mould is made before its time: all of it may move up, nothing of the other has to move.
    await shop.makeMould(first!.pieceIds[0]!);
    await shop.plan();
    expect(await told(other!)).toEqual(before);
  });

  it('are planned anew by themselves once changes have settled, one run at a time', async () => {
    let runs = 0;
    let most = 0;
    let running = 0;
    const replanner = new Replanner(
      shop.store,
      () => shop.now,
      async () => {
        runs++;
        most = Math.max(most, ++running);
        await shop.plan();
        running--;
      },
    );
    replanner.start();
    try {
      await shop.setUp();
      await shop.setUp({ code: 'HER' });
      const until = Date.now() + 15_000;
      while ((await shop.floor()).plan.planId === null && Date.now() < until)
        await new Promise((resolve) => setTimeout(resolve, 100));
    } finally {
      await replanner.stop();
    }
    expect((await shop.floor()).plan).toEqual(jasmine.objectContaining({ changesSince: 0, running: false }));
    expect([most, runs >= 1 && runs <= 2]).toEqual([1, true]);
  }, 30_000);

  it('keep the plan before when a run breaks off, and say so', async () => {
    await shop.setUp();
    const { planId } = await shop.plan();
    const replanner = new Replanner(
      shop.store,
      () => shop.now,
      async () => {
        throw new Error('out of memory');
      },
    );
    const said = spyOn(console, 'error');
    await shop.setUp({ code: 'HER' });
    replanner.start();
    const until = Date.now() + 10_000;
    while ((await shop.floor()).plan.failed === null && Date.now() < until)
      await new Promise((resolve) => setTimeout(resolve, 100));
    await replanner.stop();
    expect(said).toHaveBeenCalled();
    expect((await shop.floor()).plan).toEqual(
      jasmine.objectContaining({ planId, failed: jasmine.stringContaining('dates before stay') }),
    );
  }, 20_000);
});

describe('the Day sheet', () => {
  it('names what can be done, what comes later today behind it, and when to light the furnace', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'coat');
    await shop.plan();
    const day = await shop.get<DayAnswer>('/api/day');
    const dips = day.lines.filter(({ kind }) => kind === 'coat');
    expect(dips.filter(({ after }) => !after).map(({ name }) => name)).toEqual(['Dip coat 1 of 6']);
    const later = dips.filter(({ after }) => after);
    for (const dip of later) {
      expect(dip.plannedStart! < day.dayEnd).toBeTrue();
      expect(dip.waits).toEqual(['Dip coat 1 of 6']);
    }
    await shop.carry(pieceIds[0]!, 'pour');
    await shop.plan();
    const { timetable } = await shop.get<DayAnswer>('/api/day');
    const light = timetable.findIndex(({ what }) => what === 'Light the furnace');
    const pour = timetable.findIndex(({ what }) => what === 'Pour');
    expect(light).toBeGreaterThanOrEqual(0);
    expect(light).toBeLessThan(pour);
    expect(inWords(timetable[light]!.why)).toContain('kWh');
  });

  it('records a tray of dips in one go: all of them or none', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ editionSize: 3 });
    await shop.makeMould(pieceIds[0]!);
    for (const id of pieceIds) await shop.carry(id, 'coat');
    shop.later(200);
    const dips = await Promise.all(pieceIds.map((id) => shop.open(id, 'coat')));
    const body = (steps: typeof dips) => ({
      steps: steps.map(({ id, version }) => ({ id, version })),
      outcome: 'done',
      startedAt: null,
      endedAt: shop.now,
      by: [shop.person],
      readings: { slurry: 'face', stucco: 'fine' },
      note: '',
    });
    const answer = await shop.must(shop.send('post', '/api/records', body(dips)));
    expect(answer.body.stepIds.length).toBe(3);
    const second = await Promise.all(pieceIds.map((id) => shop.open(id, 'coat')));
    expect(second.map(({ sequence }) => sequence)).toEqual([2, 2, 2]);
    // One of three was dipped on; the two others are too early: nothing is recorded, each is named.
    shop.later(60);
    const refused = await shop.send('post', '/api/records', body(second));
    expect(refused.status).toBe(409);
    expect(refused.body.error.refusals.length).toBe(3);
    expect((await shop.open(pieceIds[0]!, 'coat')).sequence).toBe(2);
    const mixed = [second[0]!, (await shop.steps(pieceIds[1]!)).find(({ kind }) => kind === 'inspect')!];
    expect((await shop.send('post', '/api/records', body(mixed))).body.error.fields.steps).toContain('one kind');
    // The whole tray is taken back as one record.
    const history = (await shop.piece(pieceIds[1]!)).history[0]!;
    await shop.must(shop.send('post', `/api/changes/${history.number}/take-back`, { reason: 'wrong slurry' }));
    expect((await shop.open(pieceIds[2]!, 'coat')).sequence).toBe(1);
  });

  it('is another day’s where it is asked for', async () => {
    const shop = await TestShop.open();
    await shop.setUp();
    await shop.plan();
    expect((await shop.get<DayAnswer>('/api/day?day=2027-03-02')).day).toBe('2027-03-02');
    const { error } = (await shop.send('post', '/api/records', {})).body;
    expect(error.code).toBe('invalid');
  });
});
