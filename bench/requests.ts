// The Floor and the Day sheet: alone, beside their bare statements, and with twenty clients that each ask once a second.
import type { Server } from '../server/src/http/request.ts';
import { daySheet } from '../server/src/plan/day.service.ts';
import { openStore } from '../server/src/store.ts';
import { floor } from '../server/src/work/floor.service.ts';
import { driver } from './driver.ts';
import { line, quantile, timed, times } from './measure.ts';
import type { Line } from './measure.ts';
import { Recorder } from './record.ts';
import type { Served } from './serve.ts';

const CLIENTS = 20;
const SECONDS = 20;
const ALONE = 25;
/** Somebody records a step so often meanwhile, so that no answer can be kept for long. */
const RECORD_EVERY_MS = 3000;
const ASKED = [
  ['Floor', '/api/floor', floor],
  ['Day sheet', '/api/day', (server: Server) => daySheet(server)],
] as const;

export async function requests(url: string, served: Served): Promise<Line[]> {
  const recorder = await Recorder.open(served);
  const lines: Line[] = [];
  for (const [name, path, service] of ASKED) {
    await times(5, () => served.get(path));
    const bytes = await served.get(path);
    // After a change nothing of the answer before can be used again.
    const fresh: number[] = [];
    for (let i = 0; i < ALONE; i++) {
      await recorder.record();
      fresh.push(await timed(() => served.get(path)));
    }
    const bare = await bareStatements(url, service);
    const load = await underLoad(served, path, recorder);
    lines.push(
      line(`${name}: answer on the wire`, bytes / 1000, 'kB'),
      line(`${name}: alone, shop just changed, p50`, quantile(fresh, 0.5), 'ms'),
      line(`${name}: its ${bare.count} statements through the driver, p50`, bare.p50, 'ms'),
      line(`${name}: alone ÷ statements`, quantile(fresh, 0.5) / bare.p50, '×', 4),
      line(`${name}: ${CLIENTS} clients, p50`, quantile(load, 0.5), 'ms'),
      line(`${name}: ${CLIENTS} clients, p95`, quantile(load, 0.95), 'ms', 150),
    );
  }
  return lines;
}

/** The same statements that one answer makes, one after the other through the driver alone. */
async function bareStatements(url: string, service: (server: Server) => Promise<unknown>) {
  const store = await openStore(url);
  const statements: string[] = [];
  const { options } = store.db as unknown as { options: { logging: false | ((sql: string) => void) } };
  options.logging = (sql) => void statements.push(sql.replace(/^Executing \([^)]*\): /, ''));
  await service({ store, now: () => new Date().toISOString() });
  options.logging = false;
  await store.db.close();
  const db = await driver(url);
  const all = await times(ALONE, async () => {
    for (const sql of statements) await db.query(sql);
  });
  await db.end();
  return { count: statements.length, p50: quantile(all, 0.5) };
}

async function underLoad(served: Served, path: string, recorder: Recorder): Promise<number[]> {
  const found: number[] = [];
  const until = performance.now() + SECONDS * 1000;
  const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, Math.max(0, ms)));
  const client = async (i: number) => {
    await wait((i * 1000) / CLIENTS);
    while (performance.now() < until) {
      const began = performance.now();
      await served.get(path);
      found.push(performance.now() - began);
      await wait(1000 - (performance.now() - began));
    }
  };
  const writer = async () => {
    while (performance.now() < until) {
      await recorder.record();
      await wait(RECORD_EVERY_MS);
    }
  };
  await Promise.all([writer(), ...Array.from({ length: CLIENTS }, (_, i) => client(i))]);
  return found;
}
