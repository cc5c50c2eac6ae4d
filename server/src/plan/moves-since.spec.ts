import type { Id, PlanAnswer } from '@kalvet/core';
import { inWords } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';

describe('what moved since the day before', () => {
  let shop: TestShop;
  let pieceIds: Id[];
  beforeEach(async () => {
    shop = await TestShop.open();
    ({ pieceIds } = await shop.setUp({ editionSize: 2 }));
    await shop.plan();
  });
  const page = () => shop.get<PlanAnswer>('/api/plan');
  const movedIn = ({ rows }: PlanAnswer) => rows.filter(({ moved }) => moved !== null);

  it('is told against the last plan of a day before, with what happened to the piece', async () => {
    expect((await page()).movedSince).toBeNull();
    // A second plan of the same day counts, the first does not.
    shop.later(60);
    await shop.must(shop.send('post', '/api/clients', { id: newId(), version: 0, name: 'Gallery', contact: '' }));
    await shop.plan();
    const before = await page();
    const lastOfDay = shop.now;
    // The mould is made before the next morning, as planned: nothing moved.
    await shop.makeMould(pieceIds[0]!);
    await shop.plan();
    const still = await page();
    expect([still.movedSince, movedIn(still)]).toEqual([lastOfDay, []]);
    const version = (await shop.piece(pieceIds[1]!)).piece.version;
    const hold = { version, reason: 'the client is away', until: '2027-05-01', shells: 'stop' };
    await shop.must(shop.send('post', `/api/pieces/${pieceIds[1]}/hold`, hold));
    await shop.plan();
    const [held, ...others] = movedIn(await page());
    expect(others).toEqual([]);
    expect(held!.pieceId).toBe(pieceIds[1]!);
    expect(held!.moved!.from).toBe(before.rows.find(({ pieceId }) => pieceId === pieceIds[1])!.finishesAt!);
    expect(inWords(held!.moved!.because!)).toContain('on hold until 2027-05-01: the client is away');
  });

  it('is still known after many plans: the last of each day stays for a week', async () => {
    for (let day = 0; day < 9; day++) {
      for (let n = 0; n < 3; n++) {
        shop.later(30);
        await shop.plan();
      }
      shop.later(24 * 60 - 90);
    }
    const plans = await rowsOf<{ madeAt: string }>(shop.store, 'plans', {});
    const days = new Set(plans.map(({ madeAt }) => madeAt.slice(0, 10)));
    // Of nine days the last eight, and of the newest ones all eight plans.
    expect([days.size, days.has('2027-03-09'), days.has('2027-03-01')]).toEqual([8, true, false]);
    expect(plans.length).toBeLessThanOrEqual(8 + 8);
    expect((await page()).movedSince!.slice(0, 10)).toBe('2027-03-09');
  });
});
