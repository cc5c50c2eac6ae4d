// Files: a model as large as is taken, sent in parts and read back, and what the server's memory grows by meanwhile.
import { randomBytes, randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { Readable } from 'node:stream';
import type { ReadableStream } from 'node:stream/web';
import type { FloorAnswer, UploadAnswer } from '@kalvet/core';
import { FILE_LIMITS } from '@kalvet/core';
import { line, timed } from './measure.ts';
import type { Line } from './measure.ts';
import type { Served } from './serve.ts';

const MB = 1e6;
const KB = 1024;
const MOST_GROWTH_MB = 100;
const WATCH_MS = 50;

/** The memory that a process holds now, bytes. */
const rssOf = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) * KB;

/** The most that a process held while something was done, beyond what it held before. */
async function growth(pid: number, work: () => Promise<void>): Promise<{ mb: number; ms: number }> {
  const before = rssOf(pid);
  let most = before;
  const watch = setInterval(() => (most = Math.max(most, rssOf(pid))), WATCH_MS);
  const ms = await timed(work);
  clearInterval(watch);
  return { mb: (most - before) / MB, ms };
}

export async function files(served: Served): Promise<Line[]> {
  const { base, signed, send } = served;
  const bytes = FILE_LIMITS.modelBytes;
  const count = Math.ceil(bytes / FILE_LIMITS.partBytes);
  const part = randomBytes(FILE_LIMITS.partBytes);
  const first = Buffer.from(part);
  first.write('ply\n');
  const begin = { id: randomUUID(), name: 'large.ply', bytes, fingerprint: randomUUID() };
  const { id } = (await send('POST', '/api/files', begin)).body as UploadAnswer;
  const put = async (number: number) => {
    const left = Math.min(FILE_LIMITS.partBytes, bytes - number * FILE_LIMITS.partBytes);
    const body = (number === 0 ? first : part).subarray(0, left);
    const headers = { 'Content-Type': 'application/octet-stream', ...signed };
    const answer = await fetch(`${base}/api/files/${id}/parts/${number}`, { method: 'PUT', headers, body });
    if (!answer.ok) throw new Error(`part ${number}: ${answer.status} ${await answer.text()}`);
    await answer.arrayBuffer();
  };
  const sent = await growth(served.pid, async () => {
    for (let number = 0; number < count; number += 2)
      await Promise.all([number, number + 1].filter((each) => each < count).map(put));
  });
  const ended = await growth(served.pid, async () => {
    const { status, body } = await send('POST', `/api/files/${id}/end`, {});
    if (status !== 200) throw new Error(JSON.stringify(body));
  });
  const { works } = await served.json<FloorAnswer>('/api/floor');
  const hook = { subject: 'work', subjectId: works[0]!.id, defect: null, role: 'seen', words: '', pins: [], at: null };
  await send('POST', '/api/attachments', { id: randomUUID(), contentId: id, name: 'large.ply', ...hook });
  let read = 0;
  const fetched = await growth(served.pid, async () => {
    const answer = await fetch(`${base}/api/files/${id}`, { headers: signed });
    for await (const chunk of Readable.fromWeb(answer.body as ReadableStream)) read += (chunk as Buffer).length;
  });
  if (read !== bytes) throw new Error(`${read} of ${bytes} bytes came back`);
  return [
    line(`A model of ${bytes / MB} MB sent in ${count} parts`, sent.ms / 1000, 's'),
    line('… the server’s memory grew by', sent.mb, 'MB', MOST_GROWTH_MB),
    line('… looked at and kept', ended.ms / 1000, 's', 9),
    line('… its memory grew by', ended.mb, 'MB', MOST_GROWTH_MB),
    line('… read back', fetched.ms / 1000, 's'),
    line('… its memory grew by', fetched.mb, 'MB', MOST_GROWTH_MB),
  ];
}
