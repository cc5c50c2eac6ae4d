// A work's model as it is kept: what counts for its sections' wax, who was first, what stays when a better one comes.
import { randomUUID } from 'node:crypto';
import request from 'supertest';
import type {
  CurvePoint,
  Id,
  ModelJob,
  ModelsAnswer,
  PieceAnswer,
  SaveModel,
  UploadAnswer,
  WorkAnswer,
} from '@kalvet/core';
import type { ModelAnswers, ModelJobKind, ModelQuestions, ModelWorker } from '@kalvet/core/weigh/index';
import { MeshFault, runModelJob } from '@kalvet/core/weigh/index';
import { box, stlBytes } from '../../../core/src/testing/shapes.ts';
import type { Answer } from '../testing/shop.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';
import { dropForgotten } from '../files/upload.service.ts';
import { ModelJobs } from './model-jobs.ts';

const CURVE: CurvePoint[] = [
  { wallMm: 3, volumeCm3: 480, plusMinusCm3: 2 },
  { wallMm: 5, volumeCm3: 780, plusMinusCm3: 3 },
  { wallMm: 8, volumeCm3: 1200, plusMinusCm3: 5 },
];

describe('a work’s model', () => {
  let shop: TestShop;
  let workId: Id;
  let pieceId: Id;
  beforeEach(async () => {
    shop = await TestShop.open();
    const set = await shop.setUp();
    workId = set.id;
    [pieceId] = set.pieceIds as [Id];
  });

  async function content(text = 'ply\nformat ascii 1.0'): Promise<Id> {
    const data = Buffer.from(text);
    const begin = { id: newId(), name: 'otter.ply', bytes: data.length, fingerprint: randomUUID() };
    const { id } = (await shop.send('post', '/api/files', begin)).body as UploadAnswer;
    await request(shop.app)
      .put(`/api/files/${id}/parts/0`)
      .set(shop.headers())
      .set('Content-Type', 'application/octet-stream')
      .send(data);
    return (await shop.send('post', `/api/files/${id}/end`, {})).body.id as Id;
  }
  const model = (contentId: Id, rest: Partial<SaveModel> = {}): SaveModel => ({
    ...{ id: newId(), version: 0, workId, sectionId: null, contentId, name: 'otter.ply' },
    sizing: { unit: 'mm', bronzeMm: 300, axis: 'z', rubber: 'silicone-condensation' },
    measured: {
      ...{ format: 'ply', triangles: 20_000, watertight: true, volumeCm3: 2400, volumePlusMinusCm3: 0 },
      ...{ areaCm2: 1650, sizeMm: [150, 260, 305], up: 'z', toWax: 1.2, curve: CURVE, thickestMm: 60, warnings: [] },
    },
    ...{ planes: [], cutNames: [], wayUp: null },
    ...rest,
  });
  const page = () => shop.get<ModelsAnswer>(`/api/works/${workId}/models`);
  const estimate = async (add: object | null, putAway: object | null = null) => {
    const [section] = (await page()).sections;
    return shop.send('put', `/api/sections/${section!.id}/estimates`, { version: section!.version, add, putAway });
  };
  const byModel = (rest: object = {}) => ({
    ...{ id: newId(), kind: 'model', waxKg: null, plusMinusKg: null, curve: CURVE, areaCm2: 1650 },
    ...{ says: 'the model', modelId: null },
    ...rest,
  });
  const plan = async () => (await shop.get<WorkAnswer>(`/api/works/${workId}`)).sections[0]!.plannedWax!;

  it('is kept with its figures; the next one takes its place, and both stay in the history', async () => {
    const contentId = await content();
    const first = model(contentId);
    await shop.must(shop.send('post', '/api/models', first));
    await shop.must(shop.send('post', '/api/models', model(contentId, { name: 'otter two.ply' })));
    const { models } = await page();
    expect(models.map(({ name, by }) => [name, by])).toEqual([['otter two.ply', 'Ines Marlow']]);
    const lines = (await shop.get<WorkAnswer>(`/api/works/${workId}`)).history.map(({ text }) => JSON.stringify(text));
    expect(lines.filter((text) => text.includes('Model ')).length).toBe(2);
    // The older one is not changed any more by a page that still shows it.
    const late = await shop.send('post', '/api/models', { ...first, version: 1, planes: [] });
    expect(late.body.error.code).toBe('stale');
  });

  it('keeps its file, whatever else hangs on it, and comes without its bytes', async () => {
    const contentId = await content();
    await shop.must(shop.send('post', '/api/models', model(contentId)));
    const later = Date.parse(shop.now) + 3 * 86_400_000;
    expect(await dropForgotten(shop.store, later)).toBe(0);
    const { models } = await page();
    expect(models[0]!.content).toEqual(jasmine.objectContaining({ id: contentId, kind: 'model' }));
  });

  it('is refused where its file is no model, or is not here', async () => {
    for (const contentId of [await content('%PDF-1.7'), newId()]) {
      const { status, body } = await shop.send('post', '/api/models', model(contentId));
      expect([status, body.error.message]).toEqual([400, 'contentId: is no model that is here']);
    }
    const wrong = model(await content(), { sizing: { unit: 'mm', bronzeMm: 0, axis: 'z', rubber: 'jelly' } });
    const { body } = await shop.send('post', '/api/models', wrong);
    expect(Object.keys(body.error.fields)).toEqual(['sizing.bronzeMm', 'sizing.rubber']);
  });

  it('cut by two people at once is kept once; the other is told', async () => {
    const given = model(await content());
    await shop.must(shop.send('post', '/api/models', given));
    const planes = (offsetMm: number) => ({ ...given, version: 1, planes: [{ normal: [0, 0, 1], offsetMm }] });
    const both = await Promise.all([100, 120].map((mm) => shop.send('post', '/api/models', planes(mm))));
    expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
    expect(both.find(({ status }) => status === 409)!.body.error.code).toBe('stale');
    expect((await page()).models[0]!.planes.length).toBe(1);
  });

  it('plans the section’s wax where it is the surest, until it is put away; the wall moves it', async () => {
    await shop.must(estimate(byModel()));
    const found = await plan();
    // 780 cm³ × 0.93.
    expect(found.value).toBeCloseTo(0.7254, 4);
    expect(found.plusMinus! / found.value).toBeLessThan(0.01);
    // Surer than a wax held under water (3 %), which is kept beside it.
    const held = { kind: 'displacement', waxKg: 0.8, plusMinusKg: 0.024, curve: null, says: '0.86 l displaced' };
    await shop.must(estimate(byModel(held)));
    expect((await plan()).value).toBeCloseTo(0.7254, 4);
    const [section] = (await page()).sections;
    expect(section!.estimates.length).toBe(2);
    const { id } = section!.estimates.find(({ kind }) => kind === 'model')!;
    await shop.must(estimate(null, { id, reason: 'of the sketch, not of the work' }));
    expect((await plan()).value).toBe(0.8);
    // Taken back it counts again.
    const { number } = (await shop.get<WorkAnswer>(`/api/works/${workId}`)).history[0]!;
    await shop.must(shop.send('post', `/api/changes/${number}/take-back`, { reason: 'it was of the work' }));
    expect((await plan()).value).toBeCloseTo(0.7254, 4);
    // The piece is planned with it, and its wax is judged by the curve's own wall.
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'chase-wax');
    shop.later(90);
    await shop.must(shop.record(await shop.open(pieceId, 'chase-wax'), 'done', { waxKg: 0.7254, markPutIn: true }));
    const [lane] = (await shop.get<PieceAnswer>(`/api/pieces/${pieceId}`)).lanes;
    expect(lane!.wall!.value).toBeCloseTo(5, 2);
    expect(lane!.wall!.plusMinus!).toBeLessThan(0.1);
  });

  it('adds one or puts one away, and nothing that says nothing', async () => {
    expect((await estimate(null)).body.error.fields['add']).toBe('one is added or put away');
    expect((await estimate(byModel({ curve: null }))).body.error.fields['add.waxKg']).toBe('is missing');
    expect((await estimate(null, { id: newId(), reason: 'x' })).status).toBe(404);
  });

  it('says which way up a section is poured, and stands for the work on the Floor', async () => {
    const [section] = (await page()).sections;
    const place = { x: 1, y: 2, z: 260, words: '' };
    const wayUp = { up: [0, 0, 1], heightMm: 260, vents: [place], gates: [{ ...place, z: 0 }] };
    await shop.must(shop.send('put', `/api/sections/${section!.id}/way-up`, { version: section!.version, wayUp }));
    expect((await page()).sections[0]!.wayUp!.heightMm).toBe(260);
    const { work } = await page();
    const glyph = 'M1 1L31 1L16 30z';
    await shop.must(shop.send('put', `/api/works/${workId}/silhouette`, { version: work.version, glyph }));
    expect((await shop.floor()).works[0]!.glyph).toBe(glyph);
    const bad = { version: work.version + 1, glyph: '<script>' };
    expect((await shop.send('put', `/api/works/${workId}/silhouette`, bad)).body.error.fields.glyph).toBe(
      'must be a silhouette',
    );
    // Whoever only works at a bench decides none of it.
    const hand = await shop.addPerson('Odo Hask', 'OH', { roles: ['hand'] });
    const { status } = await shop.send('put', `/api/works/${workId}/silhouette`, { ...bad, glyph }, randomUUID(), hand);
    expect(status).toBe(403);
  });
});

