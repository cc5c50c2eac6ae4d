import request from 'supertest';
import { TestShop } from '../testing/shop.ts';

describe('pages that are kept until something changes', () => {
  const ask = (shop: TestShop, path: string, headers: Record<string, string> = {}) =>
    request(shop.app)
      .get(path)
      .set({ ...shop.headers(), ...headers });

  it('are sent again only to who has not seen them, and made anew after a change', async () => {
    const shop = await TestShop.open();
    await shop.setUp({ code: 'OTT' });
    const first = await ask(shop, '/api/floor');
    const tag = first.headers['etag']!;
    const again = await ask(shop, '/api/floor', { 'If-None-Match': tag });
    expect([again.status, again.text]).toEqual([304, '']);
    // Another page, another tag: never somebody else's 304.
    expect((await ask(shop, '/api/day', { 'If-None-Match': tag })).status).toBe(200);
    await shop.setUp({ code: 'HER' });
    const after = await ask(shop, '/api/floor', { 'If-None-Match': tag });
    expect(after.status).toBe(200);
    expect((after.body as { works: object[] }).works.length).toBe(2);
  });

  it('grow old with the clock: what is late by today’s date is late without any change', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ dueDate: '2027-03-05' });
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'chase-wax');
    const late = async () => (await shop.floor()).works[0]!.pieces[0]!.late;
    expect(shop.now.slice(0, 10) <= '2027-03-05').toBeTrue();
    expect(await late()).toBeFalse();
    shop.now = '2027-03-06T08:00:00.000Z';
    expect(await late()).toBeTrue();
  });

  it('come packed as the asker can read them', async () => {
    const shop = await TestShop.open();
    await shop.setUp();
    for (const encoding of ['gzip', 'br'])
      expect((await ask(shop, '/api/floor', { 'Accept-Encoding': encoding })).headers['content-encoding']).toBe(
        encoding,
      );
    const plain = await ask(shop, '/api/floor', { 'Accept-Encoding': 'identity' });
    expect(plain.headers['content-encoding']).toBeUndefined();
    expect((plain.body as { works: object[] }).works.length).toBe(1);
  });

  it('are not kept where they could not be made', async () => {
    const shop = await TestShop.open();
    await shop.setUp();
    const said = spyOn(console, 'error');
    const broken = spyOn(shop.store.models.works, 'findAll').and.rejectWith(new Error('broken off'));
    expect((await ask(shop, '/api/floor')).status).toBe(500);
    expect(said).toHaveBeenCalled();
    broken.and.callThrough();
    // Nothing changed meanwhile, and yet the page is made, not the error given again.
    const after = await ask(shop, '/api/floor');
    expect([after.status, (after.body as { works: object[] }).works.length]).toEqual([200, 1]);
  });
});
