// Walks every address with every role, and with nobody, and compares with the one table.
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import type { FloorAnswer, Id, Role } from '@kalvet/core';
import { MAY_DO, MAY_READ, ROLES, mayDo } from '@kalvet/core';
import type { Route } from '../testing/routes.ts';
import { routesOf } from '../testing/routes.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';
import { pageOf } from './rights.ts';

/** What answers whoever has not signed in: signing in itself, and whether Kalvet is well. */
const OPEN: ReadonlySet<string> = new Set([
  'get /api/health',
  'get /api/feed/:secret',
  'get /api/session',
  'post /api/set-up',
  'post /api/session',
  'post /api/session/pin',
  'post /api/session/demo',
  'get /api/session/openid',
  'get /api/session/openid/back',
  'post /api/session/end',
]);
const nameOf = ({ method, path }: Route) => `${method} ${path}`;
const addressOf = ({ path }: Route) => path.replace(/:number/, '999999').replace(/:\w+/g, newId());

describe('every address', () => {
  let shop: TestShop;
  let routes: Route[];
  beforeEach(async () => {
    shop = await TestShop.open();
    routes = routesOf(shop.app);
  });

  const ask = (route: Route, headers: Record<string, string> = {}) =>
    request(shop.app)
      [route.method](addressOf(route))
      .set('Idempotency-Key', randomUUID())
      .set(headers)
      .send(route.method === 'get' ? undefined : {});

  it('is known to the walk: pages, records and signing in', () => {
    expect(routes.length).toBeGreaterThan(60);
    for (const path of [
      '/api/floor',
      '/api/steps/:id/record',
      '/api/audit.csv',
      '/api/changes',
      '/api/settings/backups',
    ])
      expect(routes.some((route) => route.path === path))
        .withContext(path)
        .toBeTrue();
    // A write without a guard of its own would be anybody's.
    const open = routes.filter(({ method, right }) => method !== 'get' && right === undefined).map(nameOf);
    expect(open.filter((name) => !OPEN.has(name))).toEqual(['put /api/session/password']);
  });

  it('answers nobody who has not signed in, but for health, signing in and the screens’ files', async () => {
    for (const route of routes.filter((each) => !OPEN.has(nameOf(each)))) {
      const { status, body } = await ask(route);
      expect([status, (body as { error: { code: string } }).error.code])
        .withContext(nameOf(route))
        .toEqual([401, 'sign in']);
    }
    expect((await request(shop.app).get('/api/nothing')).status).toBe(401);
  });

  it('is read and written by the roles that the table names, and by no other', async () => {
    const people = new Map<Role, Id>();
    for (const role of ROLES) people.set(role, await shop.addPerson(`A ${role}`, role.slice(0, 12), { roles: [role] }));
    for (const route of routes.filter((each) => !OPEN.has(nameOf(each)) && !each.path.startsWith('/api/session'))) {
      // A stream stays open: its guard is the one of every read.
      if (route.path === '/api/changes') continue;
      const page = pageOf(route.path.replace('/api', ''));
      expect(route.method !== 'get' || page !== undefined)
        .withContext(`${nameOf(route)} is a page of the table`)
        .toBeTrue();
      for (const [role, person] of people) {
        const may =
          route.method === 'get'
            ? MAY_READ[page!].includes(role)
            : route.right === 'anybody' || MAY_DO[route.right!].includes(role);
        const { status, body } = await ask(route, shop.headers(person));
        const refused = status === 403 && (body as { error: { rule?: string } }).error.rule === 'rights';
        expect(refused)
          .withContext(`${role}: ${nameOf(route)} → ${status}`)
          .toBe(!may);
        expect(status)
          .withContext(`${role}: ${nameOf(route)}`)
          .not.toBe(500);
      }
    }
  });

  it('asks again with the record: another room, a decision that is somebody else’s', async () => {
    const { pieceIds } = await shop.setUp({ approval: 'first' });
    const petra = await shop.addPerson('Petra Lund', 'PL', { roles: ['hand'], rooms: ['wax'] });
    const oskar = await shop.addPerson('Oskar Venn', 'OV', { roles: ['hand'], rooms: ['shell'] });
    await shop.makeMould(pieceIds[0]!);
    const record = (kind: 'pull' | 'approve-wax', person: Id) =>
      shop.open(pieceIds[0]!, kind).then((step) => {
        const body = {
          version: step.version,
          outcome: 'done',
          startedAt: null,
          endedAt: shop.now,
          by: [person],
          note: '',
        };
        const readings = kind === 'pull' ? {} : { by: 'the artist' };
        return shop.send('post', `/api/steps/${step.id}/record`, { ...body, readings }, randomUUID(), person);
      });
    const away = await record('pull', oskar);
    expect([away.status, away.body.error.rule]).toEqual([403, 'rights']);
    expect((await record('pull', petra)).status).not.toBe(403);
    await shop.carry(pieceIds[0]!, 'approve-wax');
    const gate = await record('approve-wax', petra);
    expect([gate.status, gate.body.error.rule, gate.body.error.message]).toEqual([
      403,
      'gate',
      'Petra Lund does not answer for the wax approval; a production manager or room lead does, or whoever it was given to by name.',
    ]);
    const person = { version: 1, gates: ['wax approval'] };
    await shop.must(shop.send('patch', `/api/people/${petra}`, person));
    expect((await record('approve-wax', petra)).status).toBe(200);
  });

  it('keeps clients and recipes from those who need not see them', async () => {
    const { pieceIds } = await shop.setUp();
    const client = { id: newId(), version: 0, name: 'Gallery Ostrow', contact: '' };
    await shop.must(shop.send('post', '/api/clients', client));
    const order = { title: 'Otters', place: '', dueDate: null, partDelivery: true, note: '', pieceIds };
    await shop.must(shop.send('post', '/api/orders', { ...order, id: newId(), version: 0, clientId: client.id }));
    await shop.makeMould(pieceIds[0]!);
    await shop.carry(pieceIds[0]!, 'final-inspection');
    const visitor = await shop.addPerson('Wilma Tarn', 'WT', { roles: ['visitor'] });
    const floor = await request(shop.app).get('/api/floor').set(shop.headers(visitor));
    expect([(floor.body as FloorAnswer).works.length, floor.text.includes('Ostrow')]).toEqual([1, false]);
    expect((await shop.floor()).orders.length).toBe(1);
    const piece = (person: Id) => request(shop.app).get(`/api/pieces/${pieceIds[0]}`).set(shop.headers(person));
    // As the play of the specs writes it.
    expect((await piece(shop.person)).text).toContain('ferric, hot');
    expect((await piece(visitor)).text).not.toContain('ferric, hot');
    expect(mayDo({ roles: ['visitor'], rooms: [], gates: [] }, 'record step')).toBeFalse();
  });

  it('gives a key to its user alone: another one’s is another record', async () => {
    const other = await shop.addPerson('Tomas Quill', 'TQ');
    const key = randomUUID();
    const body = (code: string) => ({ id: newId(), version: 0, name: code, contact: '' });
    const mine = body('One');
    expect((await shop.send('post', '/api/clients', mine, key)).status).toBe(200);
    expect((await shop.send('post', '/api/clients', body('Two'), key)).status).toBe(422);
    expect((await shop.send('post', '/api/clients', body('Three'), key, other)).status).toBe(200);
  });
});
