import type { CheckTank, CoatsAnswer, Id, PieceAnswer, Refusal, Tank, TanksAnswer } from '@kalvet/core';
import { addMinutes, inWords } from '@kalvet/core';
import { compareProjections } from '../shop/project.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('the slurry tanks', () => {
  let shop: TestShop;
  let pieceId: Id;
  let face: Id;
  let backup: Id;

  beforeEach(async () => {
    shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    pieceId = pieceIds[0]!;
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'coat');
    shop.later(121);
    face = await enter({ name: 'Face tank', slurry: 'face' });
    backup = await enter({ name: 'Back-up tank', slurry: 'backup', litres: 400 });
  });

  const tank = (rest: Partial<Tank>): Tank => ({
    ...{ id: newId(), version: 0, name: 'Tank', slurry: 'face', litres: 200, leastShare: 0.5, densityGPerCm3: 2.4 },
    ...{ cup: '4 mm cup', lowS: 20, highS: 24, leastPh: 9, checkEveryHours: 24, base: null, state: 'in use' },
    ...rest,
  });
  const save = (rest: Partial<Tank>) => shop.send('post', '/api/shell/tanks', tank(rest));
  const enter = async (rest: Partial<Tank>): Promise<Id> => ((await shop.must(save(rest))).body as { id: Id }).id;
  const found = (tankId: Id, rest: Partial<CheckTank> = {}) =>
    shop.send('post', '/api/shell/tank-checks', {
      ...{
        id: newId(),
        tankId,
        at: shop.now,
        mixer: 'running',
        viscosityS: 22,
        celsius: 21,
        densityGPerCm3: null,
        ph: 9.6,
      },
      ...{ level: null, sieved: false, toppedUp: [], note: '' },
      ...rest,
    });
  const decide = (tankId: Id, coatsStand: boolean, words = 'stirred, sieved, a test bar is sound') =>
    shop.send('post', '/api/shell/tank-decisions', { id: newId(), tankId, coatsStand, words });
  const dip = async (slurry = 'face', stucco = 'fine') =>
    shop.record(await shop.open(pieceId, 'coat'), 'done', { slurry, stucco });
  const page = () => shop.get<TanksAnswer>('/api/tanks');
  const rules = (body: unknown) =>
    ((body as { error: { refusals?: Refusal[] } }).error.refusals ?? []).map(({ rule, mayOverride }) => [
      rule,
      mayOverride,
    ]);
  const fields = (body: unknown) => Object.keys((body as { error: { fields: object } }).error.fields);
  const coats = async () => (await shop.get<CoatsAnswer>('/api/coats')).rows[0]!;

  it('stops the dipping when a mixer stood still, puts the coats since the last good check in doubt, and goes on once it is decided', async () => {
    await shop.must(found(face));
    shop.later(60);
    await shop.must(dip());
    // On Sunday somebody comes by and hears nothing.
    shop.later(26 * 60);
    const { body } = await found(face, { mixer: 'stopped', viscosityS: null });
    expect([body.blocked, body.inDoubt]).toEqual([true, 1]);
    const row = await coats();
    expect(row.waits).toEqual(['Face tank: the mixer stood still']);
    expect(row.coats[0]!.flags).toEqual(['in doubt: Face tank, the mixer stood still']);
    // On the piece too.
    const piece = await shop.get<PieceAnswer>(`/api/pieces/${pieceId}`);
    expect(JSON.stringify(piece.lanes)).toContain('in doubt: Face tank');
    shop.later(60);
    expect(rules((await dip()).body)).toEqual([['tank', false]]);
    // A hand cannot decide it, and a good check decides nothing.
    const hand = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'], rooms: ['shell'] });
    const asHand = await shop.send(
      'post',
      '/api/shell/tank-decisions',
      { id: newId(), tankId: face, coatsStand: true, words: 'ok' },
      undefined,
      hand,
    );
    expect(asHand.status).toBe(403);
    await shop.must(found(face));
    expect(rules((await dip()).body)).toEqual([['tank', false]]);
    await shop.must(decide(face, true));
    expect((await coats()).waits).toEqual([]);
    expect((await coats()).coats[0]!.flags[0]).toContain('stands, Ines Marlow');
    await shop.must(dip());
    expect(fields((await decide(face, true)).body)).toEqual(['tankId']);
    const { stored, anew } = await compareProjections(shop.store);
    expect([...anew].filter(([id, data]) => stored.get(id) !== data)).toEqual([]);
  });

  it('puts a coat that is written up later in doubt too, and leaves it so where nobody says that it stands', async () => {
    await shop.must(found(face));
    const step = await shop.open(pieceId, 'coat');
    shop.later(24 * 60);
    await shop.must(found(face, { viscosityS: 25.5 }));
    const late = { endedAt: addMinutes(shop.now, -120) };
    await shop.must(shop.record(step, 'done', { slurry: 'face', stucco: 'fine' }, late));
    expect((await coats()).coats[0]!.flags[0]).toContain('25.5 s, above 24.0 s: thick');
    await shop.must(decide(face, false, 'thinned with binder; first coats to be watched at the look after firing'));
    expect((await coats()).coats[0]!.flags[0]).toMatch(/^in doubt: /);
    expect((await page()).tanks.map(({ inDoubt }) => inDoubt)).toEqual([1, 0]);
  });

  it('is one for each slurry, its limits from a base period, its checks never ahead of now', async () => {
    expect(fields((await save({ name: 'Second face' })).body)).toEqual(['slurry']);
    expect(fields((await save({ name: 'Face tank', slurry: 'backup' })).body)).toEqual(['name']);
    expect(fields((await save({ name: 'X', lowS: 25, highS: 20 })).body)).toEqual(['highS']);
    expect(fields((await found(face, { at: addMinutes(shop.now, 60) })).body)).toEqual(['at']);
    expect(fields((await found(face, { ph: 15 })).body)).toEqual(['ph']);
    const from = shop.now;
    for (const viscosityS of [21.8, 22.1, 21.9, 22.4, 22.0, 21.7, 22.2, 22.0, 21.9, 22.1]) {
      await shop.must(found(face, { viscosityS }));
      shop.later(24 * 60);
    }
    const view = (await page()).tanks[0]!;
    expect(view.limits).toBeNull();
    await shop.must(
      shop.send('post', '/api/shell/tanks', { ...view.tank, lowS: null, highS: null, base: { from, to: shop.now } }),
    );
    const { limits } = (await page()).tanks[0]!;
    // x̄ ± 2.66·MR̄ of the handbook's ten values.
    expect([limits!.low, limits!.high].map((value) => Number(value.toFixed(2)))).toEqual([21.21, 22.81]);
    shop.later(60);
    expect((await found(face, { viscosityS: 22.9 })).body.blocked).toBeTrue();
  });

  it('falls as coats are dipped, is topped up, and says how long it lasts; stucco is booked by the surface', async () => {
    const supply = (rest: object) =>
      shop.send('post', '/api/shell/supplies', {
        ...{ id: newId(), what: 'fine', kind: 'delivery', kg: 25, lot: 'S-1', at: shop.now, note: '' },
        ...rest,
      });
    await shop.must(supply({}));
    await shop.must(supply({ what: 'flour face', kg: 50 }));
    await shop.must(found(face, { level: 0.8, toppedUp: [{ what: 'flour', kg: 12, lot: 'F-3' }] }));
    shop.later(30);
    await shop.must(dip());
    const { tanks, stock, movements } = await page();
    // 200 l of 2.4 g/cm³ at 0.8 and 12 kg of flour; the otter's 1600 cm² take 0.176 kg.
    expect(tanks[0]!.holdsKg).toBeCloseTo(0.8 * 480 + 12 - 0.176, 6);
    expect(tanks[1]!.holdsKg).toBeNull();
    expect(stock.map(({ what, kg }) => [what, Number(kg.toFixed(3))])).toEqual([
      ['flour face', 38],
      ['fine', 24.792],
    ]);
    expect(movements.map(({ kind }) => kind)).toContain('dipped');
    await shop.must(supply({ kind: 'count', kg: 20 }));
    expect((await page()).stock.find(({ what }) => what === 'fine')!.kg).toBeCloseTo(20, 9);
    expect(fields((await supply({ kg: 0 })).body)).toEqual(['kg']);
    expect(inWords((await page()).movements[0]!.says)).toBe('counted');
    expect(backup).not.toBe(face);
  });

  it('goes back to how it stood when a check is taken back', async () => {
    await shop.must(found(face));
    shop.later(60);
    const { body } = await found(face, { mixer: 'stopped' });
    expect((await page()).tanks[0]!.stand.blockedSince).not.toBeNull();
    await shop.must(shop.send('post', `/api/changes/${body.change}/take-back`, { reason: 'wrong tank' }));
    expect((await page()).tanks[0]!.stand.blockedSince).toBeNull();
    await shop.must(dip());
  });
});

