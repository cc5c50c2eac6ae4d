import type { HeatAnswer, HeatBook, Id, LiveHeat, PourDayAnswer } from '@kalvet/core';
import { addMinutes, inWords } from '@kalvet/core';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('a heat while it is poured', () => {
  let shop: TestShop;
  let trees: Id[];
  let id: Id;
  beforeEach(async () => {
    shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ editionSize: 2 });
    await shop.makeMould(pieceIds[0]!);
    for (const piece of pieceIds.slice(0, 2)) await shop.carry(piece, 'pour');
    trees = [];
    for (const piece of pieceIds.slice(0, 2)) trees.push((await shop.piece(piece)).piece.next[0]!.carrierId);
    id = newId();
    const given = {
      id,
      alloyId: 'C87300',
      plannedFor: addMinutes(shop.now, 60),
      trees: trees.map((treeId) => ({ treeId })),
      chargeLines: [],
    };
    await shop.must(shop.send('post', '/api/heats', given));
  });

  const live = () => shop.get<LiveHeat>(`/api/heats/${id}/live`);
  const read = (rest: object) =>
    shop.send('post', `/api/heats/${id}/readings`, {
      id: newId(),
      treeId: null,
      at: shop.now,
      celsius: 1180,
      where: 'furnace',
      means: 'immersion',
      instrument: '',
      ...rest,
    });

  it('keeps what is read without waiting for one another’s screens, and gives a slip back with one press', async () => {
    await shop.must(read({}));
    await shop.must(read({ celsius: 1160, at: shop.now }));
    const { readings, undo } = await live();
    expect(readings.map(({ celsius, plusMinusK }) => [celsius, plusMinusK])).toEqual([
      [1180, 3],
      [1160, 3],
    ]);
    expect(inWords(undo[0]!.text)).toContain('1160 °C in the furnace, immersion');
    await shop.must(shop.send('post', `/api/changes/${undo[0]!.number}/take-back`, { reason: 'a slip' }));
    expect((await live()).readings.map(({ celsius }) => celsius)).toEqual([1180]);
    expect((await read({ celsius: 2100, where: 'cup', treeId: trees[0] })).status).toBe(409);
  });

  it('has each tree’s filling beside its freezing, and says from when its shell is out', async () => {
    const { heat } = await live();
    const filling = heat.fillings[trees[0]!]!;
    // About 11 kg at 5 mm: 1.5 · ∛55 s; the wall of 5 mm stays open for more than a minute in a mould of 560 °C.
    expect(filling.seconds.value).toBeCloseTo(1.5 * Math.cbrt(heat.pourings[0]!.plannedKg * 5), 6);
    expect([filling.stands, filling.freezes.value > 60]).toEqual(['fills', true]);
    await shop.must(shop.send('post', `/api/heats/${id}/out`, { treeId: trees[0], at: shop.now }));
    expect((await live()).heat.pourings[0]!.outAt).toBe(shop.now);
    expect((await shop.send('post', `/api/heats/${id}/out`, { treeId: newId(), at: shop.now })).status).toBe(400);
  });

  it('is one line of a pour day: shells in the kiln, furnace, cups, pig and early looks, each tree in a place of its own', async () => {
    const day = async () => shop.get<PourDayAnswer>('/api/pour/day');
    const { stretches, pit, wouldSet, heats, noKiln } = await day();
    expect(heats.map((heat) => heat.id)).toEqual([id]);
    expect(new Set(stretches.map(({ part }) => part))).toEqual(
      new Set(['preheat', 'lining', 'melt', 'skim', 'pour', 'pig', 'look']),
    );
    expect([noKiln.length, pit.length, Object.values(wouldSet)]).toEqual([0, 12, [2, 1]]);
    const set = (places: readonly (number | null)[]) =>
      shop.send('post', `/api/heats/${id}/pit`, { places: places.map((place, i) => ({ treeId: trees[i], place })) });
    await shop.must(set([4, 3]));
    const now = await day();
    expect(now.pit.flatMap(({ number, order }) => (order === null ? [] : [[number, order]]))).toEqual([
      [3, 2],
      [4, 1],
    ]);
    expect((await set([4, 4])).status).toBe(400);
    expect((await set([40, 3])).status).toBe(400);
    // Another heat cannot be set where they stand.
    const other = newId();
    const { pieceIds } = await shop.setUp({ code: 'SEC', title: 'Second' });
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'pour');
    const treeId = (await shop.piece(pieceIds[0]!)).piece.next[0]!.carrierId;
    await shop.must(
      shop.send('post', '/api/heats', {
        id: other,
        alloyId: 'C87300',
        plannedFor: null,
        trees: [{ treeId }],
        chargeLines: [],
      }),
    );
    const taken = await shop.send('post', `/api/heats/${other}/pit`, { places: [{ treeId, place: 4 }] });
    expect(JSON.stringify(taken.body)).toContain('Place 4 is taken by T-');
  });

  it('teaches the furnace once it is over: 20 K in 4 minutes', async () => {
    const version = async () => (await shop.get<HeatAnswer>(`/api/heats/${id}`)).version;
    const ingot = [{ what: 'ingot', alloyId: 'C87300', kg: 30, lot: 'B-1', dry: true }];
    const plan = {
      version: await version(),
      plannedFor: null,
      trees: trees.map((treeId) => ({ treeId })),
      chargeLines: ingot,
    };
    await shop.must(shop.send('put', `/api/heats/${id}`, plan));
    const { POUR_CHECKS } = await import('@kalvet/core');
    const crew = [{ role: 'lead', personId: shop.person, deputyId: null }];
    await shop.must(shop.send('post', `/api/heats/${id}/light`, { at: addMinutes(shop.now, -120) }));
    await shop.must(
      shop.send('post', `/api/heats/${id}/crew`, {
        version: await version(),
        crew,
        signs: 'spoken',
        checks: POUR_CHECKS,
        coverConfirmed: true,
      }),
    );
    await shop.must(read({ celsius: 1200, at: addMinutes(shop.now, -6) }));
    await shop.must(read({ celsius: 1180, at: addMinutes(shop.now, -2) }));
    for (const treeId of trees) {
      const readings = { pouredKg: 13, metalC: 1140, tempWhere: 'cup', seconds: 6, vents: 'all' };
      const said = {
        version: await version(),
        treeId,
        outcome: 'poured',
        startedAt: null,
        endedAt: shop.now,
        by: [shop.person],
        note: '',
        readings,
      };
      await shop.must(shop.send('post', `/api/heats/${id}/pour`, said));
      // Poured twice it is refused.
      expect((await shop.send('post', `/api/heats/${id}/pour`, { ...said, version: await version() })).status).toBe(
        409,
      );
    }
    await shop.must(
      shop.send('post', `/api/heats/${id}/finish`, {
        version: await version(),
        endedAt: shop.now,
        by: [shop.person],
        pigKg: 3.4,
        energyKwh: 150,
        note: '',
      }),
    );
    const { heats, taught } = await shop.get<HeatBook>('/api/heats/book');
    expect(heats.map(({ chargeKg, pouredKg, pigKg, energyKwh }) => [chargeKg, pouredKg, pigKg, energyKwh])).toEqual([
      [30, 26, 3.4, 150],
    ]);
    const loss = taught.find(({ key }) => key === 'crucibleLossK')!;
    // k = ln(1180 ÷ 1160) ÷ 4, said at 1150 °C.
    expect([loss.n, loss.learned.toFixed(2)]).toEqual([1, ((Math.log(1180 / 1160) / 4) * 1130).toFixed(2)]);
  });
});
