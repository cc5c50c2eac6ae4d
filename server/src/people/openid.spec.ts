import request from 'supertest';
import type { SessionAnswer } from '@kalvet/core';
import { createApp } from '../app.ts';
import type { Provider } from '../testing/openid-provider.ts';
import { openidProvider } from '../testing/openid-provider.ts';
import { TestShop } from '../testing/shop.ts';
import { openidFrom } from './openid.ts';

describe('the shop’s own sign-in', () => {
  let provider: Provider;
  let shop: TestShop;
  let app: ReturnType<typeof createApp>['app'];
  beforeAll(async () => {
    provider = await openidProvider('kalvet', 'between us');
  });
  afterAll(() => provider.stop());
  beforeEach(async () => {
    shop = await TestShop.open();
    const { issuer } = provider;
    const openid = { issuer, clientId: 'kalvet', clientSecret: 'between us', name: 'Quay accounts', insecure: true };
    app = createApp({ store: shop.store, now: () => shop.now, openid }).app;
    await shop.must(shop.send('put', `/api/people/${shop.person}/openid`, { openid: 'ines@quay.example' }));
  });

  /** Goes to the provider and comes back, as a browser does; `spoil` changes what comes back. */
  const goThere = async (spoil: (back: URL) => void = () => undefined) => {
    const begun = await request(app).get('/api/session/openid').set('Host', 'localhost');
    const cookies = begun.headers['set-cookie'] as unknown as string[];
    const there = await fetch(begun.headers['location']!, { redirect: 'manual' });
    const back = new URL(there.headers.get('location')!);
    spoil(back);
    return (
      request(app)
        .get(back.pathname + back.search)
        .set('Host', 'localhost')
        // The browser comes from the provider's pages.
        .set('Sec-Fetch-Site', 'cross-site')
        .set('Cookie', cookies.map((each) => each.split(';')[0]).join('; '))
    );
  };

  it('signs in whom the provider vouches for by a verified address, and says so in the audit', async () => {
    provider.vouch = { sub: 'u-1', email: 'ines@quay.example', email_verified: true };
    const back = await goThere();
    expect([back.status, back.headers['location']]).toEqual([302, '/']);
    const cookie = (back.headers['set-cookie'] as unknown as string[]).find((each) =>
      each.startsWith('kalvet_session='),
    )!;
    const { body } = await request(app).get('/api/session').set('Cookie', cookie.split(';')[0]!);
    const { state, person, how } = body as SessionAnswer;
    expect([state, person!.id, how]).toEqual(['in', shop.person, 'openid']);
  });

  it('lets nobody in whose address is not verified, whom nobody entered, or who answers another question', async () => {
    const inside = async (...args: Parameters<typeof goThere>) => {
      const { status, headers } = await goThere(...args);
      return [
        status,
        ((headers['set-cookie'] as unknown as string[]) ?? []).some((each) => each.startsWith('kalvet_session=')),
      ];
    };
    provider.vouch = { sub: 'u-1', email: 'ines@quay.example' };
    expect(await inside()).toEqual([403, false]);
    provider.vouch = { sub: 'u-9', email: 'eve@elsewhere.example', email_verified: true };
    expect(await inside()).toEqual([403, false]);
    provider.vouch = { sub: 'u-1', email: 'ines@quay.example', email_verified: true, nonce: 'of another one' };
    expect(await inside()).toEqual([401, false]);
    delete provider.vouch.nonce;
    expect(await inside((back) => back.searchParams.set('state', 'made up'))).toEqual([401, false]);
    expect(await inside((back) => back.searchParams.set('code', 'made up'))).toEqual([401, false]);
    // Without the cookie of its own beginning it is somebody else's.
    const stolen = await request(app).get('/api/session/openid/back?code=x&state=y').set('Host', 'localhost');
    expect(stolen.status).toBe(401);
  });

  it('is taken from the environment, and only over an encrypted way', () => {
    expect(openidFrom({})).toBeUndefined();
    const env = { KALVET_OIDC_ISSUER: 'https://id.quay.example/', KALVET_OIDC_CLIENT_ID: 'k' };
    expect(openidFrom(env)).toEqual(
      jasmine.objectContaining({ clientId: 'k', name: 'id.quay.example', insecure: false }),
    );
    expect(() => openidFrom({ ...env, KALVET_OIDC_ISSUER: 'http://id.quay.example/' })).toThrowError(/must be https/);
    expect(() => openidFrom({ KALVET_OIDC_ISSUER: 'https://id.quay.example/' })).toThrowError(/CLIENT_ID/);
  });
});
