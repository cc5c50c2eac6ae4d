// `npm run bench`: how fast and how large, in figures; `npm run bench -- PART` one part: mesh, plan, calibration, requests, record, screens, frames, files, pages;
// `npm run bench -- plan-long` the long curves of the planner, about half an hour.
// Runs on a database of its own that is thrown away; commits must reach the disk there, as in a shop.
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { exec } from './lib/exec.mjs';
import { ensureBrowser, ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { DATA, DIST } from './lib/paths.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  await ensureNodePackages();
  const programs = await ensureDatabasePrograms();
  await ensureBrowser();
  await build(['server', 'web', 'bench']);
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-bench-'));
  const database = await startDatabase({ folder, programs, quiet: true });
  try {
    await database.query('CREATE DATABASE kalvet_bench CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
    const args = [
      join(DIST, 'bench/main.mjs'),
      database.url('kalvet_bench'),
      String(await freePort()),
      join(DATA, 'bench'),
    ];
    const { code } = await exec(process.execPath, [...args, ...process.argv.slice(2)], { show: true });
    if (code !== 0) process.exitCode = 1;
  } finally {
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});
process.exit(process.exitCode ?? 0);
