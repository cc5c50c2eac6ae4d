// `npm run instruments`: stand-ins for pyrometers, furnace controller and meter speak to a Kalvet that runs on this machine.
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { ensureNodePackages } from './lib/install.mjs';
import { DIST, ROOT } from './lib/paths.mjs';
import { run } from './lib/say.mjs';

await run(async () => {
  await ensureNodePackages();
  await build(['instruments']);
  const main = join(DIST, 'instruments/main.mjs');
  const child = spawn(process.execPath, [main, ...process.argv.slice(2)], { cwd: ROOT, stdio: 'inherit' });
  const end = () => child.kill('SIGTERM');
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
  await new Promise((resolve) => child.on('exit', (code) => ((process.exitCode = code ?? 0), resolve())));
});
