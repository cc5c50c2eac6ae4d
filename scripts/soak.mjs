// `npm run soak`: kills, fills the disk, freezes and fuzzes a Kalvet of its own, and looks after each whether everything holds.
// `npm run soak -- --minutes 3 kills fuzz`: how long, and which parts. Ends with one line of figures, code 1 where one is not as
// it must be. The seed is fixed (`--seed N`), so that a failure can be had again.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { Told, run, say } from './lib/say.mjs';

const words = process.argv.slice(2);
const option = (name, usual) => {
  const at = words.indexOf(`--${name}`);
  return at < 0 ? usual : Number(words[at + 1]);
};
const minutes = option('minutes', 8);
const seed = option('seed', 20_270_301);
const asked = words.filter((word, i) => !word.startsWith('--') && !words[i - 1]?.startsWith('--'));

/** What is done, and how much of the time it gets. */
const PARTS = { kills: 0.5, frozen: 0.1, disk: 0.1, settings: 0.05, streams: 0.05, fuzz: 0.2 };

await run(async () => {
  const unknown = asked.filter((name) => !(name in PARTS));
  if (unknown.length > 0)
    throw new Told(`there is no part "${unknown.join(', ')}"; the parts are ${Object.keys(PARTS).join(', ')}.`);
  await ensureNodePackages();
  await ensureDatabasePrograms();
  await build();
  const { Shop } = await import('./soak/shop.mjs');
  const parts = await import('./soak/parts.mjs');
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-soak-'));
  const chosen = Object.keys(PARTS).filter((name) => asked.length === 0 || asked.includes(name));
  const whole = chosen.reduce((sum, name) => sum + PARTS[name], 0);
  const figures = {};
  const faults = [];
  const began = Date.now();
  const shop = await Shop.open(folder);
  try {
    for (const name of chosen) {
      const until = Date.now() + (minutes * 60_000 * PARTS[name]) / whole;
      say(`${name} …`);
      const found = await parts[name](shop, { until, seed });
      Object.assign(figures, found.figures);
      faults.push(...found.faults.map((fault) => `${name}: ${fault}`));
      faults.push(...(await shop.walk()).map((fault) => `after ${name}: ${fault}`));
    }
  } finally {
    await shop.close();
    if (faults.length === 0) rmSync(folder, { recursive: true, force: true });
  }
  for (const fault of faults.slice(0, 40)) say(`FAULT ${fault}`);
  if (faults.length > 0) say(`what was left lies in ${folder}`);
  const told = Object.entries(figures).map(([name, value]) => `${value} ${name}`);
  process.stdout.write(
    `soak: ${told.join(', ')}; ${faults.length} faults; ${((Date.now() - began) / 60_000).toFixed(1)} min, seed ${seed}\n`,
  );
  if (faults.length > 0) process.exitCode = 1;
});
process.exit(process.exitCode ?? 0);
