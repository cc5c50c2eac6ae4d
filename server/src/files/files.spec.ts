// Files: what comes in is kept by what it is, once, without the place it was taken at; and hangs on what it shows.
import { randomUUID } from 'node:crypto';
import { crc32, deflateSync } from 'node:zlib';
import request from 'supertest';
import sharp from 'sharp';
import type {
  AttachFile,
  AttachmentsAnswer,
  FileContent,
  HistoryLine,
  Id,
  PieceAnswer,
  UploadAnswer,
  WorkAnswer,
} from '@kalvet/core';
import { FILE_LIMITS } from '@kalvet/core';
import type { Answer } from '../testing/shop.ts';
import { TestShop } from '../testing/shop.ts';
import { newId } from '../write/new-id.ts';
import { dropForgotten } from './upload.service.ts';

const DAY_MS = 86_400_000;

/** A picture of one bit a pixel: many pixels in few bytes. */
function whitePng(width: number, height: number): Buffer {
  const chunk = (kind: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(kind), data]);
    const [length, sum] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    sum.writeUInt32BE(crc32(body));
    return Buffer.concat([length, body, sum]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([1, 0, 0, 0, 0], 8);
  const rows = deflateSync(Buffer.alloc((1 + Math.ceil(width / 8)) * height));
  return Buffer.concat([
    Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'),
    chunk('IHDR', head),
    chunk('IDAT', rows),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

describe('files', () => {
  let shop: TestShop;
  let workId: Id;
  let pieceId: Id;
  beforeEach(async () => {
    shop = await TestShop.open();
    const set = await shop.setUp();
    workId = set.id;
    [pieceId] = set.pieceIds as [Id];
  });

  const begin = (bytes: number, name: string, fingerprint: string = randomUUID(), person = shop.person) =>
    shop.send('post', '/api/files', { id: newId(), name, bytes, fingerprint }, randomUUID(), person);
  const part = (id: Id, number: number, data: Buffer, person = shop.person): Promise<Answer> =>
    request(shop.app)
      .put(`/api/files/${id}/parts/${number}`)
      .set(shop.headers(person))
      .set('Content-Type', 'application/octet-stream')
      .send(data) as unknown as Promise<Answer>;
  const end = (id: Id, person = shop.person) => shop.send('post', `/api/files/${id}/end`, {}, randomUUID(), person);
  /** Sends a file whole. */
  async function send(data: Buffer, name: string, person = shop.person): Promise<Answer> {
    const { body } = await begin(data.length, name, randomUUID(), person);
    for (let from = 0, number = 0; from < data.length; from += FILE_LIMITS.partBytes, number++)
      await part(body.id, number, data.subarray(from, from + FILE_LIMITS.partBytes), person);
    return end(body.id, person);
  }
  const file = (id: Id, query = '', person = shop.person) =>
    request(shop.app)
      .get(`/api/files/${id}${query}`)
      .set(shop.headers(person))
      .buffer(true)
      .parse((response, done) => {
        const parts: Buffer[] = [];
        response.on('data', (each: Buffer) => parts.push(each));
        response.on('end', () => done(null, Buffer.concat(parts)));
      });
  const attach = (contentId: Id, given: Partial<AttachFile> = {}, person = shop.person) =>
    shop.send(
      'post',
      '/api/attachments',
      {
        ...{ id: newId(), contentId, subject: 'piece', subjectId: pieceId, defect: null, name: 'wing.jpg' },
        ...{ role: 'seen', words: '', pins: [], at: null },
        ...given,
      },
      randomUUID(),
      person,
    );
  const on = async (subject: string, id: Id, person = shop.person) =>
    (await shop.get<AttachmentsAnswer>(`/api/attachments?subject=${subject}&id=${id}`, person)).attachments;
  const photo = (width = 1800, height = 1200) =>
    sharp({ create: { width, height, channels: 3, background: '#a0622a' } })
      .jpeg()
      // Upside down as a camera keeps it, and with where it was taken.
      .withMetadata({ orientation: 6 })
      .withExifMerge({ IFD0: { Make: 'Box' }, IFD3: { GPSLatitude: '51/1 30/1 0/1', GPSLatitudeRef: 'N' } })
      .toBuffer();

  it('that are pictures are kept upright, in three sizes, without place and camera', async () => {
    const data = await photo();
    expect((await sharp(data).metadata()).exif!.toString('latin1')).toContain('Box');
    const { status, body } = await send(data, 'wing.jpg');
    expect(status).toBe(200);
    expect(body).toEqual(jasmine.objectContaining({ kind: 'picture', mime: 'image/jpeg', width: 1200, height: 1800 }));
    await attach(body.id);
    for (const [query, longest] of [
      ['', 1800],
      ['?size=large', 1600],
      ['?size=small', 360],
    ] as const) {
      const answer = await file(body.id, query);
      const { exif, width, height, orientation } = await sharp(answer.body as Buffer).metadata();
      expect([exif, orientation, Math.max(width, height), width < height]).toEqual([
        undefined,
        undefined,
        longest,
        true,
      ]);
      expect(answer.headers['x-content-type-options']).toBe('nosniff');
      expect(answer.headers['content-security-policy']).toContain('sandbox');
    }
  });

  it('are taken up where they broke off, and each part must be whole', async () => {
    const data = Buffer.concat([Buffer.from('ply\n'), Buffer.alloc(2.5 * FILE_LIMITS.partBytes, 1)]);
    const first = await begin(data.length, 'torso.ply', 'torso 1');
    const { id } = first.body as UploadAnswer;
    const cut = (number: number) => data.subarray(number * FILE_LIMITS.partBytes, (number + 1) * FILE_LIMITS.partBytes);
    await part(id, 2, cut(2));
    const short = await part(id, 0, cut(0).subarray(1));
    expect([short.status, short.body.error.message]).toEqual([400, 'part: has 1048575 bytes instead of 1048576']);
    const early = await end(id);
    expect([early.status, early.body.error.message]).toEqual([409, 'torso.ply is not all here: 2 parts are missing.']);
    // The network was gone: the same file again goes on with the same upload.
    const again = (await begin(data.length, 'torso.ply', 'torso 1')).body as UploadAnswer;
    expect(again).toEqual({ id, parts: [2], partBytes: FILE_LIMITS.partBytes });
    await part(id, 0, cut(0));
    await part(id, 1, cut(1));
    const done = await end(id);
    expect(done.body).toEqual(jasmine.objectContaining({ kind: 'model', bytes: data.length }));
    // The answer was lost and it is asked again: the same answer.
    expect((await end(id)).body).toEqual(done.body);
    await attach(id, { name: 'torso.ply' });
    expect(((await file(id)).body as Buffer).equals(data)).toBeTrue();
    // Nobody else goes on with it, or gives it up.
    const other = await shop.addPerson('Odo Hask', 'OH', { roles: ['hand'] });
    const own = (await begin(9, 'a.obj', 'a')).body as UploadAnswer;
    expect((await part(own.id, 0, Buffer.alloc(9), other)).status).toBe(404);
    expect((await shop.send('post', `/api/files/${own.id}/give-up`, {}, randomUUID(), other)).status).toBe(404);
  });

  it('are what their content is, whatever they are called, and nothing else is kept', async () => {
    const paper = await send(Buffer.from('%PDF-1.7 a drawing'), 'otter.stl');
    expect(paper.body).toEqual(jasmine.objectContaining({ kind: 'paper', mime: 'application/pdf' }));
    const big = whitePng(20_000, 10_000);
    const damaged = (await photo()).subarray(0, 900);
    for (const [data, name, words] of [
      [Buffer.from('<html><script>alert(1)</script>'), 'wing.jpg', /wing\.jpg is nothing that is kept here/],
      [Buffer.from('\0\0\0\x18ftypheic'), 'IMG_1.heic', /HEIC are not read here: set the camera to JPEG/],
      [Buffer.from('\0\0\0\x18ftypmp42'), 'pour.mp4', /films are not kept here/],
      [damaged, 'half.jpg', /half\.jpg (breaks off|is damaged)/],
      [big, 'scan.png', /scan\.png is 20,?000 × 10,?000, 200 megapixels; up to 120 are taken/],
      [Buffer.from('#!/bin/sh'), 'a.obj', /a\.obj is nothing/],
    ] as const) {
      const { status, body } = await send(data, name);
      expect(status).withContext(name).toBe(400);
      expect(body.error.message).toMatch(words);
    }
    // Nothing of them stays.
    expect(await shop.store.models.contents.count()).toBe(1);
    expect(await shop.store.models.chunks.count()).toBe(1);
  });

  it('sent twice are kept once, and the same does not hang twice on one record', async () => {
    const data = await photo(300, 200);
    const one = (await send(data, 'one.jpg')).body as FileContent;
    const other = await shop.addPerson('Odo Hask', 'OH', { roles: ['hand'] });
    const two = (await send(data, 'two.jpg', other)).body as FileContent;
    expect(two.id).toBe(one.id);
    expect(await shop.store.models.contents.count()).toBe(1);
    expect((await attach(one.id)).status).toBe(201);
    const twice = await attach(one.id, {}, other);
    expect([twice.status, twice.body.error.rule]).toEqual([409, 'twice']);
    expect((await attach(one.id, { subject: 'work', subjectId: workId })).status).toBe(201);
  });

  it('hang on steps and show with their piece, are told in its history, and can be taken back', async () => {
    await shop.makeMould(pieceId);
    await shop.carry(pieceId, 'chase-wax');
    const step = await shop.open(pieceId, 'chase-wax');
    const { id: contentId } = (await send(await photo(300, 200), 'crack.jpg')).body as FileContent;
    const pins = [{ x: 0.25, y: 0.5, words: 'hairline, 12 mm' }];
    const given = { subject: 'step' as const, subjectId: step.id, words: 'crack at the neck', pins };
    expect((await attach(contentId, given)).status).toBe(201);
    const [seen] = await on('piece', pieceId);
    expect(seen).toEqual(jasmine.objectContaining({ words: 'crack at the neck', pins, room: 'wax', mark: '1/1' }));
    expect(seen!.on).toContain('Chase and weigh wax, ');
    const lines = async () => (await shop.get<PieceAnswer>(`/api/pieces/${pieceId}`)).history as HistoryLine[];
    const line = (await lines())[0]!;
    expect(line.verb).toBe('attach file');
    expect(JSON.stringify(line.text)).toContain('1 place marked');
    const changed = await shop.send('put', `/api/attachments/${seen!.id}`, {
      ...{ version: seen!.version, defect: null, role: 'seen', words: 'crack, to be mended', pins: [] },
    });
    expect(changed.status).toBe(200);
    // No inspection was written down here.
    const none = { version: 2, defect: 0, role: 'seen', words: '', pins: [] };
    const wrong = await shop.send('put', `/api/attachments/${seen!.id}`, none);
    expect(wrong.body.error.fields.defect).toBe('is none of those that were written down');
    const stale = await shop.send('put', `/api/attachments/${seen!.id}`, {
      ...{ version: seen!.version, defect: null, role: 'seen', words: 'other words', pins: [] },
    });
    expect([stale.status, stale.body.error.code]).toEqual([409, 'stale']);
    // Somebody else's picture is not put away by any hand.
    const hand = await shop.addPerson('Odo Hask', 'OH', { roles: ['hand'] });
    const put = (version: number, person?: Id) =>
      shop.send(
        'post',
        `/api/attachments/${seen!.id}/put-away`,
        { version, reason: 'wrong piece' },
        randomUUID(),
        person,
      );
    expect((await put(2, hand)).status).toBe(403);
    expect((await put(2)).status).toBe(200);
    expect(await on('piece', pieceId)).toEqual([]);
    const { number } = (await lines())[0]!;
    expect((await shop.send('post', `/api/changes/${number}/take-back`, { reason: 'right after all' })).status).toBe(
      200,
    );
    expect((await on('piece', pieceId)).map(({ words }) => words)).toEqual(['crack, to be mended']);
  });

  it('are read by who may see what they hang on: a visitor the work’s, the office an order’s', async () => {
    const visitor = await shop.addPerson('Guest', 'G', { roles: ['visitor'] });
    const { id } = (await send(await photo(300, 200), 'front.jpg')).body as FileContent;
    // What hangs nowhere yet is its sender's.
    expect((await file(id, '', visitor)).status).toBe(404);
    await attach(id, { subject: 'work', subjectId: workId, role: 'reference', words: 'front' });
    expect((await file(id, '?size=small', visitor)).status).toBe(200);
    expect((await on('work', workId, visitor)).map(({ role, words }) => [role, words])).toEqual([
      ['reference', 'front'],
    ]);
    expect((await attach(id, {}, visitor)).status).toBe(403);
    const letter = (await send(Buffer.from('%PDF-1.4 terms'), 'terms.pdf')).body as FileContent;
    const [orderId, clientId] = [newId(), newId()];
    await shop.must(
      shop.send('post', '/api/clients', { id: clientId, version: 0, name: 'Harbour Trust', contact: '' }),
    );
    const order = { id: orderId, version: 0, clientId, title: 'Three otters', place: '', dueDate: null };
    await shop.must(shop.send('post', '/api/orders', { ...order, partDelivery: true, note: '', pieceIds: [pieceId] }));
    await attach(letter.id, { subject: 'order', subjectId: orderId, name: 'terms.pdf' });
    expect((await on('order', orderId)).length).toBe(1);
    await expectAsync(on('order', orderId, visitor)).toBeRejectedWithError(/404/);
    expect((await file(letter.id, '', visitor)).status).toBe(404);
    const sent = await file(letter.id);
    expect(sent.headers['content-disposition']).toBe("inline; filename*=UTF-8''terms.pdf");
    expect((await shop.get<WorkAnswer>(`/api/works/${workId}`)).history[0]!.verb).toBe('attach file');
  });

  it('that nobody goes on with, or that hang nowhere, are let go after a day', async () => {
    await begin(900, 'left.stl', 'left');
    const loose = (await send(await photo(300, 200), 'loose.jpg')).body as FileContent;
    const kept = (await send(await photo(310, 200), 'kept.jpg')).body as FileContent;
    await attach(kept.id);
    const at = Date.parse(shop.now);
    expect(await dropForgotten(shop.store, at + 0.9 * DAY_MS)).toBe(0);
    expect(await dropForgotten(shop.store, at + 1.1 * DAY_MS)).toBe(2);
    expect((await file(loose.id)).status).toBe(404);
    expect((await file(kept.id)).status).toBe(200);
  });
});
