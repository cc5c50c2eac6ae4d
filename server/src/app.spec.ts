import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ShopAnswer } from '@kalvet/core';
import request from 'supertest';
import { createApp } from './app.ts';
import { TestShop } from './testing/shop.ts';

describe('the application', () => {
  let shop: TestShop;
  const web = mkdtempSync(join(tmpdir(), 'kalvet-web-'));
  const app = () => createApp({ store: shop.store, now: () => shop.now, web, hosts: ['foundry.example'] }).app;

  beforeAll(() => {
    mkdirSync(join(web, 'media'), { recursive: true });
    writeFileSync(join(web, 'index.html'), '<kv-root></kv-root>');
    writeFileSync(join(web, 'main-ABCD1234.js'), 'let a;');
    writeFileSync(join(web, 'favicon.svg'), '<svg/>');
  });
  afterAll(() => rmSync(web, { recursive: true, force: true }));
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  it('gives the page for every address of a screen, and no page for a file or an API that is not there', async () => {
    for (const path of ['/', '/floor', '/pieces/01a00000-0000-7000-8000-000000000000']) {
      const page = await request(app()).get(path);
      expect([page.status, page.text])
        .withContext(path)
        .toEqual([200, jasmine.stringMatching(/^<kv-root ngCspNonce="[\w+/=]{24}"><\/kv-root>$/)]);
      expect(page.headers['cache-control']).toBe('no-store');
    }
    expect((await request(app()).get('/nothing.js')).status).toBe(404);
    expect((await request(app()).get('/api').set(shop.headers())).body.error.code).toBe('not found');
  });

  it('lets a browser keep what carries a hash in its name, and nothing else', async () => {
    expect((await request(app()).get('/main-ABCD1234.js')).headers['cache-control']).toContain('immutable');
    expect((await request(app()).get('/favicon.svg')).headers['cache-control']).toBe('no-cache');
  });

  it('sends headers that keep other sites’ scripts and frames out', async () => {
    const { headers, text } = await request(app()).get('/floor');
    // Styles that the page's scripts write carry its own nonce; nothing inline runs.
    const nonce = /ngCspNonce="([^"]+)"/.exec(text)![1];
    expect(headers['content-security-policy']).toContain(`style-src 'self' 'nonce-${nonce}'`);
    expect(headers['content-security-policy']).not.toMatch(/script-src[^;]*unsafe-inline/);
    expect(headers['permissions-policy']).toContain('geolocation=()');
    expect(headers['strict-transport-security']).toBeUndefined();
    expect(headers['content-security-policy']).toContain("script-src 'self'");
    expect(headers['content-security-policy']).toContain("frame-ancestors 'self'");
    expect(headers['x-content-type-options']).toBe('nosniff');
    expect(headers['x-powered-by']).toBeUndefined();
  });

  it('believes a proxy that was named, and nobody else, that the way was encrypted', async () => {
    const said = { 'X-Forwarded-Proto': 'https', 'X-Forwarded-For': '203.0.113.7' };
    const behind = createApp({ store: shop.store, now: () => shop.now, web, proxies: ['127.0.0.1', '::1'] }).app;
    const signIn = (to: typeof behind) =>
      request(to)
        .post('/api/set-up')
        .set(said)
        .send({ name: 'Ines Marlow', shortName: 'IM', password: 'three brown otters' });
    const secure = await signIn(behind);
    expect(secure.headers['strict-transport-security']).toContain('max-age=31536000');
    expect(String(secure.headers['set-cookie'])).toContain('Secure');
    const [line] = (await shop.get<{ lines: { address: string }[] }>('/api/audit')).lines;
    expect(line!.address).toBe('203.0.113.7');
    const plain = await request(app()).get('/floor').set(said);
    expect(plain.headers['strict-transport-security']).toBeUndefined();
  });

  it('lets anybody be anybody in the demo alone, and only from this machine by its own name', async () => {
    const demo = createApp({ store: shop.store, now: () => shop.now, demo: true, hosts: ['foundry.example'] }).app;
    const choose = (to: typeof demo, headers: Record<string, string>) =>
      request(to).post('/api/session/demo').set(headers).send({ personId: shop.person });
    expect((await choose(demo, { Host: 'localhost:4300' })).status).toBe(200);
    expect((await choose(demo, { Host: 'foundry.example' })).status).toBe(403);
    expect((await choose(demo, { Host: 'localhost', 'X-Forwarded-For': '10.0.0.9' })).status).toBe(403);
    expect((await choose(app(), { Host: 'localhost' })).status).toBe(403);
    const names = (await request(app()).get('/api/session')).body as { choices: object[] };
    expect(names.choices).toEqual([]);
  });

  it('answers a host that it was told of, by name and port', async () => {
    const ask = (host: string) => request(app()).get('/api/health').set('Host', host);
    expect((await ask('foundry.example:4300')).status).toBe(200);
    expect((await ask('localhost:4300')).status).toBe(200);
    expect((await ask('foundry.example.evil')).status).toBe(403);
  });

  it('tells a screen who works here, the settings, and what day it is in the shop', async () => {
    shop.now = '2027-07-01T23:30:00.000Z';
    const body = (await request(app()).get('/api/shop').set(shop.headers())).body as ShopAnswer;
    // Half past midnight on the second in London's summer time.
    expect([body.today, body.people[0]!.name, body.settings.crucibleUsableKg]).toEqual([
      '2027-07-02',
      'Ines Marlow',
      120,
    ]);
    await shop.store.db.query("INSERT INTO setting VALUES ('timeZone', '\"America/New_York\"'), ('liftLimitKg', '18')");
    const own = (await request(app()).get('/api/shop').set(shop.headers())).body as ShopAnswer;
    expect([own.today, own.settings.liftLimitKg]).toEqual(['2027-07-01', 18]);
  });
});
