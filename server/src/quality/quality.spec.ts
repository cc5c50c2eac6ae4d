import type { Id, LearnedLine, QualityAnswer, TakeFigure } from '@kalvet/core';
import { literal } from 'sequelize';
import { TestShop } from '../testing/shop.ts';

describe('what the shop has learned of itself', () => {
  let shop: TestShop;
  let workId: Id;
  beforeEach(async () => {
    shop = await TestShop.open();
    const { id, pieceIds } = await shop.setUp({ editionSize: 3 });
    workId = id;
    await shop.makeMould(pieceIds[0]!);
    for (const pieceId of pieceIds.slice(0, 2)) await shop.carry(pieceId, 'chase-metal');
    // As if every cast had come out a twentieth lighter than the formula says.
    await shop.store.models.weights.update({ kg: literal('kg * 0.95') }, { where: { of: 'cast' } });
  });

  const page = () => shop.get<QualityAnswer>('/api/quality');
  const factor = ({ lines }: QualityAnswer): LearnedLine => lines.find(({ group }) => group === 'cast factor')!;
  const take = async (rest: Partial<TakeFigure> = {}) => {
    const answer = await page();
    const { id, learned } = factor(answer);
    return shop.send('post', '/api/quality/take', {
      ...{ version: answer.settingsVersion, line: id, back: false, n: learned?.n ?? 0 },
      ...rest,
    });
  };
  const error = (body: unknown) => (body as { error: { code: string; fields?: object } }).error;

  it('counts every cast that was weighed twice; taken over it stands in what the next wax will weigh, and back', async () => {
    const before = factor(await page());
    expect([before.learned!.n, before.taken, before.inUse]).toEqual([2, null, before.usual]);
    const planned = async () =>
      (await shop.get<{ sections: { plannedCast: { value: number } | null }[] }>(`/api/works/${workId}`)).sections[0]!
        .plannedCast!.value;
    const formula = await planned();
    await shop.must(take());
    const after = factor(await page());
    expect(after.inUse).toBeCloseTo(before.offered!, 9);
    expect([after.offered, after.taken!.n]).toEqual([null, 2]);
    expect((await planned()) / formula).toBeCloseTo(before.offered! / before.usual!, 6);
    expect(error((await take()).body).fields).toEqual({ line: 'says nothing new' });
    await shop.must(take({ back: true }));
    expect([factor(await page()).inUse, await planned()]).toEqual([before.usual, formula]);
  });

  it('is taken over as it was seen, once, by who may; what is no such figure is named', async () => {
    const { settingsVersion } = await page();
    expect(error((await take({ n: 7 })).body).code).toBe('stale');
    expect(error((await take({ line: 'yield wax' })).body).fields).toEqual({
      line: 'is no figure that can be taken over',
    });
    expect(error((await take({ line: 'cast factor C1 none' })).body).code).toBe('invalid');
    await shop.must(take());
    expect(error((await take({ version: settingsVersion, back: true })).body).code).toBe('stale');
    expect(factor(await page()).taken).not.toBeNull();
  });
});
