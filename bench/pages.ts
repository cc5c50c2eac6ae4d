// Pages and writes that once went through the whole shop: their time, and how long they stop everybody else meanwhile.
import { monitorEventLoopDelay } from 'node:perf_hooks';
import type { Id, SetUpWork } from '@kalvet/core';
import { stepForm } from '../server/src/route/step-form.service.ts';
import { coats } from '../server/src/shell/coats.service.ts';
import { rowsOf } from '../server/src/db/rows.ts';
import { openStore } from '../server/src/store.ts';
import { newId } from '../server/src/write/new-id.ts';
import { line, quantile, timed } from './measure.ts';
import type { Line } from './measure.ts';
import type { Served } from './serve.ts';

const TIMES = 15;
const MS = 1e6;

/** How long something takes, and how long it stops the loop at a time, over some runs. */
async function measured(name: string, work: () => Promise<unknown>, aims: readonly [ms: number, stop: number]) {
  const all: number[] = [];
  await work();
  const delay = monitorEventLoopDelay({ resolution: 5 });
  delay.enable();
  for (let i = 0; i < TIMES; i++) all.push(await timed(work));
  delay.disable();
  // What the monitor sees beyond its own rhythm is what the work stopped.
  return [
    line(`${name}, p95`, quantile(all, 0.95), 'ms', aims[0]),
    line(`${name}: loop stopped at most`, Math.max(0, delay.max / MS - 5), 'ms', aims[1]),
  ];
}

export async function pages(url: string, served: Served): Promise<Line[]> {
  const store = await openStore(url);
  const server = { store, now: () => new Date().toISOString() };
  const form = async (kind: string): Promise<Id | undefined> => {
    const rows = await rowsOf<{ id: Id; data: { next: { kind: string; stepId: Id } | null } }>(store, 'projections', {
      carrier: 'tree',
    });
    return rows.find(({ data }) => data.next?.kind === kind)?.data.next?.stepId;
  };
  const lines = await measured('Coats', () => coats(server), [150, 50]);
  for (const kind of ['fire', 'pour', 'join-tree']) {
    const id = await form(kind);
    if (id) lines.push(...(await measured(`Form of ${kind}`, () => stepForm(server, id), [150, 50])));
  }
  await store.db.close();
  lines.push(...(await largeWork(served)));
  return lines;
}

/** A work of 2,000 casts is set up while others read; then one of its pieces gets another due date. */
async function largeWork(served: Served): Promise<Line[]> {
  const body: SetUpWork = {
    id: newId(),
    code: 'BIG',
    title: 'A very large edition',
    artist: 'Bench',
    editionSize: 500,
    artistProofs: 0,
    alloyId: 'C87300',
    method: 'shell',
    approval: 'none',
    finish: '',
    finishing: 'patina',
    glyph: 'block',
    dueDate: null,
    sections: ['a', 'b', 'c', 'd'].map((name, i) => ({
      name,
      wallMm: 5,
      metalHeightMm: 300,
      expectedWaxKg: 1.2,
      areaCm2: 2600,
      seamM: i === 0 ? null : 0.4,
      deep: false,
    })),
    moulds: [{ name: 'all', sections: [1, 2, 3, 4], pullsBefore: 0 }],
  };
  let setting = true;
  let slowest = 0;
  const others = (async () => {
    while (setting) slowest = Math.max(slowest, await timed(() => served.json('/api/health')));
  })();
  let pieceIds: Id[] = [];
  const seconds =
    (await timed(async () => {
      const answer = await served.send('POST', '/api/works', body);
      if (answer.status !== 201)
        throw new Error(`setting up: ${answer.status} ${JSON.stringify(answer.body).slice(0, 300)}`);
      ({ pieceIds } = answer.body as { pieceIds: Id[] });
    })) / 1000;
  setting = false;
  await others;
  const due: number[] = [];
  for (let i = 0; i < TIMES; i++)
    due.push(
      await timed(async () => {
        const change = { version: i + 1, dueDate: `2030-01-${String(i + 1).padStart(2, '0')}` };
        const { status, body: said } = await served.send('PATCH', `/api/pieces/${pieceIds[0]}`, change);
        if (status !== 200) throw new Error(`due date: ${status} ${JSON.stringify(said)}`);
      }),
    );
  return [
    line('A work of 2,000 casts is set up', seconds, 's'),
    line('Others wait at most meanwhile, for /health', slowest, 'ms', 100),
    line('A due date in such a work, p95', quantile(due, 0.95), 'ms', 100),
  ];
}
