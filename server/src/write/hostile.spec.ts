// What a person or a program may send that no record can hold: each is answered in words, and nothing is written.
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import type { StepView } from '@kalvet/core';
import { addMinutes } from '@kalvet/core';
import { newId } from './new-id.ts';
import { TestShop, section, workBody } from '../testing/shop.ts';

describe('a body that cannot be', () => {
  let shop: TestShop;
  beforeEach(async () => {
    shop = await TestShop.open();
  });
  const setUp = (given: object) => shop.send('post', '/api/works', { ...workBody(), ...given });
  const works = async () => (await shop.floor()).works.length;

  it('is refused at a seam of no length, which nothing could be planned with', async () => {
    const two = [section('Front'), section('Back', { seamM: 0 })];
    const { status, body } = await setUp({
      sections: two,
      moulds: [{ name: 'all', sections: [1, 2], pullsBefore: 0 }],
    });
    expect(status).toBe(400);
    expect(body.error.fields['sections.1.seamM']).toBe('must be at least 0.01 m');
    // As data too: who reads feet is told feet.
    expect(body.error.saysOf['sections.1.seamM'].parts).toEqual([{ value: 0.01, unit: 'm' }]);
    expect(await works()).toBe(0);
  });

  it('is refused where a list holds an empty place', async () => {
    const { status, body } = await setUp({ sections: [null] });
    expect([status, Object.keys(body.error.fields)]).toEqual([400, ['sections.0']]);
  });

  it('is refused with half a letter in a text, and with letters that nobody sees', async () => {
    // Half of a letter pair; a mark that turns the direction of what follows; a space of no width.
    for (const title of ['Otter \ud83d', 'Otter \u202egnikaer', 'Ot\u200bter']) {
      const { status, body } = await setUp({ title });
      expect([status, body.error.fields.title]).toEqual([400, 'holds letters that cannot be seen or kept']);
    }
    // Between two letters of a script that wants it, a joiner is a letter like others.
    expect((await setUp({ title: 'می‌خواهم' })).status).toBe(201);
  });

  it('is read as UTF-8 or not at all', async () => {
    const { status, body } = await request(shop.app)
      .post('/api/works')
      .set('Idempotency-Key', randomUUID())
      .set(shop.headers())
      .set('Content-Type', 'application/json; charset=klingon')
      .send('{}');
    expect([status, body.error.code]).toEqual([400, 'invalid']);
    expect(body.error.message).toContain('UTF-8');
  });

  it('is refused with years that are no shop’s: the year 49 is not 2049', async () => {
    for (const dueDate of ['0049-06-01', '1949-06-01', '2149-06-01']) {
      const { status, body } = await setUp({ dueDate });
      expect([status, body.error.fields.dueDate]).toEqual([400, 'must be of the years 2000 to 2100']);
    }
    const { pieceIds } = await shop.setUp();
    const make = await shop.open(pieceIds[0]!, 'make-mould');
    const { status, body } = await shop.record(
      make,
      'done',
      { lifePulls: 60 },
      { endedAt: '0049-03-01T08:00:00.000Z' },
    );
    expect([status, body.error.fields.endedAt]).toEqual([400, 'must be of the years 2000 to 2100']);
  });
});

