import { randomUUID } from 'node:crypto';
import request from 'supertest';
import type { Id, SessionAnswer, SessionsAnswer } from '@kalvet/core';
import { TestShop, workBody } from '../testing/shop.ts';
import { waitAfter } from './tries.ts';

const PASSWORD = 'three brown otters';

/** A browser that keeps its cookies. */
class Client {
  private readonly cookies = new Map<string, string>();
  token = '';
  constructor(private readonly shop: TestShop) {}

  async ask(method: 'get' | 'post' | 'put', path: string, body?: object, headers: Record<string, string> = {}) {
    const asked = request(this.shop.app)
      [method](path)
      .set('Cookie', [...this.cookies].map(([name, value]) => `${name}=${value}`).join('; '))
      .set('X-Kalvet-Token', this.token)
      .set(headers);
    const answer = await (body ? asked.send(body) : asked);
    for (const line of (answer.headers['set-cookie'] as unknown as string[] | undefined) ?? []) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(line)!;
      if (value === '') this.cookies.delete(name!);
      else this.cookies.set(name!, value!);
    }
    return answer;
  }

  async session(): Promise<SessionAnswer> {
    const { body } = await this.ask('get', '/api/session');
    this.token = (body as SessionAnswer).token;
    return body as SessionAnswer;
  }

  async signIn(name: string, password = PASSWORD) {
    const answer = await this.ask('post', '/api/session', { name, password });
    await this.session();
    return answer;
  }

  cookie = (name: string) => this.cookies.get(name);
}

describe('a shop that nobody manages yet', () => {
  it('is set up once, by whoever comes first, with a password that is not guessed', async () => {
    const shop = await TestShop.open();
    await shop.store.models.sessions.destroy({ where: {} });
    const client = new Client(shop);
    expect((await client.session()).state).toBe('set up');
    const body = { name: 'Ines Marlow', shortName: 'IM', password: 'password12' };
    const weak = await client.ask('post', '/api/set-up', body);
    expect([weak.status, weak.body.error.fields]).toEqual([400, { password: 'is one of the commonest passwords' }]);
    // Somebody of this name recorded before there was a sign-in: they go on as themselves.
    expect((await client.ask('post', '/api/set-up', { ...body, password: PASSWORD })).status).toBe(201);
    const { state, person } = await client.session();
    expect([state, person!.id]).toEqual(['in', shop.person]);
    const late = await new Client(shop).ask('post', '/api/set-up', {
      ...body,
      name: 'Eve',
      shortName: 'EV',
      password: PASSWORD,
    });
    expect([late.status, late.body.error.code]).toEqual([403, 'may not']);
  });
});

