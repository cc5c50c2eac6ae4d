import { createHash, randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { BeginUpload, FileContent, Id, Instant, UploadAnswer } from '@kalvet/core';
import { FILE_LIMITS, HEAD_BYTES, kindOfFile, never, say, plain } from '@kalvet/core';
import { Op } from 'sequelize';
import { errnoOf } from '../write/errno.ts';
import { rowsOf } from '../db/rows.ts';
import { Problem, invalid, notFound, refused } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { AS_IT_CAME, PICTURE_SIZES, partsOf, putChunk, readChunks, writeChunks } from './chunks.ts';
import { keptSize, lookAt, pictureMime, remade } from './picture.ts';

/** A content's row. */
export interface ContentRow extends FileContent {
  readonly hash: string | null;
  readonly state: 'coming' | 'kept';
  readonly name: string;
  readonly fingerprint: string;
  readonly byId: Id | null;
  readonly at: Instant;
}

/** A broken-off upload is waited for so long; so is content that nothing hangs on. */
const WAITED_FOR_MS = 24 * 3_600_000;

/** How many parts an upload of so many bytes has. */
const partCount = (bytes: number): number => Math.ceil(bytes / FILE_LIMITS.partBytes);

/**
 * Begins an upload, or takes up the same person's broken one of the same file.
 * @throws Problem where it is larger than anything that is kept, or too many were begun
 */
export async function beginUpload(
  store: Store,
  personId: Id,
  { id, name, bytes, fingerprint }: BeginUpload,
  now: Instant,
): Promise<UploadAnswer> {
  const begun = await rowsOf<ContentRow>(store, 'contents', { byId: personId, state: 'coming' });
  const same = begun.find((each) => each.fingerprint === fingerprint && each.bytes === bytes);
  if (same) return { id: same.id, parts: await partsOf(store, same.id, AS_IT_CAME), partBytes: FILE_LIMITS.partBytes };
  if (begun.length >= FILE_LIMITS.begun)
    throw refused([
      never(
        'busy',
        say`You have begun ${plain(begun.length, 0)} files and ended none of them; end or give up some first.`,
      ),
    ]);
  await store.models.contents.create({
    ...{ id, name, bytes, fingerprint, byId: personId, kind: '', mime: '', hash: null },
    ...{ width: null, height: null, state: 'coming', at: new Date(now) },
  } as never);
  return { id, parts: [], partBytes: FILE_LIMITS.partBytes };
}

/** An upload of one's own that has not ended. @throws Problem */
async function own(store: Store, personId: Id, id: Id): Promise<ContentRow> {
  const [row] = await rowsOf<ContentRow>(store, 'contents', { id, state: 'coming', byId: personId });
  if (!row) throw notFound('upload');
  return row;
}

/** Takes one part in; the same part again takes its own place. @throws Problem where it is not as long as it must be */
export async function putPart(store: Store, personId: Id, id: Id, part: number, data: Buffer): Promise<void> {
  const { bytes } = await own(store, personId, id);
  const count = partCount(bytes);
  if (!(Number.isInteger(part) && part >= 0 && part < count)) throw invalid({ part: 'is beyond the file’s end' });
  const wanted = part < count - 1 ? FILE_LIMITS.partBytes : bytes - part * FILE_LIMITS.partBytes;
  if (data.length !== wanted)
    throw invalid({ part: say`has ${plain(data.length, 0)} bytes instead of ${plain(wanted, 0)}` });
  await putChunk(store, { contentId: id, size: AS_IT_CAME, part }, data);
}

/** Gives an upload up: nothing of it stays. */
export async function giveUp(store: Store, personId: Id, id: Id): Promise<void> {
  await own(store, personId, id);
  await store.models.contents.destroy({ where: { id } });
}

/**
 * Ends an upload: looks at what came, and keeps it; of what is here already nothing is kept twice.
 * @throws Problem in words where parts are missing or it is nothing that is kept; then nothing of it stays
 */
export async function endUpload(store: Store, personId: Id, id: Id): Promise<FileContent> {
  const kept = await rowsOf<ContentRow>(store, 'contents', { id, state: 'kept', byId: personId });
  // Asked again because the answer was lost on its way.
  if (kept[0]) return contentOf(kept[0]);
  const row = await own(store, personId, id);
  const missing = partCount(row.bytes) - (await partsOf(store, id, AS_IT_CAME)).length;
  if (missing > 0)
    throw refused([never('state', say`${row.name} is not all here: ${plain(missing, 0)} parts are missing.`)]);
  try {
    return await keep(store, row);
  } catch (error) {
    // What was refused for good goes; what only could not be kept now is tried again.
    if (error instanceof Problem && error.code === 'invalid') await store.models.contents.destroy({ where: { id } });
    throw error;
  }
}

async function keep(store: Store, row: ContentRow): Promise<FileContent> {
  const hash = createHash('sha256');
  let head = Buffer.alloc(0);
  for await (const part of readChunks(store, row.id, AS_IT_CAME)) {
    hash.update(part);
    if (head.length < HEAD_BYTES) head = Buffer.concat([head, part.subarray(0, HEAD_BYTES - head.length)]);
  }
  const digest = hash.digest('hex');
  const [twin] = await rowsOf<ContentRow>(store, 'contents', { hash: digest, state: 'kept' });
  if (twin) return instead(store, row, twin);
  const found = kindOfFile(head, row);
  if ('refused' in found) throw invalid({ file: found.refused });
  const shape =
    found.kind === 'picture'
      ? await keepPicture(store, row)
      : { mime: found.mime, bytes: row.bytes, width: null, height: null };
  try {
    await store.db.transaction(async (transaction) => {
      if (found.kind === 'picture')
        await store.models.chunks.destroy({ where: { contentId: row.id, size: AS_IT_CAME } as never, transaction });
      await store.models.contents.update({ hash: digest, kind: found.kind, ...shape, state: 'kept' } as never, {
        where: { id: row.id },
        transaction,
      });
    });
  } catch (error) {
    // Somebody else sent the same at this moment and was first.
    if (errnoOf(error) !== 1062) throw error;
    const [first] = await rowsOf<ContentRow>(store, 'contents', { hash: digest });
    return instead(store, row, first!);
  }
  return { id: row.id, kind: found.kind, ...shape };
}

/** The same is here already: that is taken, and what came goes. */
async function instead(store: Store, row: ContentRow, twin: ContentRow): Promise<FileContent> {
  await store.models.contents.destroy({ where: { id: row.id } });
  return contentOf(twin);
}

/** Writes a picture's sizes anew, from a file on the disk that is gone afterwards. */
async function keepPicture(store: Store, row: ContentRow) {
  const path = join(tmpdir(), `kalvet-${randomUUID()}`);
  try {
    await pipeline(readChunks(store, row.id, AS_IT_CAME), createWriteStream(path, { mode: 0o600 }));
    const head = await lookAt(path, row.name);
    if ('refused' in head) throw invalid({ file: head.refused });
    let bytes = 0;
    for (const size of PICTURE_SIZES) {
      await store.models.chunks.destroy({ where: { contentId: row.id, size } as never });
      const written = await writeChunks(store, { contentId: row.id, size }, remade(path, size, head.isClear)).catch(
        (error: unknown) => {
          if (errnoOf(error) !== undefined || error instanceof Problem) throw error;
          throw invalid({ file: say`${row.name} breaks off in the middle: it cannot be read to its end` });
        },
      );
      if (size === 'full') bytes = written;
    }
    return { mime: pictureMime(head.isClear), bytes, ...keptSize(head) };
  } finally {
    await rm(path, { force: true });
  }
}

export const contentOf = ({ id, kind, mime, bytes, width, height }: FileContent): FileContent => ({
  id,
  kind,
  mime,
  bytes,
  width,
  height,
});

/** Lets go of uploads that nobody goes on with, and of content that was never attached to anything and is no work's model. */
export async function dropForgotten(store: Store, now = Date.now()): Promise<number> {
  const used = await Promise.all(
    [store.models.attachments, store.models.models].map((model) =>
      model.findAll({ attributes: ['contentId'], group: ['contentId'], raw: true }),
    ),
  );
  const ids = (used.flat() as unknown as { contentId: Id }[]).map(({ contentId }) => contentId);
  return store.models.contents.destroy({
    where: { at: { [Op.lt]: new Date(now - WAITED_FOR_MS) }, id: { [Op.notIn]: ids } } as never,
  });
}
