// The demo is data that people judge Kalvet by: it must hold the trouble it promises, and its records must hang together.
import { play } from './play.ts';
import { compareProjections } from '../server/src/shop/project.ts';
import { TestShop, emptyStore } from '../server/src/testing/shop.ts';

describe('the demo foundry', () => {
  it('is about twenty pieces in all rooms with a leak, a heavy wax, a short pour and its recast, whatever day it is laid', async () => {
    const shop = await TestShop.open();
    await emptyStore(shop.store);
    // A Wednesday afternoon.
    shop.now = '2027-05-12T15:50:00.000Z';
    await play(shop.store, shop.now);
    const floor = await shop.floor();
    const pieces = floor.works.flatMap((work) => work.pieces);
    expect(floor.works.length).toBe(5);
    expect(pieces.length).toBeGreaterThanOrEqual(15);
    expect(pieces.length).toBeLessThanOrEqual(26);
    expect(new Set(pieces.flatMap(({ sections }) => sections.map(({ room }) => room))).size).toBeGreaterThanOrEqual(5);
    const texts = floor.decisions.map(({ text }) => text).join('\n');
    expect(texts).toContain('leak at test');
    expect(texts).toContain('wax 14 % over');
    expect(pieces.filter(({ state }) => state === 'hold').length).toBe(1);
    expect(pieces.some(({ late }) => late)).toBeTrue();
    const [rows] = await shop.store.db.query(
      "SELECT (SELECT COUNT(*) FROM pouring WHERE outcome = 'short') AS short, (SELECT COUNT(*) FROM cast_ WHERE recast) AS recast, (SELECT MAX(doneAt) FROM event) AS last",
    );
    const { short, recast, last } = (rows as { short: number; recast: number; last: Date }[])[0]!;
    expect([Number(short), Number(recast)]).toEqual([1, 1]);
    // Nothing in it was done after now.
    expect(last.toISOString() <= shop.now).toBeTrue();
    const { stored, anew } = await compareProjections(shop.store);
    for (const [id, data] of anew) expect(stored.get(id)).withContext(id).toBe(data);
  }, 120_000);
});