describe('a step that is not recorded this way', () => {
  let shop: TestShop;
  let pieceId: string;
  beforeEach(async () => {
    shop = await TestShop.open();
    [pieceId] = (await shop.setUp()).pieceIds as [string];
  });
  const fire = async (): Promise<StepView> => {
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'fire');
    return shop.open(pieceId, 'fire');
  };

  it('is refused in words where it is done with a whole load or heat', async () => {
    const step = await fire();
    for (const [path, body] of [
      [`/api/steps/${step.id}/record`, undefined],
      [`/api/steps/${step.id}/start`, { version: step.version, startedAt: shop.now, readings: {} }],
    ] as const) {
      const answer = body ? await shop.send('post', path, body) : await shop.record(step, 'done', {});
      expect([answer.status, answer.body.error.refusals[0].rule]).toEqual([409, 'through']);
    }
  });

  it('cannot be pinned once it is over, and says what an outcome would do only while it is open', async () => {
    const make = await shop.open(pieceId, 'make-mould');
    await shop.must(shop.record(make, 'done', { lifePulls: 60 }));
    const { version } = (await shop.form(make.id)).step;
    const pin = await shop.send('post', `/api/steps/${make.id}/pin`, {
      version,
      kind: 'at',
      at: '2027-04-01T08:00:00.000Z',
    });
    expect(pin.status).toBe(409);
    const asked = await request(shop.app).get(`/api/steps/${make.id}/what-if?outcome=done`).set(shop.headers());
    expect(asked.status).toBe(409);
    expect(asked.body.error.message).toContain('over');
  });

  it('says so where somebody else made it void meanwhile', async () => {
    const pull = await shop.open(pieceId, 'pull');
    const { piece } = await shop.piece(pieceId);
    await shop.must(
      shop.send('post', `/api/pieces/${pieceId}/cancel`, { version: piece.version, reason: 'client gone' }),
    );
    const form = await request(shop.app).get(`/api/steps/${pull.id}/form`).set(shop.headers());
    expect([form.status, form.body.error.code]).toEqual([409, 'refused']);
    expect(form.body.error.message).toContain('void');
    const record = await shop.record(pull, 'done', { wax: 'pattern', potC: 82, mouldId: newId() });
    expect(record.status).toBe(409);
  });

  it('keeps a note of a thousand letters, also where its outcome makes another step grow', async () => {
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'leak-test');
    const { piece } = await shop.piece(pieceId);
    shop.now = addMinutes(piece.next[0]!.readyAt ?? shop.now, 1);
    const leak = await shop.open(pieceId, 'leak-test');
    const note = 'hairline at the tip, '.repeat(50).slice(0, 1000).trim();
    const done = await shop.record(leak, 'patch', { how: 'water', where: 'tip' }, { note });
    expect(done.status).toBe(200);
    const patch = await shop.open(pieceId, 'patch');
    // The test keeps all of it; what grew from it says it shortened, to what a reason takes.
    expect((await shop.form(leak.id)).step.note).toBe(note);
    expect(patch.insertedWhy).toBe(`${note.slice(0, 499)}…`);
    const tooLong = await shop.record(patch, 'done', {}, { note: 'x'.repeat(1001) });
    expect([tooLong.status, tooLong.body.error.fields.note]).toEqual([400, 'is longer than 1000 letters']);
  });
});

describe('a heat', () => {
  it('without trees is refused where its pour is asked for, not half begun', async () => {
    const shop = await TestShop.open();
    const plan = { id: newId(), alloyId: 'C87300', plannedFor: null, trees: [], chargeLines: [] };
    const { status, body } = await shop.send('post', '/api/heats', plan);
    expect(status).toBe(400);
    expect(body.error.fields.trees).toContain('at least one tree');
  });

  it('keeps its trees that still wait for a test, and what was typed, when it is changed', async () => {
    const shop = await TestShop.open();
    const { pieceIds } = await shop.setUp({ editionSize: 2 });
    await shop.makeMould(pieceIds[0]!);
    for (const id of pieceIds) await shop.carry(id, 'fire');
    const trees = await Promise.all(pieceIds.map(async (id) => (await shop.open(id, 'fire')).carrierId));
    const id = newId();
    const given = { plannedFor: null, chargeLines: [] };
    const rows = trees.map((treeId, i) => ({ treeId, ...(i === 0 ? { plannedKg: 9.5 } : {}) }));
    await shop.must(shop.send('post', '/api/heats', { id, alloyId: 'C87300', ...given, trees: rows }));
    const before = await shop.get<{ version: number; pourings: { treeId: string; plannedSource: string }[] }>(
      `/api/heats/${id}`,
    );
    expect(before.pourings.map(({ plannedSource }) => plannedSource)).toEqual(['typed', 'computed']);
    const changed = { version: before.version, ...given, plannedFor: '2027-04-01T10:00:00.000Z', trees: rows };
    await shop.must(shop.send('put', `/api/heats/${id}`, changed));
    const after = await shop.get<typeof before>(`/api/heats/${id}`);
    expect(after.pourings.map(({ treeId, plannedSource }) => [treeId, plannedSource])).toEqual([
      [trees[0]!, 'typed'],
      [trees[1]!, 'computed'],
    ]);
  });
});
