import { randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import request from 'supertest';
import { TestShop, emptyStore, readings, workBody } from '../testing/shop.ts';
import { Problem } from './problem.ts';
import { write } from '../shop/write-shop.ts';
import type { Context } from './context.ts';
import { newId } from './new-id.ts';

describe('the one write path', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  const count = async (table: string) => {
    const [rows] = await shop.store.db.query(`SELECT COUNT(*) AS n FROM ${table}`);
    return Number((rows as { n: number }[])[0]!.n);
  };

  it('gives the first answer again for the same key and body, and writes once', async () => {
    const body = workBody();
    const key = randomUUID();
    const first = await shop.send('post', '/api/works', body, key);
    const second = await shop.send('post', '/api/works', body, key);
    expect([first.status, second.status]).toEqual([201, 201]);
    expect(second.body).toEqual(first.body);
    expect(await count('work')).toBe(1);
  });

  it('refuses the same key with another body, and a key that is none', async () => {
    const key = randomUUID();
    await shop.send('post', '/api/works', workBody(), key);
    const other = await shop.send('post', '/api/works', workBody({ title: 'Another', code: 'ANO' }), key);
    expect([other.status, other.body.error.code]).toEqual([422, 'key used']);
    const none = await shop.send('post', '/api/works', workBody({ code: 'NON' }), 'x');
    expect(none.body.error.fields['Idempotency-Key']).toContain('UUID');
  });

  it('leaves no key after a write that failed, so that it can be put right and sent again', async () => {
    const key = randomUUID();
    const body = workBody({ editionSize: 0 });
    expect((await shop.send('post', '/api/works', body, key)).status).toBe(400);
    expect((await shop.send('post', '/api/works', { ...body, editionSize: 2 }, key)).status).toBe(201);
  });

  it('the same write sent ten times at once is written once', async () => {
    const body = workBody();
    const key = randomUUID();
    const answers = await Promise.all(Array.from({ length: 10 }, () => shop.send('post', '/api/works', body, key)));
    expect(new Set(answers.map((answer) => JSON.stringify(answer.body))).size).toBe(1);
    expect(await count('work')).toBe(1);
  });

  it('of two people who record the same step one is told what the other did, and nothing is doubled', async () => {
    const { pieceIds } = await shop.setUp();
    await shop.makeMould(pieceIds[0]!);
    const form = await shop.form((await shop.open(pieceIds[0]!, 'pull')).id);
    const both = await Promise.all([
      shop.record(form.step, 'done', readings(form)),
      shop.record(form.step, 'done', readings(form)),
    ]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    const stale = both.find(({ status }) => status === 409)!;
    expect(stale.body.error.code).toBe('stale');
    expect(stale.body.error.current.state).toBe('done');
    expect(stale.body.error.yours.outcome).toBe('done');
    expect(await count('pull')).toBe(1);
  });

  it('numbers changes without a gap, in the order of their commits', async () => {
    await Promise.all(
      Array.from({ length: 12 }, (_, i) =>
        shop.send('post', '/api/works', workBody({ code: `W${i}A`, title: `Work ${i}` })),
      ),
    );
    const [rows] = await shop.store.db.query('SELECT number FROM event ORDER BY number');
    expect((rows as { number: number }[]).map(({ number }) => number)).toEqual(
      Array.from({ length: 13 }, (_, i) => i + 1),
    );
  });

  it('writes nothing at all where a service fails half-way', async () => {
    const failing = write(
      shop.store,
      { actor: null, now: shop.now, requestId: 'r', key: randomUUID() },
      async (ctx: Context) => {
        await ctx.insert('people', [
          {
            id: newId(),
            name: 'Half Written',
            shortName: 'HW',
            roles: ['hand'],
            rooms: [],
            gates: [],
            active: true,
            version: 1,
          },
        ]);
        throw new Error('the power is gone');
      },
    );
    await expectAsync(failing).toBeRejectedWithError('the power is gone');
    expect(await count('person')).toBe(1);
    expect(await count('idempotency')).toBe(0);
  });

  it('does the whole again after a deadlock, three times at most', async () => {
    let tries = 0;
    const deadlock = (until: number) =>
      write(shop.store, { actor: null, now: shop.now, requestId: 'r' }, async (ctx) => {
        if (++tries < until) throw Object.assign(new Error('deadlock'), { errno: 1213 });
        ctx.event = { verb: 'change settings', text: 'passed' };
        return {};
      });
    await expectAsync(deadlock(3)).toBeResolved();
    tries = 0;
    await expectAsync(deadlock(4)).toBeRejectedWithError('deadlock');
  });
});

describe('what comes in', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });

  it('names every wrong field of a set-up in one answer', async () => {
    const body = {
      ...workBody(),
      title: ' ',
      editionSize: 2.5,
      dueDate: '2027-02-30',
      alloyId: 'GOLD',
      colour: 'red',
      sections: [],
    };
    const { status, body: answer } = await shop.send('post', '/api/works', body);
    expect(status).toBe(400);
    expect(Object.keys(answer.error.fields).sort()).toEqual([
      'alloyId',
      'colour',
      'dueDate',
      'editionSize',
      'sections',
      'title',
    ]);
    expect(answer.error.fields.dueDate).toContain('exists');
  });

  it('sees what no single field shows: no mould for a section, a direct wax in an edition, tags twice', async () => {
    const bad = await shop.send('post', '/api/works', workBody({ moulds: [] }));
    expect(bad.body.error.fields.moulds).toBe('no mould makes whole');
    const direct = await shop.send('post', '/api/works', workBody({ method: 'direct', editionSize: 3 }));
    expect(direct.body.error.fields.editionSize).toContain('unique');
    const huge = await shop.send(
      'post',
      '/api/works',
      workBody({
        editionSize: 999,
        sections: Array.from({ length: 5 }, (_, i) => ({ ...workBody().sections[0]!, name: `s${i}` })),
        moulds: [{ name: 'm', sections: [1, 2, 3, 4, 5], pullsBefore: 0 }],
      }),
    );
    expect(huge.body.error.fields.editionSize).toContain('2000 casts');
    await shop.setUp();
    const known = workBody({ code: 'KNO' });
    await shop.send('post', '/api/works', known);
    const again = await shop.send('post', '/api/works', { ...known, code: 'OTH' });
    expect(again.body.error.fields.id).toContain('set up already');
    const twice = await shop.send('post', '/api/works', workBody());
    expect(twice.body.error.fields.code).toContain('another work');
  });

  it('asks who is working, and does not take a stranger', async () => {
    const { pieceIds } = await shop.setUp();
    const step = await shop.open(pieceIds[0]!, 'pull');
    for (const person of ['', newId()]) {
      const answer = await shop.send(
        'post',
        `/api/steps/${step.id}/record`,
        {
          version: 1,
          outcome: 'done',
          startedAt: null,
          endedAt: shop.now,
          by: [shop.person],
          readings: {},
          note: '',
        },
        randomUUID(),
        person,
      );
      expect([answer.status, answer.body.error.code]).toEqual([401, 'sign in']);
    }
  });

  it('refuses another site’s page, another host, and what is not JSON', async () => {
    const post = () => request(shop.app).post('/api/people').set('Idempotency-Key', randomUUID()).set(shop.headers());
    expect((await post().set('Origin', 'http://elsewhere.example').send({})).status).toBe(403);
    expect((await post().set('Host', 'kalvet.example').send({})).status).toBe(403);
    expect((await post().set('Sec-Fetch-Site', 'cross-site').send({})).status).toBe(403);
    expect((await post().type('form').send('name=x')).status).toBe(403);
    expect((await post().type('json').send('{"name":')).status).toBe(400);
    expect((await post().send({ name: 'x'.repeat(300_000) })).status).toBe(413);
  });

  it('knows no record that is not there', async () => {
    for (const path of [
      '/api/pieces/not-an-id',
      `/api/pieces/${newId()}`,
      `/api/steps/${newId()}/form`,
      `/api/heats/${newId()}`,
      '/api/nothing',
    ])
      expect((await request(shop.app).get(path).set(shop.headers())).status)
        .withContext(path)
        .toBe(404);
  });

  it('says in words that the database is away, and goes on when it is back', async () => {
    const { createApp } = await import('../app.ts');
    const { connect } = await import('../db/connection.ts');
    const { defineModels } = await import('../db/tables.ts');
    // A port where nothing listens stands for a database that is gone.
    const nowhere = createServer();
    await new Promise<void>((resolve) => nowhere.listen(0, '127.0.0.1', resolve));
    const { port } = nowhere.address() as AddressInfo;
    await new Promise((resolve) => nowhere.close(resolve));
    const db = connect(`mariadb://kalvet:x@127.0.0.1:${port}/none`);
    const away = createApp({ store: { db, models: defineModels(db) }, now: () => shop.now }).app;
    const answer = await request(away).get('/api/floor').set(shop.headers());
    expect(answer.status).toBe(503);
    expect((answer.body as { error: { message: string } }).error.message).toContain('What you typed is kept');
    expect((await request(shop.app).get('/api/health')).body).toEqual(jasmine.objectContaining({ status: 'ok' }));
  });

  it('keeps a person’s name once', async () => {
    const body = { id: newId(), name: 'Ines Marlow', shortName: 'XX', roles: ['hand'], rooms: [], gates: [] };
    const { status, body: said } = await shop.send('post', '/api/people', body);
    expect([status, Object.keys(said.error.fields)]).toEqual([400, ['name']]);
    expect(new Problem('invalid', 'x').status).toBe(400);
    await emptyStore(shop.store);
  });
});
