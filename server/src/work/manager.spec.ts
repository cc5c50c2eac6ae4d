import type { CoatsAnswer, OrdersAnswer, PourAnswer, WhatIf, WorkAnswer } from '@kalvet/core';
import { compareProjections } from '../shop/project.ts';
import { TestShop, section } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('orders', () => {
  it('are ready with their last piece, give their date to pieces without one, and hold a piece once', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ editionSize: 3, dueDate: null });
    const clientId = newId();
    await shop.must(
      shop.send('post', '/api/clients', { id: clientId, version: 0, name: 'Lantern Street', contact: '' }),
    );
    const order = (rest: object = {}) => ({
      id: newId(),
      version: 0,
      clientId,
      title: 'Two for the hall',
      place: '',
      dueDate: '2027-03-10',
      partDelivery: true,
      note: '',
      pieceIds: pieceIds.slice(0, 2),
      ...rest,
    });
    const first = order();
    await shop.must(shop.send('post', '/api/orders', first));
    expect((await shop.send('post', '/api/orders', order())).body.error.fields.pieceIds).toContain('O-1 already');
    // The same form sent under another key: said in words, not as a failure.
    expect((await shop.send('post', '/api/orders', first)).status).toBe(400);
    await shop.plan();
    const { orders, free } = await shop.get<OrdersAnswer>('/api/orders');
    expect(free.map(({ pieceId }) => pieceId)).toEqual([pieceIds[2]!]);
    const finishes = orders[0]!.pieces.map(({ plannedFinish }) => plannedFinish!);
    expect(orders[0]!.readyAt).toBe([...finishes].sort().at(-1)!);
    // Due on 10 March by the order; poured on a Thursday after it.
    expect(orders[0]!.pieces.every(({ dueDate, lateDays }) => dueDate === '2027-03-10' && lateDays > 0)).toBeTrue();
    expect((await shop.piece(pieceIds[2]!)).piece.dueDate).toBeNull();
    await shop.must(shop.send('post', '/api/orders', { ...first, version: 1, pieceIds: [pieceIds[1]] }));
    expect((await shop.get<OrdersAnswer>('/api/orders')).free.length).toBe(2);
  });
});

describe('a work that is changed', () => {
  it('says first what comes and goes, changes pieces not begun, and leaves those that began', async () => {
    const shop = await TestShop.open();
    const { id, pieceIds } = await shop.setUp({ editionSize: 2 });
    await shop.makeMould(pieceIds[0]!);
    await shop.must(shop.done((await shop.open(pieceIds[0]!, 'pull')).id));
    const coats = async (pieceId: string) =>
      (await shop.steps(pieceId)).filter(({ kind, state }) => kind === 'coat' && state === 'planned').length;
    const work = await shop.get<WorkAnswer>(`/api/works/${id}`);
    const [whole] = work.sections;
    const { version, name, wallMm, expectedWaxKg, areaCm2, seamM, deep } = whole!;
    const body = { version, name, wallMm, metalHeightMm: 500, expectedWaxKg, areaCm2, seamM, deep };
    const asked = await shop.send('post', `/api/sections/${whole!.id}/consequences`, body);
    // 6 coats up to 200 mm, one more for each 100 mm above.
    expect(asked.body.lines).toEqual(['3 coats more on the shells of 2/2', '1/2 keeps its coats: begun already']);
    expect([await coats(pieceIds[0]!), await coats(pieceIds[1]!)]).toEqual([6, 6]);
    await shop.must(shop.send('put', `/api/sections/${whole!.id}`, body));
    expect([await coats(pieceIds[0]!), await coats(pieceIds[1]!)]).toEqual([6, 9]);
    const { title, artist, finish } = work.work;
    const each = { version: work.work.version, title, artist, finish, approval: 'each' };
    await shop.must(shop.send('put', `/api/works/${id}`, each));
    const approvals = async (pieceId: string) =>
      (await shop.steps(pieceId)).filter(({ kind }) => kind === 'approve-wax').length;
    expect([await approvals(pieceIds[0]!), await approvals(pieceIds[1]!)]).toEqual([0, 1]);
    expect((await shop.send('put', `/api/works/${id}`, each)).status).toBe(409);
  });

  it('gets a further mould, and retires one that holds no wax', async () => {
    const shop = await TestShop.open();
    const { id, pieceIds } = await shop.setUp();
    const { sections } = await shop.get<WorkAnswer>(`/api/works/${id}`);
    const given = { id: newId(), name: 'second', sectionIds: sections.map((each) => each.id) };
    await shop.must(shop.send('post', `/api/works/${id}/moulds`, given));
    await shop.makeMould(pieceIds[0]!);
    const { moulds } = await shop.get<WorkAnswer>(`/api/works/${id}`);
    expect(moulds.map(({ state, left }) => [state, left])).toEqual([
      ['good', 60],
      ['good', 60],
    ]);
    const retire = { version: moulds[1]!.version, lifePulls: 60, retire: true };
    await shop.must(shop.send('put', `/api/moulds/${moulds[1]!.id}`, retire));
    expect((await shop.get<WorkAnswer>(`/api/works/${id}`)).moulds[1]!.state).toBe('retired');
  });
});

