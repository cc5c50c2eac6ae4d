#!/usr/bin/env node
// The command line. It works after `npm ci` alone: the program is built where it is missing or older than its sources.
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { build } from '../scripts/lib/build.mjs';
import { DIST } from '../scripts/lib/paths.mjs';
import { run } from '../scripts/lib/say.mjs';

// Whoever reads the output may have seen enough of it.
process.stdout.on('error', (error) => process.exit(error.code === 'EPIPE' ? 0 : 1));

await run(async () => {
  await build(['cli'], (text) => process.stderr.write(`kalvet: ${text}\n`));
  const { main } = await import(pathToFileURL(join(DIST, 'cli/main.mjs')).href);
  process.exitCode = await main(process.argv.slice(2));
});
