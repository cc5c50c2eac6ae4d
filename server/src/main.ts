// Serves Kalvet. Everything it needs is told by the environment: KALVET_DB_URL, PORT, HOST, KALVET_HOSTS, KALVET_PROXIES,
// KALVET_DATA (the folder whose disk is watched), KALVET_MQTT_PORT and KALVET_MQTT_HOST (where instruments speak to), KALVET_DEMO, KALVET_OIDC_…, KALVET_PLAN_EFFORT.
import { createServer } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Op } from 'sequelize';
import { scenarioOf } from '@kalvet/core';
import { createApp } from './app.ts';
import type { Rates } from './http/rates.ts';
import { RATES } from './http/rates.ts';
import type { Broker } from './instruments/broker.ts';
import { openBroker } from './instruments/broker.ts';
import { diskBeside } from './keep/disk.ts';
import { openidFrom } from './people/openid.ts';
import { dropForgotten } from './files/upload.service.ts';
import { isManaged } from './people/credentials.ts';
import { dropOldSessions } from './people/sessions.ts';
import { dropOldTries } from './people/tries.ts';
import type { PlannerJob } from './plan/planner-job.ts';
import { Replanner } from './plan/replanner.ts';
import { rowsOf } from './db/rows.ts';
import { kilnCouple } from './burnout/kiln.service.ts';
import { AirClock } from './shell/air-clock.ts';
import { climateSensor } from './shell/climate-sensor.ts';
import { mendProjections } from './shop/project.ts';
import { openStore } from './store.ts';
import type { SetUpJob } from './work/set-up-job.ts';
import { ModelJobs, dropOldJobs } from './weigh/model-jobs.ts';
import { modelWorker } from './weigh/model-worker.ts';
import { WorkThread } from './write/work-thread.ts';
import type { Written } from './write/write.ts';

const url = process.env['KALVET_DB_URL'];
if (!url) {
  console.error('kalvet: KALVET_DB_URL is missing; `npm start` sets it.');
  process.exit(1);
}
const port = Number(process.env['PORT'] ?? 4300);
const host = process.env['HOST'] ?? '127.0.0.1';
/** How many of the usual tries each plan is made better with: tries and no seconds, so that every machine tells one date. */
const effort = Number(process.env['KALVET_PLAN_EFFORT'] ?? 1);
/** A body that takes longer to come in is given up, and so is a head. */
const SLOW_BODY_MS = 30_000;
const SLOW_HEAD_MS = 10_000;
const MOST_CONNECTIONS = 1000;
const TIDY_MS = 3_600_000;
const KEYS_KEPT_MS = 30 * 86_400_000;

/** `KALVET_RATES=2` lets twice as much through, for large shops behind one address. */
const ratesOf = (factor = '1'): Rates => ({
  person: RATES.person * Number(factor),
  address: RATES.address * Number(factor),
  signIn: RATES.signIn,
});
const listOf = (name: string) =>
  (process.env[name] ?? '')
    .split(',')
    .map((each) => each.trim())
    .filter(Boolean);

const store = await openStore(url).catch((error: Error) => {
  console.error(`kalvet: the database cannot be used: ${error.message}`);
  process.exit(1);
});
/** What has done its work goes: keys of forms a month old, sessions that ended, tries that nobody counts any more. */
const tidy = async () => {
  await store.models.keys.destroy({ where: { at: { [Op.lt]: new Date(Date.now() - KEYS_KEPT_MS) } } });
  await dropOldSessions(store);
  await dropOldTries(store);
  await dropForgotten(store);
  await dropOldJobs(store);
};
await tidy();
setInterval(() => void tidy().catch((error: Error) => console.error('tidying:', error.message)), TIDY_MS).unref();

const LOOPBACK = ['127.0.0.1', 'localhost', '::1'];
// Whoever comes first may set up a shop that nobody manages: that must not be somebody in the street.
if (!LOOPBACK.includes(host) && !(await isManaged(store))) {
  console.error(
    `kalvet: HOST=${host} lets other machines in, and nobody manages this shop with a password yet.\n` +
      '    Start it without HOST, set it up in the browser of this machine, and start it again.',
  );
  process.exit(1);
}
/** Only Kalvet’s own demo, and only where the database says that it is one. */
const demo = process.env['KALVET_DEMO'] === '1' && (await rowsOf(store, 'settings', { name: 'demo' })).length > 0;
const openid = (() => {
  try {
    return openidFrom(process.env);
  } catch (error) {
    console.error(`kalvet: ${(error as Error).message}.`);
    process.exit(1);
  }
})();
/** A rehearsal: only in a demo of its own, which is thrown away. */
const practice =
  demo && process.env['KALVET_PRACTICE']
    ? {
        scenario: scenarioOf(process.env['KALVET_PRACTICE'], Number(process.env['KALVET_PRACTICE_SEED'] ?? 1)),
        fast: Number(process.env['KALVET_PRACTICE_FAST'] ?? 1),
        startedAt: null,
      }
    : undefined;
