import type { ChargeGiven, Crucible, Id, Lot, MetalAnswer, Refusal } from '@kalvet/core';
import { inWords } from '@kalvet/core';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('the metal shelf', () => {
  let shop: TestShop;
  let treeId: Id;
  beforeEach(async () => {
    shop = await TestShop.open();
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'pour');
    treeId = (await shop.piece(pieceIds[0]!)).piece.next[0]!.carrierId;
  });

  const metal = () => shop.get<MetalAnswer>('/api/metal');
  const lot = (rest: Partial<Lot> = {}) => ({
    id: newId(),
    version: 0,
    what: 'ingot',
    alloyId: 'C87300',
    mark: 'MQ-1',
    supplier: 'Tolver Ingot',
    kg: 100,
    receivedOn: shop.now.slice(0, 10),
    analysis: { Cu: 95.1, Si: 3.9 },
    state: 'good',
    note: '',
    ...rest,
  });
  const deliver = (rest: Partial<Lot> = {}) => shop.send('post', '/api/metal/lots', lot(rest));
  const line = (rest: Partial<ChargeGiven> = {}): ChargeGiven => ({
    what: 'ingot',
    alloyId: 'C87300',
    kg: 15,
    lot: 'MQ-1',
    dry: true,
    ...rest,
  });
  const plan = (chargeLines: readonly ChargeGiven[], rest: object = {}) =>
    shop.send('post', '/api/heats', {
      id: newId(),
      alloyId: 'C87300',
      plannedFor: null,
      trees: [{ treeId }],
      chargeLines,
      ...rest,
    });
  const rules = (body: unknown) =>
    ((body as { error: { refusals?: Refusal[] } }).error.refusals ?? []).map(({ rule, mayOverride }) => [
      rule,
      mayOverride,
    ]);
  const fields = (body: unknown) => Object.keys((body as { error: { fields: object } }).error.fields);

  it('takes deliveries in with their mark once, never ahead of today; unknown metal stays in quarantine', async () => {
    await shop.must(deliver());
    expect(fields((await deliver()).body)).toEqual(['mark']);
    expect(fields((await deliver({ mark: 'MQ-2', alloyId: null })).body)).toEqual(['alloyId']);
    expect(fields((await deliver({ mark: 'MQ-2', receivedOn: '2099-01-01' })).body)).toEqual(['receivedOn']);
    expect(fields((await deliver({ mark: 'MQ-2', analysis: { copper: 95 } })).body)).toEqual(['analysis.copper']);
    await shop.must(deliver({ mark: 'slip', alloyId: null, state: 'quarantine' }));
    const { stock, lots } = await metal();
    expect([stock, lots.map(({ mark, leftKg }) => [mark, leftKg])]).toEqual([
      [{ alloyId: 'C87300', ingotKg: 100, returnsKg: 0 }],
      [
        ['slip', 100],
        ['MQ-1', 100],
      ],
    ]);
  });

  it('refuses a charge of metal that nobody has, does not know, or should not melt', async () => {
    await shop.must(deliver());
    await shop.must(deliver({ mark: 'slip', alloyId: null, state: 'quarantine' }));
    expect(rules((await plan([line({ lot: 'slip' })])).body)).toEqual([['lot', false]]);
    expect(rules((await plan([line({ lot: 'MQ-7' })])).body)).toEqual([['lot', true]]);
    expect(rules((await plan([line({ kg: 8 }), line({ what: 'returns', kg: 7, lot: '' })])).body)).toEqual([
      ['returns', false],
    ]);
    // What was counted is there from then on.
    const count = { id: newId(), alloyId: 'C87300', what: 'returns', kg: 40, why: 'before Kalvet' };
    await shop.must(shop.send('post', '/api/metal/counts', count));
    expect((await plan([line({ kg: 8 }), line({ what: 'returns', kg: 7, lot: '' })])).status).toBe(201);
  });

  it('keeps to the pot: its marks count for the heat, lead never comes before clean metal, another family is asked about', async () => {
    const pot = async (rest: Partial<Crucible>) => {
      const id = newId();
      const given = {
        id,
        version: 0,
        name: 'S',
        family: 'silicon',
        holdsKg: 44,
        usableKg: 40,
        emptyKg: 9,
        lifeHeats: 50,
        heatsBefore: 3,
        state: 'in use',
        since: '2026-01-05',
        ...rest,
      };
      await shop.must(shop.send('post', '/api/metal/crucibles', given));
      return id;
    };
    const [silicon, leaded, tin] = [
      await pot({}),
      await pot({ name: 'L', family: 'leaded' }),
      await pot({ name: 'T', family: 'tin' }),
    ];
    expect(rules((await plan([line()], { crucibleId: leaded })).body)).toEqual([['pot', false]]);
    expect(rules((await plan([line()], { crucibleId: tin })).body)).toEqual([['pot', true]]);
    expect(rules((await plan([line({ kg: 45 })], { crucibleId: silicon })).body)).toEqual([['crucible', false]]);
    const { body } = await plan([line()], { crucibleId: silicon });
    const heat = await shop.get<{ usableKg: number; crucibleId: Id }>(`/api/heats/${(body as { id: Id }).id}`);
    expect([heat.usableKg, heat.crucibleId]).toEqual([40, silicon]);
    // A crack is seen: it melts no more.
    const look = { id: newId(), crucibleId: silicon, verdict: 'retire', note: 'crack at the lip' };
    await shop.must(shop.send('post', '/api/metal/looks', look));
    const { crucibles } = await metal();
    expect(crucibles.find(({ id }) => id === silicon)!.state).toBe('retired');
  });

  it('follows a heat to the gram: charged, poured, pigged, cut off, and closed over all', async () => {
    await shop.must(deliver());
    await shop.must(deliver({ mark: 'B-1', kg: 50 }));
    await shop.must(shop.pour(treeId, 'C87300', 'poured', 12));
    const [open] = (await shop.get<{ heats: { id: Id; version: number }[] }>('/api/heats')).heats;
    const end = (pigKg: number, rest: object = {}) =>
      shop.send('post', `/api/heats/${open!.id}/finish`, {
        version: open!.version,
        endedAt: shop.now,
        by: [shop.person],
        pigKg,
        note: '',
        ...rest,
      });
    const missing = await end(4);
    expect(rules(missing.body)).toEqual([['unlikely', true]]);
    expect(inWords((missing.body as { error: { refusals: Refusal[] } }).error.refusals[0]!.message)).toContain(
      '3.6 kg are missing',
    );
    // 20 kg charged, 12 poured, 0.4 burnt.
    await shop.must(end(7.6, { energyKwh: 60 }));
    const { stock, balance } = await metal();
    expect(stock[0]!.ingotKg).toBeCloseTo(130, 6);
    expect(stock[0]!.returnsKg).toBeCloseTo(7.6, 6);
    expect([balance[0]!.inKg, balance[0]!.inWorkKg]).toEqual([150, 12]);
    expect(balance[0]!.openKg).toBeCloseTo(0, 6);
  });
});