describe('a model that the server measures', () => {
  let shop: TestShop;
  let clock = 0;
  /** The jobs of core itself in the place of a thread, so that a spec can stop it in the middle. */
  const workerOf = (look: (question: ModelQuestions['look']) => Promise<ModelAnswers['look']>) =>
    ({
      run: (kind: ModelJobKind, question: never) => (kind === 'look' ? look(question) : runModelJob(kind, question)),
      end: () => undefined,
    }) as unknown as ModelWorker;
  const jobs = (look = (question: ModelQuestions['look']) => runModelJob('look', question)) =>
    new ModelJobs(shop.store, workerOf(look), () => clock);
  beforeEach(async () => {
    shop = await TestShop.open();
    clock = Date.parse(shop.now);
  });

  async function ask(rest: object = {}): Promise<{ id: Id; status: number; body: Answer['body'] }> {
    const data = Buffer.from(stlBytes(box(100, 100, 100)));
    const begin = { id: newId(), name: 'cube.stl', bytes: data.length, fingerprint: randomUUID() };
    const { id: contentId } = (await shop.send('post', '/api/files', begin)).body as UploadAnswer;
    await request(shop.app)
      .put(`/api/files/${contentId}/parts/0`)
      .set(shop.headers())
      .set('Content-Type', 'application/octet-stream')
      .send(data);
    const kept = (await shop.send('post', `/api/files/${contentId}/end`, {})).body.id as Id;
    const id = newId();
    const body = { id, contentId: kept, name: 'cube.stl', question: { unit: 'mm', scale: 2 }, ...rest };
    const answer = await shop.send('post', '/api/models/jobs', body);
    return { id, status: answer.status, body: answer.body };
  }
  const job = (id: Id) => shop.get<ModelJob>(`/api/models/jobs/${id}`);

  it('comes to the figures of the browser, with pictures for who cannot draw it', async () => {
    const { id } = await ask();
    expect((await job(id)).state).toBe('waiting');
    expect(await jobs().look()).toBeTrue();
    const { state, answer } = await job(id);
    const here = await runModelJob('look', {
      bytes: stlBytes(box(100, 100, 100)),
      name: 'cube.stl',
      unit: 'mm',
      scale: 2,
    });
    expect(state).toBe('done');
    expect(answer!.measured).toEqual(here.measured);
    expect(answer!.pictures.length).toBe(4);
    expect(answer!.pictures[0]).toMatch(/^data:image\/png;base64,/);
    expect(await jobs().look()).toBeFalse();
  });

  it('says in words what is wrong with the file, and is nobody else’s', async () => {
    const { id } = await ask();
    await jobs(() => Promise.reject(new MeshFault('cube.stl: the file breaks off'))).look();
    expect([(await job(id)).state, (await job(id)).error]).toEqual(['failed', 'cube.stl: the file breaks off']);
    const other = await shop.addPerson('Dora Wick', 'DW', { roles: ['office'] });
    await expectAsync(shop.get(`/api/models/jobs/${id}`, other)).toBeRejectedWithError(/404/);
    const { status } = await ask({ question: { unit: 'ell', scale: 2 } });
    expect(status).toBe(400);
  });

  it('is begun again where its server died, three times at most; of two servers one works on it', async () => {
    const { id } = await ask();
    // A server that takes it and never comes back.
    const died = jobs(() => new Promise(() => undefined));
    void died.look();
    for (let i = 0; i < 100 && (await job(id)).state !== 'running'; i++)
      await new Promise((wait) => setTimeout(wait, 20));
    expect(await jobs().look()).toBeFalse();
    clock += 60_000;
    await shop.store.models.modelJobs.update({ attempts: 3, leaseUntil: new Date(clock - 1) } as never, {
      where: { id },
    });
    await jobs().look();
    expect((await job(id)).error).toContain('begun three times');
  });

  it('stops when nobody wants it any more, and waits in no long row', async () => {
    const { id } = await ask();
    expect((await shop.send('post', `/api/models/jobs/${id}/stop`, {})).body.state).toBe('stopped');
    expect(await jobs().look()).toBeFalse();
    for (let i = 0; i < 3; i++) await ask();
    const fourth = await ask();
    expect([fourth.status, fourth.body.error.rule]).toEqual([409, 'busy']);
  });
});