const web = join(dirname(fileURLToPath(import.meta.url)), '..', 'web');
const planner = new URL('./planner.mjs', import.meta.url);
const planning = new WorkThread<PlannerJob>(planner, url, false);
const asking = new WorkThread<PlannerJob>(planner, url, true);
const settingUp = new WorkThread<SetUpJob>(new URL('./set-up.mjs', import.meta.url), url, true);
const measuring = new ModelJobs(store, modelWorker(new URL('./weigher.mjs', import.meta.url)));
measuring.start();
/** Where instruments speak to; none where its port is taken. */
let broker: Broker | undefined;
/** What whoever started this says about the database, while it is away. */
let around = '';
const { app, live } = createApp({
  store,
  disk: diskBeside(process.env['KALVET_DATA']),
  around: () => around,
  now: () => new Date().toISOString(),
  web,
  setUpApart: (job) => settingUp.run<Written<object>>(job),
  ask: (now, question) => asking.run<object>({ now, question }),
  demo,
  openid,
  hosts: listOf('KALVET_HOSTS'),
  proxies: listOf('KALVET_PROXIES'),
  rates: ratesOf(process.env['KALVET_RATES']),
  broker: () => broker?.url ?? null,
  ...(practice ? { practice } : {}),
});
const replanner = new Replanner(
  store,
  () => new Date().toISOString(),
  (now) => planning.run({ now, effort }),
);
replanner.start();
const drying = new AirClock(store, () => new Date().toISOString());
drying.start();
// What is kept ready is looked over while the first pages are asked for.
void mendProjections(store).then(
  (mended) => mended > 0 && console.log(`kalvet: ${mended} kept standings were not as the records say; mended.`),
  (error: Error) => console.error('kalvet: looking over what is kept ready:', error.message),
);
const server = createServer(
  { requestTimeout: SLOW_BODY_MS, headersTimeout: SLOW_HEAD_MS, keepAliveTimeout: 15_000 },
  app,
);
server.maxConnections = MOST_CONNECTIONS;
server.on('error', (error: NodeJS.ErrnoException) => {
  console.error(
    error.code === 'EADDRINUSE' ? `kalvet: port ${port} is used by another program.` : `kalvet: ${error.message}`,
  );
  process.exit(1);
});
const listen = () =>
  server.listen(port, host, () => {
    console.log(
      `kalvet: ready at http://${host === '0.0.0.0' ? 'localhost' : host}:${port}/  (Ctrl-C stops everything)`,
    );
    process.send?.('ready');
    void listenToInstruments();
  });
/** Readings come in beside everything else: a port that is taken keeps nobody from working. */
async function listenToInstruments(): Promise<void> {
  const at = {
    host: process.env['KALVET_MQTT_HOST'] ?? '127.0.0.1',
    port: Number(process.env['KALVET_MQTT_PORT'] ?? port + 10),
  };
  try {
    broker = await openBroker(store, at, undefined, { climate: climateSensor, thermocouple: kilnCouple });
  } catch (error) {
    console.error(
      `kalvet: no instruments are heard: ${(error as Error).message}. Choose another port with KALVET_MQTT_PORT.`,
    );
  }
}
// While this was being started somebody else may have answered at its address: it is asked for.
if (process.send) process.send('port');
else listen();
process.on('message', (said: 'listen' | { readonly around: string }) => {
  if (said === 'listen') listen();
  else ({ around } = said);
});

let ending = false;
/** Lets running requests end, ends the live streams, and closes the database. */
async function end(): Promise<void> {
  if (ending) return;
  ending = true;
  live.close();
  await broker?.close();
  const closed = new Promise((resolve) => server.close(resolve));
  setTimeout(() => server.closeAllConnections(), 2000).unref();
  await closed;
  await replanner.stop();
  await drying.stop();
  measuring.stop();
  await Promise.all([planning.stop(), asking.stop(), settingUp.stop()]);
  await store.db.close();
  process.exit(0);
}
process.on('SIGTERM', () => void end());
process.on('SIGINT', () => void end());

// A start that was killed outright cannot tell us: its child is handed to another parent, and that is the sign to end.
if (process.env['KALVET_FOLLOW_PARENT'] === '1') {
  const parent = process.ppid;
  setInterval(() => {
    if (process.ppid !== parent) void end();
  }, 1000).unref();
}
