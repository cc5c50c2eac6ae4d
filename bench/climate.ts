// Coats with a million climate readings behind them, beside the same page of a shop that reads no climate.
import { randomUUID } from 'node:crypto';
import { driver } from './driver.ts';
import { line, quantile, timed } from './measure.ts';
import type { Line } from './measure.ts';
import { Recorder } from './record.ts';
import type { Served } from './serve.ts';

const READINGS = 1_000_000;
const AT_ONCE = 4000;
const TIMES = 25;
const MINUTE_MS = 60_000;

/** The page, the shop just changed: nothing of the answer before can be used again. */
async function coats(served: Served, recorder: Recorder): Promise<number> {
  const found: number[] = [];
  for (let i = 0; i < TIMES; i++) {
    await recorder.record();
    found.push(await timed(() => served.get('/api/coats')));
  }
  return quantile(found, 0.5);
}

export async function climate(url: string, served: Served): Promise<Line[]> {
  const recorder = await Recorder.open(served);
  const without = await coats(served, recorder);
  const id = randomUUID();
  const place = { id, version: 0, name: 'Shell room', kind: 'room', airflow: 1, hooks: 400, state: 'in use' };
  const { status, body } = await served.send('POST', '/api/shell/places', place);
  if (status !== 200) throw new Error(JSON.stringify(body));
  const db = await driver(url);
  const until = Date.now() - MINUTE_MS;
  const filled = await timed(async () => {
    for (let start = 0; start < READINGS; start += AT_ONCE) {
      // Minute by minute back from now, damper at night.
      const rows = Array.from({ length: Math.min(AT_ONCE, READINGS - start) }, (_, i) => {
        const ms = until - (start + i) * MINUTE_MS;
        const night = Math.cos((ms / 86_400_000) * 2 * Math.PI);
        const at = new Date(ms).toISOString().replace('T', ' ').replace('Z', '');
        return `('${id}','${at}',${(21.5 - 0.6 * night).toFixed(2)},${(54 + 6 * night).toFixed(1)},'sensor')`;
      });
      await db.query(`INSERT IGNORE INTO climate_reading VALUES ${rows.join(',')}`);
    }
    await db.query("UPDATE counter SET value = value + 1 WHERE name = 'climate'");
  });
  await db.end();
  await served.get('/api/coats');
  const withAll = await coats(served, recorder);
  return [
    line(`${READINGS} climate readings written in bulk`, filled / 1000, 's'),
    line('Coats without climate, shop just changed, p50', without, 'ms'),
    line('Coats with all of them, p50', withAll, 'ms'),
    line('Coats with ÷ without', withAll / without, '×', 2),
  ];
}
