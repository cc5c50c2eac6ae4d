// `npm run rehearse`: a pour is rehearsed on a practice shop of its own, with stand-ins for the instruments. Everything is thrown
// away at the end. `npm run rehearse -- --scenario=wet --seed=3 --fast=2`; without a scenario it says which there are.
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './lib/build.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { ensureDatabasePrograms, ensureNodePackages } from './lib/install.mjs';
import { DIST, ROOT } from './lib/paths.mjs';
import { Told, run, say } from './lib/say.mjs';
import { askBundle, runBundle } from './lib/serve.mjs';

const option = (name, usual) => process.argv.find((word) => word.startsWith(`--${name}=`))?.split('=')[1] ?? usual;
const scenario = option('scenario', '');
const seed = option('seed', String(1 + (Math.floor(Date.now() / 1000) % 1000)));
const fast = option('fast', '1');
const port = Number(option('port', process.env.PORT ?? 4340));

/** The session of somebody in the practice shop, to look whether the crew has begun. */
async function sessionIn(url) {
  const { choices } = await (await fetch(`${url}/api/session`)).json();
  const answer = await fetch(`${url}/api/session/demo`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ personId: choices[0].id }),
  });
  return answer.headers.getSetCookie()[0].split(';')[0];
}

await run(async () => {
  await ensureNodePackages();
  const programs = await ensureDatabasePrograms();
  await build(['server', 'web', 'instruments']);
  if (scenario === '') {
    const known = await askBundle('practice.mjs', [], { KALVET_PRACTICE: 'list' });
    for (const { id, title } of known) say(`${id.padEnd(14)} ${title}`);
    throw new Told('which one? npm run rehearse -- --scenario=wet');
  }
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-practice-'));
  const database = await startDatabase({ folder, programs, fast: true, quiet: true });
  const children = [];
  let over = false;
  const stopped = new Promise((resolve) => {
    for (const sign of ['SIGINT', 'SIGTERM']) process.on(sign, resolve);
  });
  try {
    await database.query('CREATE DATABASE kalvet_practice CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci');
    const env = {
      KALVET_DB_URL: database.url('kalvet_practice'),
      KALVET_OWN_DB: '1',
      KALVET_DEMO: '1',
      KALVET_PRACTICE: scenario,
      KALVET_PRACTICE_SEED: seed,
      KALVET_PRACTICE_FAST: fast,
      KALVET_PLAN_EFFORT: '0.1',
      KALVET_MQTT_PORT: String(await freePort()),
      PORT: String(port),
    };
    const { heatId, furnaceC, wrongUnit, dropout } = await askBundle('practice.mjs', [], env);
    const server = runBundle('main.mjs', [], env);
    children.push(server.child);
    const url = `http://127.0.0.1:${port}`;
    for (
      let i = 0;
      !(await fetch(`${url}/api/health`).then(
        ({ ok }) => ok,
        () => false,
      ));
      i++
    ) {
      if (i > 150) throw new Told('the practice shop does not answer; see above.');
      await new Promise((resolve) => setTimeout(resolve, 200));
    }
    const instruments = spawn(
      process.execPath,
      [
        join(DIST, 'instruments/main.mjs'),
        ...['--rehearsal', `--fast=${fast}`, `--seed=${seed}`, `--target=${furnaceC}`],
        ...(wrongUnit ? [`--wrong-unit=${wrongUnit}`] : []),
        ...(dropout ? [`--dropout=${dropout}`] : []),
      ],
      {
        cwd: ROOT,
        env: { ...process.env, KALVET_MQTT_URL: `mqtt://127.0.0.1:${env.KALVET_MQTT_PORT}` },
        stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
      },
    );
    children.push(instruments);
    say(`rehearse at ${url}/heats/${heatId}/live  (Ctrl-C ends and throws everything away)`);
    const Cookie = await sessionIn(url);
    const watch = (async () => {
      while (!over) {
        await new Promise((resolve) => setTimeout(resolve, 500));
        const { startedAt } = await fetch(`${url}/api/practice`, { headers: { Cookie } }).then(
          (answer) => answer.json(),
          () => ({}),
        );
        if (!startedAt) continue;
        if (instruments.connected) instruments.send('tap');
        return;
      }
    })();
    await Promise.race([stopped, server.ended]);
    over = true;
    await watch;
  } finally {
    over = true;
    for (const child of children) child.kill('SIGTERM');
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

process.exit(process.exitCode ?? 0);