describe('signing in', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
    await shop.store.models.sessions.destroy({ where: {} });
    const body = { name: 'Ines Marlow', shortName: 'IM', password: PASSWORD };
    await request(shop.app).post('/api/set-up').send(body);
  });

  it('takes name or short name in any letters, gives a new session, and a cookie that no script reads', async () => {
    const client = new Client(shop);
    const answer = await client.signIn('ines marlow');
    const cookie = (answer.headers['set-cookie'] as unknown as string[]).find((each) =>
      each.startsWith('kalvet_session'),
    )!;
    expect(cookie).toMatch(/; HttpOnly/);
    expect(cookie).toMatch(/; SameSite=Strict/);
    expect(cookie).not.toMatch(/; Secure/);
    const first = client.cookie('kalvet_session');
    await client.signIn('im');
    expect(client.cookie('kalvet_session')).not.toBe(first);
    // What is kept is not what the cookie holds.
    const { count } = await shop.store.models.sessions.findAndCountAll({
      where: { id: client.cookie('kalvet_session')! },
    });
    expect(count).toBe(0);
  });

  it('answers a wrong name and a wrong password in the same words, and in about the same time', async () => {
    const took = async (name: string) => {
      const began = performance.now();
      const { status, body } = await new Client(shop).ask('post', '/api/session', { name, password: 'wrong password' });
      return { ms: performance.now() - began, said: [status, body.error.message] };
    };
    const known = await took('Ines Marlow');
    const unknown = await took('Nobody Atall');
    expect(known.said).toEqual(unknown.said);
    expect(known.said[0]).toBe(401);
    // Both hash once; without that the one who is not there would be answered ten times sooner.
    expect(unknown.ms).toBeGreaterThan(known.ms / 4);
  });

  it('makes who guesses wait, longer each time, and nobody who was here before', async () => {
    expect([2, 3, 4, 5, 30].map((failures) => waitAfter(failures, { free: 3, mostS: 900 }))).toEqual([0, 1, 2, 4, 900]);
    const own = new Client(shop);
    await own.signIn('Ines Marlow');
    const guesser = new Client(shop);
    for (let i = 0; i < 3; i++) await guesser.signIn('Ines Marlow', `guess number ${i}`);
    const held = await guesser.signIn('Ines Marlow', 'guess number 4');
    expect([held.status, held.body.error.code, held.body.error.waitS]).toEqual([429, 'wait', 1]);
    // The right password helps a guesser no more than another guess; at her own browser she comes in.
    expect((await guesser.signIn('Ines Marlow')).status).toBe(429);
    expect((await own.signIn('Ines Marlow')).status).toBe(200);
    // Other names from the guesser's address are not held up by it.
    expect((await new Client(shop).signIn('Oskar Venn')).status).toBe(401);
  });

  it('is not got round by many tries at once', async () => {
    const all = await Promise.all(
      Array.from({ length: 12 }, (_, i) => new Client(shop).signIn('Ines Marlow', `guess number ${i}`)),
    );
    expect(all.filter(({ status }) => status === 401).length).toBe(3);
  });

  it('lets writes through with the session’s own token alone', async () => {
    const client = new Client(shop);
    await client.signIn('Ines Marlow');
    const write = (token: string) =>
      client.ask('post', '/api/works', workBody(), { 'Idempotency-Key': randomUUID(), 'X-Kalvet-Token': token });
    expect((await write('')).status).toBe(403);
    expect((await write('x'.repeat(43))).status).toBe(403);
    expect((await write(client.token)).status).toBe(201);
  });

  it('ends by idling, in any case after a week, by signing out, and everywhere else at once', async () => {
    const [here, there] = [new Client(shop), new Client(shop)];
    await here.signIn('IM');
    await there.signIn('IM');
    const { sessions } = (await here.ask('get', '/api/sessions')).body as SessionsAnswer;
    // The one that set the shop up, and these two.
    expect(sessions.map((each) => each.here).filter(Boolean).length).toBe(1);
    expect(sessions.length).toBe(3);
    await here.ask('post', '/api/sessions/end', {});
    expect([(await here.session()).state, (await there.session()).state]).toEqual(['in', 'out']);
    const old = (hours: number) => new Date(Date.now() - hours * 3_600_000);
    await shop.store.models.sessions.update({ lastSeenAt: old(13) }, { where: {} });
    expect((await here.session()).state).toBe('out');
    await here.signIn('IM');
    await shop.store.models.sessions.update({ createdAt: old(24 * 7 + 1) }, { where: {} });
    expect((await here.session()).state).toBe('out');
    await here.signIn('IM');
    const kept = here.cookie('kalvet_session')!;
    await here.ask('post', '/api/session/end', {});
    const again = await request(shop.app).get('/api/floor').set('Cookie', `kalvet_session=${kept}`);
    expect(again.status).toBe(401);
  });

  it('asks for a new password after one was given for one time, and changes it everywhere', async () => {
    const ines = new Client(shop);
    await ines.signIn('IM');
    const key = { 'Idempotency-Key': randomUUID() };
    const oskar = { id: randomUUID(), name: 'Oskar Venn', shortName: 'OV', roles: ['hand'], rooms: [], gates: [] };
    expect((await ines.ask('post', '/api/people', oskar, key)).status).toBe(201);
    const { password } = (await ines.ask('post', `/api/people/${oskar.id}/password`, {})).body as { password: string };
    const client = new Client(shop);
    await client.signIn('OV', password);
    expect((await client.session()).state).toBe('new password');
    // Until then nothing else is answered.
    expect((await client.ask('get', '/api/floor')).status).toBe(403);
    const before = await client.ask('put', '/api/session/password', { before: 'not it', password: PASSWORD });
    expect(before.body.error.fields).toEqual({ before: 'is not your password' });
    expect((await client.ask('put', '/api/session/password', { before: password, password })).status).toBe(400);
    await client.ask('put', '/api/session/password', { before: password, password: 'a heron in the reeds' });
    expect((await client.session()).state).toBe('in');
    expect((await client.ask('get', '/api/floor')).status).toBe(200);
    expect((await new Client(shop).signIn('OV', password)).status).toBe(401);
    expect((await new Client(shop).signIn('OV', 'a heron in the reeds')).status).toBe(200);
    const own = await ines.ask('post', `/api/people/${shop.person}/password`, {});
    expect(own.status).toBe(400);
  });

  it('leaves every try in the audit, with who, from where and how sure', async () => {
    await new Client(shop).signIn('Nobody', 'x');
    const ines = new Client(shop);
    await ines.ask('post', '/api/session', { name: 'IM', password: PASSWORD }, { 'User-Agent': 'Firefox/128.0 Linux' });
    await ines.session();
    const { lines } = (await ines.ask('get', '/api/audit')).body as { lines: Record<string, string>[] };
    expect(lines.slice(0, 2).map(({ what, name, how, agent }) => [what, name, how, agent])).toEqual([
      ['sign in', 'Ines Marlow', 'password', 'Firefox on Linux'],
      ['failed', 'Nobody', 'password', ''],
    ]);
    const file = await ines.ask('get', '/api/audit.csv?what=failed');
    expect(file.text).toContain('failed,Nobody,signed in by password,name or password wrong');
    const after = (await ines.ask('get', '/api/audit?what=export')).body as { lines: { text: string }[] };
    expect(after.lines[0]!.text).toBe('audit, 1 lines');
  });
});

