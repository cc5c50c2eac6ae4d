// `npm start`: installs, builds, starts the database, migrates, lays the demo, serves, keeps both alive, makes backups, and
// stops everything on Ctrl-C.
import { createServer } from 'node:net';
import { createInterface } from 'node:readline/promises';
import { backUp, backupRound } from './lib/backup-round.mjs';
import { build } from './lib/build.mjs';
import { startDatabase } from './lib/database.mjs';
import { holdingPage } from './lib/holding.mjs';
import { ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { keepAlive } from './lib/keep-alive.mjs';
import { takeLock } from './lib/lock.mjs';
import { DATA } from './lib/paths.mjs';
import { throughSocket, throughUrl } from './lib/records.mjs';
import { Told, run, say } from './lib/say.mjs';
import { askBundle, runBundle, serve } from './lib/serve.mjs';

const empty = process.argv.includes('--empty');
const resetDemo = process.argv.includes('--reset-demo');
const port = Number(process.env.PORT ?? 4300);
const host = process.env.HOST ?? '127.0.0.1';

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

/** Looks at the records before anything is changed: an older program stops here, and what would be changed is copied first. */
async function copyBeforeMigrating(env, reach) {
  const found = await askBundle('look.mjs', [], env);
  if (found.trouble) throw new Told(`the database cannot be used: ${found.trouble}.`);
  if (found.unknown.length > 0)
    throw new Told(
      `these records were kept by a newer Kalvet (${found.unknown.join(', ')}). Use that one, or restore an older backup: ` +
        'this one would not understand them. Nothing was touched.',
    );
  if (found.pending.length > 0 && !found.empty && reach) {
    say(`the records take a newer shape (${found.pending.join(', ')}); a copy is made first …`);
    await backUp(reach, { why: 'before migration' });
  }
  return found;
}

/** Lays the demo anew only where nobody worked in it, or somebody says so; a copy is made first. */
async function copyBeforeReset(env, reach) {
  const { changes } = await askBundle('demo.mjs', ['--worked'], env);
  if (changes > 0 && !process.argv.includes('--yes')) {
    const question = `people have recorded ${changes} changes in this shop. Lay the demo anew, and put theirs aside as a backup?`;
    if (!process.stdin.isTTY) throw new Told(`${question}\n    npm run demo:reset -- --yes`);
    const asking = createInterface({ input: process.stdin, output: process.stdout });
    const answer = await asking.question(`kalvet: ${question} (yes/no) `);
    asking.close();
    if (!/^y(es)?$/i.test(answer.trim())) throw new Told('nothing was changed.');
  }
  await backUp(reach, { why: 'before reset' });
}

await run(async () => {
  if (!Number.isInteger(port) || port < 1 || port > 65535)
    throw new Told(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
  const foreign = process.env.KALVET_DB_URL;
  if (foreign && resetDemo)
    throw new Told('the demo is only ever laid in Kalvet’s own database, never in the one of KALVET_DB_URL.');
  const name = empty ? 'kalvet_empty' : 'kalvet';
  takeLock(resetDemo ? { what: 'laying the demo' } : { port, name });
  if (!resetDemo) await portIsFree();
  await ensureNodePackages();
  const programs = await ensureDatabasePrograms().catch((error) => {
    if (!foreign) throw error;
    say(`${error.message}\n    Without it no backups are made from here.`);
  });
  await build();

  let database = foreign ? undefined : await startDatabase({ folder: DATA, programs });
  const env = {
    KALVET_DB_URL: foreign ?? database.url(name),
    PORT: String(port),
    HOST: host,
    KALVET_OWN_DB: foreign ? '' : '1',
    KALVET_DEMO: foreign || empty ? '' : '1',
    KALVET_DATA: foreign ? '' : DATA,
    KALVET_FOLLOW_PARENT: '1',
  };
  const reach = foreign ? programs && throughUrl(foreign, programs) : throughSocket(database, name, programs);

  let child;
  let stopping = false;
  const stop = () => {
    if (stopping) return;
    stopping = true;
    say('stopping …');
    child?.kill('SIGTERM');
  };
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, stop);

  try {
    if (database)
      await database.query(`CREATE DATABASE IF NOT EXISTS ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
    const found = await copyBeforeMigrating(env, reach);
    if (database && !empty) {
      if (resetDemo && !found.empty) await copyBeforeReset(env, reach);
      // A laying that a power cut interrupts is laid again: only from then on must every commit be on the disk.
      await database.query('SET GLOBAL innodb_flush_log_at_trx_commit = 2');
      const laying = runBundle('demo.mjs', resetDemo ? ['--reset'] : [], env);
      child = laying.child;
      const laid = await laying.ended;
      await database.query('SET GLOBAL innodb_flush_log_at_trx_commit = 1');
      if (laid !== 0 && !stopping) throw new Told('the demo could not be laid; see above.');
    }
    if (resetDemo || stopping) return;
    await keepServing();
  } finally {
    await database?.stop();
    reach?.close();
    say('stopped.');
  }

  /** Serves, and starts again what dies, until it is stopped. */
  async function keepServing() {
    const holding = holdingPage(port, host);
    let serving;
    let everReady = false;
    const server = keepAlive({
      name: 'the server',
      begin: async () => {
        serving = serve(env, () => holding.close());
        child = serving.child;
        // A stop that came while it was begun finds it here.
        if (stopping) child.kill('SIGTERM');
        const how = await serving.ended;
        everReady ||= serving.state.listened;
        if (!everReady && !stopping) throw new Told('the server ended by itself; see above.');
        return { ended: how };
      },
      told: (how, pause) => {
        if (!everReady) throw new Told('the server ended by itself; see above.');
        say(`the server ${how}; it is started again in ${pause / 1000} s`);
        void holding.open('The server stopped and is being started again; that takes some seconds.');
      },
      stopping: () => stopping,
    });
    const records = database
      ? keepAlive({
          name: 'the database',
          begin: async () => {
            if (!database.alive()) database = await startDatabase({ folder: DATA, programs, port: database.port });
            serving?.tell('');
            return { ended: gone(() => stopping || !database.alive()) };
          },
          told: (how, pause) => {
            say(`the database ${how}; it is started again in ${pause / 1000} s`);
            serving?.tell('The database stopped and is being started again; that takes some seconds.');
          },
          stopping: () => stopping,
        })
      : new Promise(() => {});
    const round = reach && backupRound(reach);
    try {
      await Promise.race([server, records]);
    } catch (error) {
      throw error instanceof Told ? error : new Told(`${error.message}. See .data/logs and .data/db.log.`);
    } finally {
      stop();
      await serving?.ended;
      await holding.close();
      await round?.stop();
    }
  }
});
process.exit(process.exitCode ?? 0);

/** Resolves when something is so; looked at four times a second. */
async function gone(isSo) {
  while (!isSo()) await new Promise((resolve) => setTimeout(resolve, 250));
  return 'stopped';
}
