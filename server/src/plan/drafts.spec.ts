import type {
  Calendar,
  DraftChange,
  DraftOutcome,
  DraftsAnswer,
  Id,
  OrdersAnswer,
  PlanAnswer,
  PlanProblem,
  PlanningAnswer,
  Resource,
  Schedule,
  WhyAnswer,
  WorkAnswer,
} from '@kalvet/core';
import { checkSchedule, inWords, planProblem } from '@kalvet/core';
import request from 'supertest';
import { TestShop, workBody } from '../testing/shop.ts';
import { compareProjections } from '../shop/project.ts';
import { makePlan } from './make-plan.ts';
import { newId } from '../write/new-id.ts';

describe('drafts of a plan', () => {
  let shop: TestShop;
  let pieceIds: Id[];
  let pourDays: Calendar;
  let metalShop: Resource;
  beforeEach(async () => {
    shop = await TestShop.open();
    ({ pieceIds } = await shop.setUp({ editionSize: 3, dueDate: '2027-05-01' }));
    await shop.plan();
    const { calendars, resources } = await planning();
    pourDays = calendars.find(({ name }) => name === 'Pour days')!;
    metalShop = resources.find(({ kind, room }) => kind === 'people' && room === 'chasing')!;
  });
  const planning = () => shop.get<PlanningAnswer>('/api/planning');
  const dates = async () =>
    new Map((await shop.get<PlanAnswer>('/api/plan')).rows.map(({ pieceId, finishesAt }) => [pieceId, finishesAt]));
  const keep = (changes: readonly DraftChange[], rest: object = {}, person = shop.person) =>
    shop.send('post', '/api/drafts', { id: newId(), version: 0, name: 'Spring', changes, ...rest }, undefined, person);
  const kept = async (changes: readonly DraftChange[]) => (await shop.must(keep(changes))).body.id as Id;
  const outcome = (id: Id) => shop.get<DraftOutcome>(`/api/drafts/${id}/outcome`);
  const take = async (id: Id, rest: object = {}, person = shop.person) =>
    shop.send('post', `/api/drafts/${id}/take`, { version: 1, ...rest }, undefined, person);
  const away = (more = -3): DraftChange => ({
    kind: 'hands',
    resourceId: metalShop.id,
    more,
    from: '2027-03-01',
    to: '2027-04-30',
    why: 'fair',
  });

  it('say what would move and who would be late, and touch nothing until they are taken', async () => {
    const before = await dates();
    const id = await kept([away()]);
    const { drafts } = await shop.get<DraftsAnswer>('/api/drafts');
    expect(drafts.map(({ name, person, words }) => [name, person, ...words.map((each) => inWords(each))])).toEqual([
      ['Spring', 'Ines Marlow', 'Metal shop: 3 fewer from 2027-03-01 to 2027-04-30 (fair)'],
    ]);
    const { feasible, pieces, lateBefore, lateAfter } = await outcome(id);
    // Nobody chases before May: all three are late that were not.
    expect([feasible, pieces.length, lateBefore, lateAfter]).toEqual([true, 3, 0, 3]);
    for (const { after, lateAfter: late } of pieces) {
      expect(after! > '2027-05-01').toBeTrue();
      expect(late).toBeGreaterThan(0);
    }
    await shop.plan();
    expect(await dates()).toEqual(before);
    expect(before.size).toBe(3);
    expect((await planning()).staffing).toEqual([]);
  });

  it('are taken over as a whole: hours, hands, moulds, due dates; the plan then says what the draft said', async () => {
    const { moulds } = await shop.get<WorkAnswer>(`/api/works/${(await shop.floor()).works[0]!.id}`);
    const id = await kept([
      away(),
      { kind: 'closed day', calendarId: pourDays.id, date: '2027-03-18' },
      { kind: 'mould', mouldId: moulds[0]!.id },
      { kind: 'due', pieceId: pieceIds[1]!, dueDate: '2027-08-01' },
      { kind: 'priority', pieceId: pieceIds[1]!, priority: 'first' },
      { kind: 'hold', pieceId: pieceIds[2]!, until: '2027-05-03', shells: 'stop' },
    ]);
    const drafted = await outcome(id);
    expect(drafted.faults).toEqual([]);
    expect((await take(id, { basis: drafted.basis })).status).toBe(200);
    const { staffing, calendars } = await planning();
    expect(staffing.map(({ more, from, to, why }) => [more, from, to, why])).toEqual([
      [-3, '2027-03-01', '2027-04-30', 'fair'],
    ]);
    expect(calendars.find(({ id: of }) => of === pourDays.id)!.closed).toEqual(['2027-03-18']);
    const held = (await shop.piece(pieceIds[2]!)).piece;
    expect([held.state, held.holdReason]).toEqual(['hold', 'Spring']);
    // One change of a piece leaves what another has set.
    const { dueDate, priority } = (await shop.piece(pieceIds[1]!)).piece;
    expect([dueDate, priority]).toEqual(['2027-08-01', 'first']);
    // With the tries of a draft: more of them may find an hour or more.
    await makePlan(shop.store, shop.now, { effort: 1 / 15 });
    const day = (instant: string | null | undefined) => instant?.slice(0, 10);
    const planned = await dates();
    for (const { pieceId, after } of drafted.pieces) expect(day(planned.get(pieceId))).toBe(day(after));
    // What is kept ready beside the records is as the records are now.
    const { stored, anew } = await compareProjections(shop.store);
    expect([...stored].filter(([of, data]) => anew.get(of) !== data)).toEqual([]);
    expect((await shop.get<DraftsAnswer>('/api/drafts')).drafts).toEqual([]);
    expect((await take(id, { version: 2, basis: drafted.basis })).body.error.message).toContain('taken over already');
  });

  it('tell the second of two who plan at once, and write nothing then', async () => {
    const one = await kept([away()]);
    const other = await kept([away(-1)]);
    const { basis } = await outcome(one);
    const { basis: sameBasis } = await outcome(other);
    await shop.must(take(one, { basis }));
    const second = await take(other, { basis: sameBasis });
    expect([second.status, second.body.error.code]).toEqual([409, 'stale']);
    expect(second.body.error.message).toContain('“Spring” taken over');
    expect((await planning()).staffing.length).toBe(1);
    expect((await take(other, { basis: (await outcome(other)).basis })).status).toBe(200);
  });

  it('are made as a whole or not at all, and say which line cannot be made', async () => {
    const [cast] = (await shop.piece(pieceIds[0]!)).lanes[0]!.attempts;
    const id = await kept([away(), { kind: 'lost cast', castId: cast!.castId }]);
    const { faults, basis } = await outcome(id);
    expect(faults.map(({ place, text }) => [place, inWords(text)])).toEqual([
      [1, jasmine.stringMatching('nothing to lose')],
    ]);
    const refused = await take(id, { basis });
    expect(refused.body.error.fields).toEqual({ 'changes.1': jasmine.stringMatching('a loss is recorded where') });
    expect((await planning()).staffing).toEqual([]);
  });

  it('an enquiry has a date with its chances, and becomes a work and an order', async () => {
    const work = workBody({ code: 'ASK', title: 'Harbour Seal', editionSize: 2, dueDate: '2027-07-01' });
    const id = await kept([{ kind: 'enquiry', work }]);
    const { basis, pieces } = await outcome(id);
    const fresh = pieces.filter(({ isNew }) => isNew);
    expect(fresh.map(({ label }) => label)).toEqual(['Harbour Seal 1/2', 'Harbour Seal 2/2']);
    for (const { after, likely } of fresh) expect(likely!.ninetyAt >= after!).toBeTrue();
    const client = { id: newId(), version: 0, name: 'Hollow Quay Gallery', contact: '' };
    await shop.must(shop.send('post', '/api/clients', client));
    const order = { id: newId(), clientId: client.id, title: 'Two seals', dueDate: '2027-07-01' };
    // A new client moves no date: what was worked out still counts.
    await shop.must(take(id, { basis, order }));
    const { orders } = await shop.get<OrdersAnswer>('/api/orders');
    expect(orders.map(({ title, client: of, dueDate, pieces: all }) => [title, of, dueDate, all.length])).toEqual([
      ['Two seals', 'Hollow Quay Gallery', '2027-07-01', 2],
    ]);
    await shop.plan();
    // The three that were there, and two seals.
    expect((await dates()).size).toBe(5);
  });

  it('take a change of its kind only, from those who plan', async () => {
    const faults = async (change: object) =>
      Object.keys((await keep([change as DraftChange])).body.error.fields as object);
    expect(await faults({ kind: 'more money' })).toEqual(['changes.0']);
    expect(await faults({ ...away(), more: 0 })).toEqual(['changes.0.more']);
    expect(await faults({ ...away(), from: '2027-05-02' })).toEqual(['changes.0']);
    expect(await faults({ kind: 'count', resourceId: metalShop.id, count: 0 })).toEqual(['changes.0.count']);
    const lead = await shop.addPerson('Petra Lund', 'PL', { roles: ['lead'], rooms: ['wax'] });
    const mine = await shop.must(keep([away()], {}, lead));
    expect((await take(mine.body.id as Id, { basis: 0 }, lead)).status).toBe(403);
    const drop = await shop.send('post', `/api/drafts/${mine.body.id}/drop`, { version: 1 }, undefined, lead);
    expect(drop.status).toBe(200);
    expect((await shop.get<DraftsAnswer>('/api/drafts')).drafts).toEqual([]);
  });

  it('hands that are away are entered and taken away again in the settings', async () => {
    const { kind: _, ...fields } = away(-1) as Extract<DraftChange, { kind: 'hands' }>;
    const entry = { id: newId(), version: 0, gone: false, ...fields };
    await shop.must(shop.send('post', '/api/staffing', entry));
    expect((await planning()).staffing.map(({ id, more }) => [id, more])).toEqual([[entry.id, -1]]);
    await shop.must(shop.send('post', '/api/staffing', { ...entry, version: 1, gone: true }));
    expect((await planning()).staffing).toEqual([]);
    const kiln = (await planning()).resources.find(({ kind }) => kind === 'kiln')!;
    const wrong = await shop.send('post', '/api/staffing', { ...entry, id: newId(), resourceId: kiln.id });
    expect(wrong.body.error.fields).toEqual({ resourceId: 'there are no such hands' });
    const named = (rest: object) =>
      shop.send('post', '/api/staffing', { ...entry, id: newId(), personId: shop.person, ...rest });
    expect((await named({ personId: newId() })).body.error.fields).toEqual({ personId: jasmine.anything() });
    expect((await named({ more: -2 })).body.error.fields).toEqual({ personId: jasmine.anything() });
    await shop.must(named({}));
    expect((await planning()).staffing.map(({ personId }) => personId)).toEqual([shop.person]);
  });

  it('why a piece is out when it is: the chain to its last step, and reliefs that a draft repeats', async () => {
    const why = await shop.get<WhyAnswer>(`/api/plan/pieces/${pieceIds[2]}/why`);
    expect(why.links[0]!.what).toContain('Make mould');
    expect(why.links.at(-1)!.endsAt).toBe(why.finishesAt!);
    expect(why.reliefs.length).toBeGreaterThan(0);
    for (const { change, finishesAt, soonerMinutes } of why.reliefs) {
      const { pieces } = await outcome(await kept([change]));
      expect(pieces.find(({ pieceId }) => pieceId === pieceIds[2])!.after).toBe(finishesAt);
      expect(soonerMinutes).toBeGreaterThanOrEqual(720);
    }
    const { status } = await shop.send('post', '/api/drafts', {});
    expect(status).toBe(400);
  });

  it('the plan goes out as files that can be checked and replanned, and as a table', async () => {
    const { problem, schedule } = await shop.get<{ problem: PlanProblem; schedule: Schedule }>('/api/plan/files');
    expect(checkSchedule(problem, schedule)).toEqual([]);
    expect(planProblem(problem, { iterations: 0 }).status).toBe('feasible');
    expect(problem.jobs.filter(({ id }) => pieceIds.includes(id)).length).toBe(3);
    const { text, headers } = await request(shop.app).get('/api/plan.csv').set(shop.headers());
    expect(headers['content-disposition']).toContain('kalvet-plan.csv');
    const lines = text.replace('\ufeff', '').trimEnd().split('\n');
    const out = (await dates()).get(pieceIds[0]!)!.slice(0, 10);
    expect(lines.length).toBe(4);
    expect(lines.some((line) => line.startsWith(`Otter with Reed,1/3,not begun,2027-05-01,${out},`))).toBeTrue();
  });
});