describe('a room’s tablet', () => {
  it('is paired once, offers who has a PIN and works in its room, and is taken back', async () => {
    const shop = await TestShop.open();
    await shop.store.models.sessions.destroy({ where: {} });
    const tablet = new Client(shop);
    await tablet.ask('post', '/api/set-up', { name: 'Ines Marlow', shortName: 'IM', password: PASSWORD });
    await tablet.session();
    const oskar = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'], rooms: ['shell'] });
    const petra = await shop.addPerson('Petra Lund', 'PL', { roles: ['hand'], rooms: ['wax'] });
    await shop.signIn(oskar, 'demo');
    await shop.signIn(petra, 'demo');
    const pin = (person: Id, value: string) =>
      shop.send('put', '/api/session/pin', { password: '-', pin: value }, randomUUID(), person);
    expect((await pin(oskar, '1234')).body.error.fields.pin).toContain('everybody tries first');
    for (const person of [oskar, petra]) await shop.must(pin(person, '4719'));
    const other = await new Client(shop).ask('post', '/api/session/pin', { personId: oskar, pin: '4719' });
    expect([other.status, other.body.error.message]).toEqual([403, jasmine.stringContaining('was paired')]);

    await tablet.ask('post', '/api/tablets', { name: 'At the tanks', room: 'shell' });
    const stand = await tablet.session();
    expect([stand.state, stand.tablet, stand.choices.map(({ shortName }) => shortName)]).toEqual([
      'out',
      { name: 'At the tanks', room: 'shell' },
      ['OV'],
    ]);
    const wrong = await tablet.ask('post', '/api/session/pin', { personId: oskar, pin: '9999' });
    expect([wrong.status, wrong.body.error.message]).toEqual([401, 'That is not the PIN.']);
    // Petra's PIN is right, but she does not work in this room.
    expect((await tablet.ask('post', '/api/session/pin', { personId: petra, pin: '4719' })).status).toBe(401);
    await tablet.ask('post', '/api/session/pin', { personId: oskar, pin: '4719' });
    const inside = await tablet.session();
    expect([inside.person!.id, inside.how]).toEqual([oskar, 'pin']);
    // What its page reads by itself keeps no session alive; a touch does.
    const seen = async () => {
      const [row] = await shop.store.models.sessions.findAll({ where: { how: 'pin' }, raw: true });
      return new Date((row as unknown as { lastSeenAt: Date }).lastSeenAt).getTime();
    };
    const ago = Date.now() - 5 * 60_000;
    await shop.store.models.sessions.update({ lastSeenAt: new Date(ago) }, { where: { how: 'pin' } });
    await tablet.ask('get', '/api/standing');
    expect(Math.abs((await seen()) - ago)).toBeLessThan(1500);
    await tablet.ask('get', '/api/standing', undefined, { 'X-Kalvet-Attended': '1' });
    expect(await seen()).toBeGreaterThan(ago + 60_000);
    // A tablet lies about: a quarter of an hour is enough.
    await shop.store.models.sessions.update(
      { lastSeenAt: new Date(Date.now() - 16 * 60_000) },
      { where: { how: 'pin' } },
    );
    expect((await tablet.session()).state).toBe('out');

    await tablet.ask('post', '/api/session/pin', { personId: oskar, pin: '4719' });
    const { tablets } = await shop.get<{ tablets: { id: Id; name: string }[] }>(
      '/api/people',
      await shop.signIn(shop.person),
    );
    await shop.must(shop.send('post', `/api/tablets/${tablets[0]!.id}/unpair`, {}));
    const after = await tablet.session();
    expect([after.state, after.tablet]).toEqual(['out', null]);
  });
});