describe('the coat plan', () => {
  it('is the shop’s own in numbers: a tree keeps the one it began with, and differs only for a reason', async () => {
    const shop = await TestShop.open();
    const settings = async () =>
      (
        await shop.get<{
          settings: { coatPlans: { number: number; classes: object[]; layers: object[]; seal: object }[] };
        }>('/api/shop')
      ).settings.coatPlans[0]!;
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'coat');
    const usual = await settings();
    const plan = {
      ...usual,
      classes: [
        { upToMm: 500, coats: 9 },
        { upToMm: null, coats: 12 },
      ],
    };
    const save = (given: object, seen: number) => shop.send('post', '/api/shell/coat-plans', { seen, plan: given });
    expect((await save(plan, 1)).body.number).toBe(2);
    expect((await save(plan, 1)).status).toBe(409);
    const wrong = {
      ...plan,
      classes: [
        { upToMm: 500, coats: 9 },
        { upToMm: 400, coats: 8 },
      ],
    };
    const { body } = await save(wrong, 2);
    expect(Object.keys(body.error.fields).sort()).toEqual(['plan.classes.1.coats', 'plan.classes.1.upToMm']);
    // The tree that was joined under the first keeps its coats; a work set up now gets nine.
    const row = (await shop.get<CoatsAnswer>('/api/coats')).rows[0]!;
    expect(row.coats.length).toBe(6);
    const { pieceIds: other } = await shop.setUp({ code: 'HER' });
    expect((await shop.steps(other[0]!)).filter(({ kind }) => kind === 'coat').length).toBe(9);
    const change = (coats: number, why = 'thin wings') =>
      shop.send('post', `/api/trees/${row.treeId}/coats`, { version: row.version, planCode: 'shell', coats, why });
    expect((await change(10, '')).status).toBe(400);
    await shop.must(change(10));
    expect((await shop.get<CoatsAnswer>('/api/coats')).rows[0]!.coats.length).toBe(10);
  });
});
