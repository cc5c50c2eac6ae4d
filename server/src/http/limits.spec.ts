import request from 'supertest';
import { createApp } from '../app.ts';
import { TestShop, workBody } from '../testing/shop.ts';
import { RATES } from './rates.ts';

describe('limits', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  it('count a list before its items are looked at, and tell the first fifty faults in a small answer', async () => {
    const long = await shop.send('post', '/api/works', {
      ...workBody(),
      sections: Array.from({ length: 4000 }, () => null),
    });
    expect([long.status, Object.keys(long.body.error.fields)]).toEqual([400, ['sections']]);
    expect(long.body.error.fields.sections).toContain('takes at most');
    const wide = Object.fromEntries(Array.from({ length: 4000 }, (_, i) => [`unknown-${i}-${'x'.repeat(30)}`, i]));
    const many = await shop.send('post', '/api/works', { ...workBody(), ...wide });
    expect([many.status, Object.keys(many.body.error.fields).length]).toEqual([400, 50]);
    expect(JSON.stringify(many.body).length).toBeLessThan(64 * 1024);
    let deep: object = {};
    for (let i = 0; i < 60; i++) deep = { deep };
    expect((await shop.send('post', '/api/works', { ...workBody(), deep })).status).toBe(400);
  });

  it('send back neither what was sent nor what is there where that would be much', async () => {
    const client = { id: '01a00000-0000-7000-8000-000000000001', version: 0, name: 'Gallery', contact: '' };
    await shop.must(shop.send('post', '/api/clients', client));
    const { pieceIds } = await shop.setUp({ editionSize: 60, approval: 'none' });
    const order = {
      id: '01a00000-0000-7000-8000-000000000003',
      clientId: client.id,
      place: '',
      dueDate: null,
      partDelivery: true,
    };
    await shop.must(shop.send('post', '/api/orders', { ...order, version: 0, title: 'x', note: '', pieceIds }));
    const stale = await shop.send('post', '/api/orders', { ...order, version: 9, title: 'x', note: '', pieceIds });
    expect([stale.status, stale.body.error.yours.title]).toEqual([409, 'x']);
    const { body } = await request(shop.app)
      .patch(`/api/people/${shop.person}`)
      .set(shop.headers())
      .set('Idempotency-Key', '01a00000-0000-7000-8000-000000000004')
      .send({ version: 9, gates: [], roles: ['manager'], rooms: [] });
    expect(JSON.stringify(body).length).toBeLessThan(64 * 1024);
  });

  it('make no page for what an address says beside what it knows', async () => {
    const tags = new Set<string>();
    for (const query of ['', '?a=1', '?b=2', '?a=1&c=3']) {
      const { status, headers } = await request(shop.app).get(`/api/floor${query}`).set(shop.headers());
      expect(status).toBe(200);
      tags.add(headers['etag']!);
    }
    // A page's tag is its address and its stamp: one tag is one page.
    expect(tags.size).toBe(1);
  });

  it('let a person and an address ask so much a minute, and signing in much less', async () => {
    const rates = { ...RATES, person: 3, signIn: 2 };
    const app = createApp({ store: shop.store, now: () => shop.now, rates }).app;
    const get = () => request(app).get('/api/find?q=x').set(shop.headers());
    for (let i = 0; i < 3; i++) expect((await get()).status).toBe(200);
    const held = await get();
    expect([held.status, held.body.error.code, held.body.error.waitS > 0]).toEqual([429, 'wait', true]);
    const signIn = () => request(app).post('/api/session').send({ name: 'Nobody', password: 'wrong password' });
    expect([(await signIn()).status, (await signIn()).status, (await signIn()).status]).toEqual([401, 401, 429]);
  });

  it('refuse records in words while the disk is full, and take them as soon as there is room', async () => {
    const disk = { freeMb: 120, state: 'full' as 'full' | 'well' };
    const app = createApp({ store: shop.store, now: () => shop.now, disk: () => disk }).app;
    const client = { id: '01a00000-0000-7000-8000-000000000001', version: 0, name: 'Gallery', contact: '' };
    const save = () =>
      request(app)
        .post('/api/clients')
        .set(shop.headers())
        .set('Idempotency-Key', '01a00000-0000-7000-8000-000000000002')
        .send(client);
    const full = await save();
    expect([full.status, full.body.error.message]).toEqual([503, jasmine.stringContaining('120 MB left')]);
    expect((await request(app).get('/api/floor').set(shop.headers())).status).toBe(200);
    expect((await request(app).get('/api/standing').set(shop.headers())).body.disk.state).toBe('full');
    disk.state = 'well';
    expect((await save()).status).toBe(200);
  });

  it('go on with a default where somebody’s hand left a setting that no form takes', async () => {
    const said = spyOn(console, 'error');
    await shop.store.db.query(
      `INSERT INTO setting VALUES ('timeZone', '"Mars/Olympus"'), ('crucibleUsableKg', '"much"'), ('routeTimes', '[]')`,
    );
    const { settings } = await shop.get<{ settings: Record<string, unknown> }>('/api/shop');
    expect([settings['timeZone'], settings['crucibleUsableKg'], settings['routeTimes']]).toEqual([
      'Europe/London',
      120,
      {},
    ]);
    expect(said).toHaveBeenCalledTimes(3);
    expect((await request(shop.app).get('/api/floor').set(shop.headers())).status).toBe(200);
  });
});
