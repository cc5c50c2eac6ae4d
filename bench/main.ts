// Runs the parts of the benchmark that were asked for on a database of its own; `npm run bench` calls it.
import { mkdirSync, writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { calibration } from './calibration.ts';
import { climate } from './climate.ts';
import { files } from './files.ts';
import { fill } from './fill.ts';
import { frames } from './frames.ts';
import { line } from './measure.ts';
import type { Line } from './measure.ts';
import { mesh } from './mesh.ts';
import { pages } from './pages.ts';
import { plan, planLong } from './plan.ts';
import { record } from './record.ts';
import { requests } from './requests.ts';
import { screens } from './screens.ts';
import type { Served } from './serve.ts';
import { serve, untilPlanned } from './serve.ts';

const PARTS = [
  'mesh',
  'plan',
  'calibration',
  'requests',
  'record',
  'screens',
  'frames',
  'files',
  'climate',
  'pages',
] as const;
/** Only where it is asked for by name: half an hour. */
const LONG = 'plan-long';
type Part = (typeof PARTS)[number] | typeof LONG;

const [url, port, folder, ...asked] = process.argv.slice(2) as [string, string, string, ...Part[]];
const wants = (part: Part): boolean => (asked.length === 0 && part !== LONG) || asked.includes(part);
const unknown = asked.filter((word) => word !== LONG && !PARTS.includes(word));
if (unknown.length > 0) {
  console.error(`kalvet: there is no part "${unknown.join(', ')}"; the parts are ${[...PARTS, LONG].join(', ')}.`);
  process.exit(1);
}

const results: { part: string; seconds: number; lines: Line[] }[] = [];
async function part(name: string, work: () => Promise<Line[]>): Promise<void> {
  const began = Date.now();
  const lines = await work();
  results.push({ part: name, seconds: (Date.now() - began) / 1000, lines });
  console.log(`\n${name}`);
  for (const { name: what, value, unit, aim } of lines) {
    const judged = aim === undefined ? '' : value <= aim ? `  (aim ${aim})` : `  MISSED (aim ${aim})`;
    console.log(`  ${what.padEnd(66)} ${String(value).padStart(9)} ${unit}${judged}`);
  }
}

if (wants('mesh')) await part('mesh', mesh);
if (wants('plan')) await part('plan', plan);
if (wants('calibration')) await part('calibration', calibration);
if (wants(LONG)) await part('plan, long', planLong);
if (PARTS.slice(3).some(wants)) {
  let served: Served | undefined;
  try {
    await part('fill', async () => {
      const filled = await fill(url, new Date().toISOString());
      served = await serve(url, Number(port));
      const planned = await untilPlanned(served);
      return [
        line(`${filled.works} works, ${filled.pieces} pieces (${filled.inWork} in work), steps`, filled.steps, ''),
        line('Written in bulk', filled.seconds, 's', 60),
        line('First plan of this shop, from its records to dates on the Floor', planned, 's'),
      ];
    });
    if (wants('requests')) await part('requests', () => requests(url, served!));
    if (wants('record')) await part('record', () => record(served!));
    if (wants('screens')) await part('screens', () => screens(served!));
    if (wants('frames')) await part('frames', () => frames(served!));
    if (wants('files')) await part('files', () => files(served!));
    if (wants('climate')) await part('climate', () => climate(url, served!));
    // Last: it sets up a work that the other parts are not measured with.
    if (wants('pages')) await part('pages', () => pages(url, served!));
  } finally {
    await served?.stop();
  }
}

mkdirSync(folder, { recursive: true });
const file = join(folder, 'last.json');
const at = new Date().toISOString();
const kept = JSON.stringify({ at, node: process.version, cpus: cpus().map(({ model }) => model), results }, null, 2);
writeFileSync(file, kept);
writeFileSync(join(folder, `${at.replaceAll(':', '-')}.json`), kept);
console.log(`\nkept in ${file}`);
const missed = results.flatMap(({ lines }) => lines).filter(({ value, aim }) => aim !== undefined && value > aim);
if (missed.length > 0) console.log(`${missed.length} missed: ${missed.map(({ name }) => name).join(' · ')}`);
process.exit(0);
