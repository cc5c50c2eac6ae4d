// `npm start`: installs, builds, starts the database, migrates, lays the demo, serves, and stops everything on Ctrl-C.
import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { DATA, DIST, ROOT } from './lib/paths.mjs';
import { processFacts } from './lib/process-facts.mjs';
import { Told, run, say } from './lib/say.mjs';

const empty = process.argv.includes('--empty');
const resetDemo = process.argv.includes('--reset-demo');
const port = Number(process.env.PORT ?? 4300);
const host = process.env.HOST ?? '127.0.0.1';
const lockFile = join(DATA, 'start.lock');

/** One start at a time in one folder: the lock names the process, and a lock whose process is gone is taken over. */
function takeLock() {
  mkdirSync(DATA, { recursive: true, mode: 0o700 });
  const me = JSON.stringify({ pid: process.pid, started: processFacts(process.pid)?.started, port });
  for (let attempt = 0; ; attempt++) {
    try {
      writeFileSync(lockFile, me, { flag: 'wx' });
      process.on('exit', () => rmSync(lockFile, { force: true }));
      return;
    } catch (error) {
      if (error.code !== 'EEXIST' || attempt > 3) throw error;
      let held;
      try {
        held = JSON.parse(readFileSync(lockFile, 'utf8'));
      } catch {
        held = undefined;
      }
      const holder = held && processFacts(held.pid);
      if (holder && holder.started === held.started)
        throw new Told(
          `Kalvet is already running from this folder (process ${held.pid}, http://127.0.0.1:${held.port}). ` +
            'Use that one, or stop it with Ctrl-C first.',
        );
      rmSync(lockFile, { force: true });
    }
  }
}

const tryPort = () =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once('error', (error) => resolve(error.code));
    probe.listen(port, host, () => probe.close(() => resolve(undefined)));
  });

/** A server whose start was killed ends by itself within two seconds: so a port in use is asked a few times. */
async function portIsFree() {
  for (let attempt = 0; ; attempt++) {
    const trouble = await tryPort();
    if (!trouble) return;
    if (trouble !== 'EADDRINUSE')
      throw new Told(`cannot listen on ${host}:${port} (${trouble}). Choose another address with HOST=… or PORT=…`);
    if (attempt >= 8)
      throw new Told(`port ${port} is used by another program. Choose another one:\n    PORT=${port + 1} npm start`);
    await new Promise((resolve) => setTimeout(resolve, 400));
  }
}

/** Runs one of Kalvet's own bundles and resolves with its exit code. */
function runBundle(file, args, env) {
  const child = spawn(process.execPath, ['--enable-source-maps', join(DIST, 'server', file), ...args], {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: 'inherit',
  });
  const ended = new Promise((resolve) => child.on('exit', (code, signal) => resolve(signal ? 1 : code)));
  return { child, ended };
}

await run(async () => {
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Told(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
  const foreign = process.env.KALVET_DB_URL;
  if (foreign && resetDemo)
    throw new Told('the demo is only ever laid in Kalvet’s own database, never in the one of KALVET_DB_URL.');
  takeLock();
  if (!resetDemo) await portIsFree();
  await ensureNodePackages();
  const programs = foreign ? undefined : await ensureDatabasePrograms();
  await build();

  const database = foreign ? undefined : await startDatabase({ folder: DATA, programs });
  const name = empty ? 'kalvet_empty' : 'kalvet';
  const env = {
    KALVET_DB_URL: foreign ?? database.url(name),
    PORT: String(port),
    HOST: host,
    KALVET_OWN_DB: foreign ? '' : '1',
    KALVET_FOLLOW_PARENT: '1',
  };

  let serving;
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    say('stopping …');
    serving?.child.kill('SIGTERM');
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  process.on('SIGHUP', stop);

  try {
    if (database)
      await database.query(`CREATE DATABASE IF NOT EXISTS ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
    if (database && !empty) {
      // A laying that a power cut interrupts is laid again: only from then on must every commit be on the disk.
      await database.query('SET GLOBAL innodb_flush_log_at_trx_commit = 2');
      const laying = runBundle('demo.mjs', resetDemo ? ['--reset'] : [], env);
      serving = laying;
      const laid = await laying.ended;
      await database.query('SET GLOBAL innodb_flush_log_at_trx_commit = 1');
      if (laid !== 0) throw new Told('the demo could not be laid; see above.');
    }
    if (resetDemo || stopping) return;
    serving = runBundle('main.mjs', [], env);
    const code = await serving.ended;
    if (!stopping && code !== 0) throw new Told('the server ended by itself; see above.');
  } finally {
    await database?.stop();
    say('stopped.');
  }
});
process.exit(process.exitCode ?? 0);