describe('a work set up wrongly', () => {
  it('is set up anew while nothing is begun, its lists with it, and taken away without a trace in them', async () => {
    const shop = await TestShop.open();
    const { id, pieceIds } = await shop.setUp({ editionSize: 3 });
    const read = () => shop.get<WorkAnswer>(`/api/works/${id}`);
    const { setUp, work, next } = await read();
    expect(next.map(({ name }) => name)).toContain('Make mould');
    const other = { ...setUp, editionSize: 2, alloyId: 'C90500', version: work.version };
    await shop.must(shop.send('put', `/api/works/${id}/set-up`, other));
    const changed = await read();
    expect(changed.pieces.map((piece) => piece.id)).toEqual(pieceIds.slice(0, 2));
    expect(changed.work.alloyId).toBe('C90500');
    const kept = await compareProjections(shop.store);
    expect([...kept.stored].sort()).toEqual([...kept.anew].sort());
    expect((await shop.send('put', `/api/works/${id}/set-up`, other)).status).toBe(409);
    await shop.must(shop.send('post', `/api/works/${id}/remove`, { version: changed.work.version }));
    await expectAsync(shop.get(`/api/works/${id}`)).toBeRejectedWithError(/404/);
    const gone = await compareProjections(shop.store);
    expect([gone.stored.size, gone.anew.size]).toEqual([0, 0]);
    // Its letters are free again.
    await shop.setUp({ code: setUp!.code });
  });

  it('is no longer taken away once its mould is made', async () => {
    const shop = await TestShop.open();
    const { id, pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    const { setUp, work } = await shop.get<WorkAnswer>(`/api/works/${id}`);
    expect(setUp).toBeNull();
    const refused = await shop.send('post', `/api/works/${id}/remove`, { version: work.version });
    expect([refused.status, refused.body.error.refusals[0].rule]).toEqual([409, 'begun']);
  });
});

describe('the rooms’ own screens', () => {
  it('stop the patina as long as a window is not back', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    const id = pieceIds[0]!;
    await shop.makeMould(id);
    await shop.carry(id, 'join-tree');
    const castId = (await shop.piece(id)).lanes[0]!.attempts[0]!.castId;
    const item = { id: newId(), castId, kind: 'window', what: 'under the reed' };
    await shop.must(shop.send('post', '/api/open-items', item));
    await shop.carry(id, 'patina');
    const patina = await shop.open(id, 'patina');
    expect([patina.held, patina.waits[0]]).toEqual([true, 'window cut out, under the reed (OTT 1)']);
    const override = [{ rule: 'open item', reason: 'no time' }];
    const refused = await shop.record(patina, 'done', { recipe: 'x' }, { override });
    expect([refused.status, refused.body.error.refusals[0].mayOverride]).toEqual([409, false]);
    const close = { version: 1, how: 'put back', note: '' };
    await shop.must(shop.send('post', `/api/open-items/${item.id}/close`, close));
    expect((await shop.send('post', `/api/open-items/${item.id}/close`, { ...close, version: 2 })).status).toBe(409);
    await shop.must(shop.record(await shop.open(id, 'patina'), 'done', { recipe: 'x' }));
  });

  it('show each tree’s coats, and a heat with its window and the hour to light up', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ sections: [section('whole', { wallMm: 3 })] });
    const id = pieceIds[0]!;
    await shop.makeMould(id);
    await shop.carry(id, 'coat');
    shop.later(180);
    await shop.must(shop.done((await shop.open(id, 'coat')).id));
    const { rows } = await shop.get<CoatsAnswer>('/api/coats');
    expect(rows.map(({ coats }) => coats.map(({ state }) => state))).toEqual([
      ['done', 'next', 'later', 'later', 'later', 'later'],
    ]);
    // The first face coat dries 3 h.
    expect(Date.parse(rows[0]!.readyAt!) - Date.parse(rows[0]!.coats[0]!.at!)).toBe(3 * 3_600_000);
    await shop.carry(id, 'pour');
    await shop.plan();
    const before = await shop.get<PourAnswer>('/api/pour');
    expect([before.heats.length, before.waiting.length, before.proposed.length]).toEqual([0, 1, 1]);
    // 3 mm of silicon bronze: the upper half of 120–280 K over 916 °C.
    expect(before.waiting[0]!.window.metalC).toEqual([1116, 1196]);
    const [proposed] = before.proposed;
    const heat = {
      id: newId(),
      alloyId: proposed!.alloyId,
      plannedFor: proposed!.startsAt,
      trees: proposed!.treeIds.map((treeId) => ({ treeId })),
      chargeLines: [],
    };
    await shop.must(shop.send('post', '/api/heats', heat));
    const after = await shop.get<PourAnswer>('/api/pour');
    expect([after.waiting.length, after.proposed.length]).toEqual([0, 0]);
    expect(after.heats[0]!.lightAt! < after.heats[0]!.plannedFor!).toBeTrue();
  });

  it('tell what a recast does to the dates, and write nothing', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    const id = pieceIds[0]!;
    await shop.makeMould(id);
    await shop.carry(id, 'inspect');
    await shop.plan();
    const inspect = await shop.open(id, 'inspect');
    const { feasible, pieces } = await shop.get<WhatIf>(`/api/steps/${inspect.id}/what-if?outcome=recast`);
    expect([feasible, pieces[0]!.pieceId]).toEqual([true, id]);
    // A new wax, a new shell, another pour day: weeks, not days.
    expect(Date.parse(pieces[0]!.after!) - Date.parse(pieces[0]!.before!)).toBeGreaterThan(6 * 86_400_000);
    expect((await shop.open(id, 'inspect')).version).toBe(inspect.version);
    const get = (path: string) => shop.get(`/api/steps/${path}`);
    await expectAsync(get(`${inspect.id}/what-if?outcome=explode`)).toBeRejectedWithError(/400/);
    await expectAsync(get(`${newId()}/what-if?outcome=recast`)).toBeRejectedWithError(/404/);
  });

  it('refuse a pin further ahead than anything is planned, and pour hours that no pour fits into', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    const patina = await shop.open(pieceIds[0]!, 'patina');
    const pin = { version: 1, kind: 'at', at: '2090-01-01T00:00:00.000Z' };
    expect((await shop.send('post', `/api/steps/${patina.id}/pin`, pin)).body.error.fields.at).toContain('three years');
    const { calendars } = await shop.get<{ calendars: { name: string }[] }>('/api/planning');
    const pour = calendars.find(({ name }) => name === 'Pour days')!;
    const short = { ...pour, weekly: [{ day: 4, from: '09:00', to: '09:10' }] };
    expect((await shop.send('post', '/api/calendars', short)).body.error.fields.weekly).toContain(
      '30 min without a break',
    );
  });
});
