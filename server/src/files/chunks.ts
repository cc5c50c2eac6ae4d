import { Readable } from 'node:stream';
import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Id } from '@kalvet/core';
import { FILE_LIMITS } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** The sizes that a picture is kept in. */
export const PICTURE_SIZES = ['full', 'large', 'small'] as const;
export type PictureSize = (typeof PICTURE_SIZES)[number];

/** Beside them a file as it came: of a picture that goes once its sizes are made. */
export const AS_IT_CAME = 'whole';
export type Size = PictureSize | typeof AS_IT_CAME;

/** Puts one part, in the place of the same one that came before. */
export async function putChunk(
  store: Store,
  of: { contentId: Id; size: Size; part: number },
  data: Buffer,
  tx?: Transaction,
): Promise<void> {
  await store.models.chunks.upsert({ ...of, data } as never, { transaction: tx ?? null });
}

/** Which parts of a size are there. */
export async function partsOf(store: Store, contentId: Id, size: Size): Promise<number[]> {
  const rows = await store.models.chunks.findAll({
    where: { contentId, size },
    attributes: ['part'],
    order: [['part', 'ASC']],
    raw: true,
  });
  return (rows as unknown as { part: number }[]).map(({ part }) => Number(part));
}

/** The bytes of a size, part by part: never more of them in memory than one part. */
export async function* readChunks(store: Store, contentId: Id, size: Size): AsyncGenerator<Buffer> {
  for (const part of await partsOf(store, contentId, size)) {
    const [row] = await rowsOf<{ data: Buffer }>(store, 'chunks', { contentId, size, part });
    if (!row) throw new Error(`part ${part} of ${contentId} has gone`);
    yield row.data;
  }
}

/** Cuts what comes into parts and keeps them. @returns how many bytes there were */
export async function writeChunks(
  store: Store,
  of: { contentId: Id; size: Size },
  bytes: AsyncIterable<Buffer>,
): Promise<number> {
  let [part, total] = [0, 0];
  let held: Buffer[] = [];
  let heldBytes = 0;
  const put = async (data: Buffer) => putChunk(store, { ...of, part: part++ }, data);
  for await (const piece of bytes) {
    held.push(piece);
    heldBytes += piece.length;
    total += piece.length;
    while (heldBytes >= FILE_LIMITS.partBytes) {
      const all = Buffer.concat(held);
      await put(all.subarray(0, FILE_LIMITS.partBytes));
      held = [all.subarray(FILE_LIMITS.partBytes)];
      heldBytes = held[0]!.length;
    }
  }
  if (heldBytes > 0 || total === 0) await put(Buffer.concat(held));
  return total;
}

/** Writes parts to a stream, waiting for it where it is slower than the records; ends quietly where nobody reads on. */
export async function pour(parts: AsyncIterable<Buffer>, into: Writable): Promise<void> {
  try {
    await pipeline(Readable.from(parts, { objectMode: false }), into);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ERR_STREAM_PREMATURE_CLOSE') throw error;
  }
}
