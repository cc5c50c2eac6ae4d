import type { FoundLine, HeatRecord, Id, LoadRecordPage } from '@kalvet/core';
import { inWords } from '@kalvet/core';
import { newId } from '../write/new-id.ts';
import { TestShop, readings, section } from '../testing/shop.ts';

describe('what the screens read', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  const begun = async (given = {}) => {
    const { id, pieceIds } = await shop.setUp(given);
    await shop.makeMould(pieceIds[0]!);
    return { id, pieceIds };
  };

  describe('the Floor', () => {
    it('sorts works by their nearest due date and counts what is not begun and what is out', async () => {
      await begun({ code: 'LAT', title: 'Later', dueDate: '2027-09-01', editionSize: 2 });
      const { pieceIds } = await begun({
        code: 'SOO',
        title: 'Sooner',
        dueDate: '2027-04-01',
        editionSize: 2,
        artistProofs: 1,
      });
      await begun({ code: 'NEV', title: 'Never', dueDate: null });
      await shop.carry(pieceIds[0]!, 'delivered');
      await shop.carry(pieceIds[1]!, 'chase-wax');
      const { works } = await shop.floor();
      expect(works.map(({ title }) => title)).toEqual(['Sooner', 'Later', 'Never']);
      expect([works[0]!.delivered, works[0]!.pieces.length, works[0]!.notBegun]).toEqual([
        1,
        1,
        [{ id: pieceIds[2]!, mark: 'AP 1/1' }],
      ]);
    });

    it('lists the next dips by the minute they are ready, what waits for the kiln, and trees for the pour with their weight', async () => {
      const { pieceIds } = await begun({ editionSize: 3 });
      await shop.carry(pieceIds[0]!, 'pour');
      await shop.carry(pieceIds[1]!, 'fire');
      await shop.carry(pieceIds[2]!, 'coat');
      const before = await shop.floor();
      expect(before.dips.map(({ name, readyAt }) => [name, readyAt! > shop.now])).toEqual([['Dip coat 1 of 6', true]]);
      expect(before.fire.map(({ kind }) => kind)).toEqual(['fire']);
      expect(before.pour.map(({ kind, pourKg }) => [kind, Math.round(pourKg!)])).toEqual([['pour', 9]]);
      shop.later(60 * 24);
      await shop.must(shop.pour(before.pour[0]!.carrierId, 'C87300'));
      const [heat] = (await shop.floor()).heats;
      expect(heat!.trees.map(({ outcome }) => outcome)).toEqual(['poured']);
      // (10.9 kg of tree + 2 kg to pig) ÷ 0.98
      expect(heat!.chargeKg).toBeCloseTo((before.pour[0]!.pourKg! + 2) / 0.98, 6);
    });

    it('keeps a piece in the room of its section furthest behind, with the other one ahead', async () => {
      const { pieceIds } = await begun({ sections: [section('body'), section('wing')] });
      const { lanes } = await shop.piece(pieceIds[0]!);
      const wing = lanes[1]!.attempts[0]!;
      for (const kind of ['pull', 'chase-wax'])
        await shop.must(shop.done((shop.later(90), wing.steps.find((step) => step.kind === kind)!.id)));
      const piece = (await shop.floor()).works[0]!.pieces[0]!;
      expect([piece.behind, piece.ahead]).toEqual(['mould', 'sprue']);
      expect(piece.next.map(({ kind, on }) => [kind, on])).toEqual([
        ['pull', 'OTT 1 A'],
        ['join-tree', jasmine.stringContaining('OTT 1 B') as unknown as string],
      ]);
    });

    it('shows the making of a mould as the next thing where a wax waits for it', async () => {
      const { pieceIds } = await shop.setUp();
      const { piece } = await shop.piece(pieceIds[0]!);
      expect(piece.next.map(({ kind, waits }) => [kind, waits.length])).toEqual([
        ['make-mould', 0],
        ['pull', 1],
      ]);
    });
  });

  describe('a piece', () => {
    it('shows plan, wax, wall, casting and what the tree takes, each saying where it comes from', async () => {
      const { pieceIds } = await begun();
      await shop.carry(pieceIds[0]!, 'chase-wax');
      const step = await shop.open(pieceIds[0]!, 'chase-wax');
      shop.later(120);
      await shop.must(shop.record(step, 'done', { waxKg: 0.855, markPutIn: true }));
      const { lanes, trees, piece } = await shop.piece(pieceIds[0]!);
      const lane = lanes[0]!;
      expect(inWords(lane.deviation!.inWords)).toBe('Wax 14 % over: +0.9 kg bronze');
      expect(lane.castFromWax!.value).toBeCloseTo(7.3, 1);
      expect(lane.wall!.value).toBeCloseTo(5.75, 2);
      expect(inWords(trees[0]!.pourWeight!.inWords)).toContain('70 % full');
      expect(piece.decisions.map(({ text }) => inWords(text))).toEqual([
        'Otter with Reed 1/1: wax 14 % over: +0.9 kg bronze. Mend the wax, or leave it so?',
      ]);
    });

    it('keeps every attempt with the steps it went through, the lost one ending where it was lost', async () => {
      const { pieceIds } = await begun();
      await shop.carry(pieceIds[0]!, 'fire');
      const fire = await shop.open(pieceIds[0]!, 'fire');
      shop.later(60 * 8);
      const record = {
        startedAt: null,
        endedAt: shop.now,
        by: [shop.person],
        profile: 'x',
        topC: 900,
        note: '',
        lost: [{ treeId: fire.carrierId, why: 'burst' }],
      };
      await shop.must(shop.fire([fire.carrierId], { record }));
      const [lost, next] = (await shop.piece(pieceIds[0]!)).lanes[0]!.attempts;
      expect(lost!.steps.at(-1)).toEqual(jasmine.objectContaining({ kind: 'fire', state: 'lost' }));
      expect(lost!.steps.filter(({ kind }) => kind === 'coat').length).toBe(6);
      expect(next!.steps.every(({ state, kind }) => state === 'planned' || kind === 'make-mould')).toBeTrue();
    });

    it('says what a new heat can take of clean returns: pigged and cut off, less what was charged', async () => {
      const { pieceIds } = await begun({ editionSize: 2 });
      await shop.carry(pieceIds[0]!, 'chase-metal');
      await shop.carry(pieceIds[1]!, 'pour');
      const form = await shop.form((await shop.open(pieceIds[1]!, 'pour')).id);
      expect(form.returnsAtHandKg).toBeCloseTo(5.5, 6);
    });
  });

  const find = async (words: string, person?: Id) =>
    (await shop.get<{ found: FoundLine[] }>(`/api/find?q=${encodeURIComponent(words)}`, person)).found;

  it('finds pieces by title, tag, mark and tree, and nothing by a stray sign', async () => {
    const { pieceIds } = await begun({ editionSize: 3 });
    expect((await find('otter')).map(({ what }) => what)).toEqual(['piece', 'piece', 'piece', 'work']);
    expect((await find('OTT 2')).map(({ path }) => path)).toEqual([`/pieces/${pieceIds[1]!}`]);
    expect((await find('otter with 3/3')).map(({ label }) => label)).toEqual(['Otter with Reed 3/3']);
    expect((await find('T-3')).map(({ path }) => path)).toEqual([`/pieces/${pieceIds[2]!}`]);
    for (const words of ['%', "' OR 1=1 --", '', '_'])
      expect(await find(words))
        .withContext(words)
        .toEqual([]);
  });

  it('finds what is over, by its number or lot: a heat and a load have a page of their own', async () => {
    const { pieceIds } = await begun();
    await shop.carry(pieceIds[0]!, 'knock-out');
    const [heat] = await find('H-1');
    const [load] = await find('l1');
    expect([heat!.what, load!.what]).toEqual(['heat', 'load']);
    // The lot of the ingot that the heat was charged with.
    expect((await find('B-1')).map(({ label, path }) => [label, path])).toEqual([['lot B-1', heat!.path]]);
    const heatId = heat!.path.split('/').at(-1)!;
    const record = await shop.get<HeatRecord>(`/api/heats/${heatId}/record`);
    expect(record.pourings.map(({ label, title, pouredKg, metalC }) => [label, title, pouredKg, metalC])).toEqual([
      ['T-1 (OTT 1)', 'Otter with Reed', 12, 1120],
    ]);
    expect([record.coverConfirmedBy, record.crewNames[0]!.name]).toEqual(['Ines Marlow', 'Ines Marlow']);
    expect(record.history.length).toBeGreaterThanOrEqual(3);
    const fired = await shop.get<LoadRecordPage>(`/api/loads/${load!.path.split('/').at(-1)!}/record`);
    expect([fired.profile, fired.topC, fired.trees[0]!.outcome]).toEqual(['900 °C, 2 h', 905, 'done']);
    const { trees } = await shop.piece(pieceIds[0]!);
    expect([trees[0]!.heats.map(({ number }) => number), trees[0]!.loads.map(({ number }) => number)]).toEqual([
      [1],
      [1],
    ]);
  });

  it('finds clients, orders and people only for those who may see them', async () => {
    await begun();
    const clientId = newId();
    await shop.must(
      shop.send('post', '/api/clients', { id: clientId, version: 0, name: 'Marrow Gallery', contact: '' }),
    );
    expect((await find('Marrow')).map(({ what }) => what)).toEqual(['client']);
    expect((await find('Ines')).map(({ what }) => what)).toEqual(['person']);
    const hand = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'] });
    expect(await find('Marrow', hand)).toEqual([]);
    expect(await find('Ines', hand)).toEqual([]);
  });

  it('offers a load the trees that are ready for the kiln, and names those that are not', async () => {
    const { pieceIds } = await begun({ editionSize: 2 });
    for (const id of pieceIds) await shop.carry(id, 'fire');
    const step = await shop.open(pieceIds[0]!, 'fire');
    const { companions, loads } = await shop.form(step.id);
    expect(companions.map(({ label, ready }) => [label, ready])).toEqual([
      ['T-1 (OTT 1)', true],
      ['T-2 (OTT 2)', false],
    ]);
    expect(companions[1]!.why).toBe('too early');
    expect(loads).toEqual([]);
  });

  it('two writers whose trees are shared do not pass each other', async () => {
    const { pieceIds } = await begun({ editionSize: 2 });
    for (const id of pieceIds) await shop.carry(id, 'join-tree');
    shop.later(600);
    const forms = await Promise.all(pieceIds.map(async (id) => shop.form((await shop.open(id, 'join-tree')).id)));
    const all = forms[0]!.casts.map(({ id }) => id);
    // Both want both casts on their own tree, at the same moment.
    const answers = await Promise.all(
      forms.map((form) => shop.record(form.step, 'done', { ...readings(form), castIds: all })),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409]);
    const [rows] = await shop.store.db.query(
      'SELECT castId, COUNT(*) AS n FROM tree_cast WHERE until IS NULL GROUP BY castId',
    );
    expect((rows as { n: number }[]).map(({ n }) => Number(n))).toEqual([1, 1]);
  });
});
