// The ways in which a Kalvet is ill-treated. Each gives figures and what was not as it must be.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { join } from 'node:path';
import { Shop, chance, sleep } from './shop.mjs';
import { hostile, routes } from './fuzz.mjs';

const SLOW_MS = 5_000;

/** Four people write without a pause while server, database, start command or all of them are killed outright. */
export async function kills(shop, { until, seed }) {
  const random = chance(seed);
  const faults = [];
  let rounds = 0;
  let writes = 0;
  let slowest = 0;
  while (Date.now() < until) {
    let writing = true;
    const writers = shop.people.map(async (who, w) => {
      for (let i = 0; writing; i++) {
        const kept = await shop
          .write(who, `client ${rounds} ${w} ${i}`)
          .catch((error) => faults.push(error.message) && false);
        if (kept) writes++;
        else await sleep(100);
      }
    });
    await sleep(300 + random() * 1200);
    const kinds = ['server', 'database', 'start', 'all', 'server and database'];
    const kind = kinds[rounds % kinds.length];
    const pids = { server: ['server'], database: ['database'], start: ['start'], all: ['start', 'server', 'database'] }[
      kind
    ] ?? ['server', 'database'];
    for (const pid of pids.map((name) => shop.pid(name))) process.kill(pid, 'SIGKILL');
    if (kind === 'start' || kind === 'all') {
      await shop.ended;
      // Its server ends by itself within seconds.
      await sleep(kind === 'start' ? 2500 : 300);
      await shop.start().catch((error) => faults.push(`${kind}: ${error.message.slice(0, 400)}`));
    }
    slowest = Math.max(
      slowest,
      await shop.well().catch((error) => (faults.push(`${kind}: ${error.message.slice(0, 400)}`), 0)),
    );
    writing = false;
    await Promise.all(writers);
    faults.push(...(await shop.walk()).map((fault) => `${kind} killed: ${fault}`));
    rounds++;
    if (faults.length > 0) break;
  }
  return {
    figures: { 'kill rounds': rounds, writes, 's until it answered again at most': slowest.toFixed(1) },
    faults,
  };
}

/** A database that is stopped in the middle of its work: every answer comes within ten seconds, and all goes on afterwards. */
export async function frozen(shop, { until }) {
  const faults = [];
  let answers = 0;
  let slowest = 0;
  const pid = shop.pid('database');
  do {
    process.kill(pid, 'SIGSTOP');
    const asked = await Promise.all(
      ['/floor', '/day', '/health', '/shop', '/session'].map((path) => shop.send('GET', path)),
    );
    const write = await shop.send('POST', '/clients', {
      id: crypto.randomUUID(),
      version: 0,
      name: 'frozen',
      contact: '',
    });
    process.kill(pid, 'SIGCONT');
    for (const { status, ms } of [...asked, write]) {
      answers++;
      slowest = Math.max(slowest, ms);
      if (status !== 503) faults.push(`a frozen database was answered with ${status}`);
      if (ms > 10_500) faults.push(`an answer took ${ms} ms`);
    }
    await shop.well(20_000).catch((error) => faults.push(error.message));
    // What the write did meanwhile is not counted: nobody was told.
    await shop.sql("DELETE s FROM event_subject s JOIN event e USING (number) WHERE e.text LIKE '%frozen%'");
    const late = Number(await shop.sql("SELECT COUNT(*) FROM client WHERE name = 'frozen'"));
    if (late > 0) faults.push('a write that was refused was kept all the same');
  } while (Date.now() < until && faults.length === 0);
  return { figures: { 'answers of a frozen database': answers, 'ms at most for them': slowest }, faults };
}

/** A disk of 700 MB that fills up: warned, refused in words, and everything comes back by itself. */
export async function disk(_shop, { until }) {
  const mount = join(_shop.folder, 'small');
  mkdirSync(mount);
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=700m', 'tmpfs', mount]);
  if (mounted.status !== 0) return { figures: { 'full disks (mounting is not allowed here)': 0 }, faults: [] };
  const faults = [];
  let refused = 0;
  const filler = join(mount, 'filler');
  const small = await Shop.open(join(mount, 'data'));
  try {
    const freeMb = async () => (await small.send('GET', '/standing')).body.disk.freeMb;
    const fill = (mb) => spawnSync('fallocate', ['-l', `${mb}M`, filler]);
    for (let round = 0; round < 2 && (round === 0 || Date.now() < until); round++) {
      fill(Math.max(1, (await freeMb()) - 150));
      await sleep(2500);
      const full = await small.send('POST', '/clients', {
        id: crypto.randomUUID(),
        version: 0,
        name: 'no room',
        contact: '',
      });
      if (full.status === 503 && /disk is full/.test(full.body.error?.message)) refused++;
      else faults.push(`a write on a full disk was answered with ${full.status} ${full.body.error?.message ?? ''}`);
      const read = await small.send('GET', '/floor');
      if (read.status !== 200) faults.push(`reading with a full disk: ${read.status}`);
      // To the last byte: the database may end; it is started again once there is room.
      writeFileSync(join(mount, 'rest'), '');
      spawnSync('dd', ['if=/dev/zero', `of=${join(mount, 'rest')}`, 'bs=1M']);
      await sleep(1500);
      rmSync(join(mount, 'rest'), { force: true });
      rmSync(filler, { force: true });
      await sleep(2500);
      await small.well(60_000).catch((error) => faults.push(error.message.slice(0, 400)));
      if (!(await small.write(small.people[0], `after ${round}`))) faults.push('no write once there was room again');
    }
    faults.push(...(await small.walk()));
  } finally {
    await small.close();
    spawnSync('umount', [mount]);
  }
  return { figures: { 'writes refused in words on a full disk': refused }, faults };
}

/** Settings that somebody's hand left in the database: the shop goes on with defaults. */
export async function settings(shop, { until }) {
  const faults = [];
  let tried = 0;
  const names = [
    'timeZone',
    'liftLimitKg',
    'crucibleHoldsKg',
    'crucibleUsableKg',
    'kilnPlaces',
    'meltLoss',
    'routeTimes',
    'typed',
    'shopName',
    'backups',
  ];
  const values = ['null', '"x"', '-1', '1e308', '[]', '{"a":{"b":1}}', 'true', `"${'y'.repeat(4000)}"`];
  for (const name of names)
    for (const value of values) {
      if (Date.now() > until && tried > 40) break;
      await shop.sql(`REPLACE INTO setting VALUES ('${name}', '${value}')`);
      for (const path of ['/shop', '/floor', '/day', '/plan', '/planning', '/backups']) {
        const { status } = await shop.send('GET', path);
        if (status !== 200) faults.push(`${path} with ${name} = ${value.slice(0, 30)}: ${status}`);
      }
      tried++;
      await shop.sql(`DELETE FROM setting WHERE name = '${name}'`);
    }
  return { figures: { 'poisoned settings': tried }, faults };
}

/** Streams that are opened and given up, also while they open; slow bodies that never end. */
export async function streams(shop, { until }) {
  const faults = [];
  let opened = 0;
  const before = rss(shop);
  const raw = (text) =>
    new Promise((resolve) => {
      const socket = connect(shop.port, '127.0.0.1', () => socket.write(text));
      socket.on('error', () => resolve());
      setTimeout(() => (socket.destroy(), resolve()), 5 + (opened % 40));
    });
  const { Cookie } = shop.people[0];
  while (Date.now() < until) {
    await Promise.all(
      Array.from({ length: 20 }, () => {
        opened++;
        return raw(`GET /api/changes HTTP/1.1\r\nHost: 127.0.0.1\r\nCookie: ${Cookie}\r\n\r\n`);
      }),
    );
    await raw(
      'POST /api/clients HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Type: application/json\r\nContent-Length: 100000\r\n\r\n{',
    );
  }
  await sleep(1500);
  // All of them are forgotten: somebody else's stream opens at once.
  const stream = await fetch(`${shop.url}/api/changes`, {
    headers: shop.people[0],
    signal: AbortSignal.timeout(5000),
  }).catch(() => undefined);
  if (stream?.status !== 200)
    faults.push(`after ${opened} streams given up one more was answered with ${stream?.status}`);
  await stream?.body?.cancel();
  const grown = rss(shop) - before;
  if (grown > 300) faults.push(`the server grew by ${grown} MB`);
  return { figures: { 'streams given up': opened }, faults };
}

/** Megabytes that the server holds. */
function rss(shop) {
  const status = `/proc/${shop.pid('server')}/status`;
  return existsSync(status) ? Number(/VmRSS:\s+(\d+)/.exec(readFileSync(status, 'utf8'))[1]) / 1024 : 0;
}

/** Every address with bodies, ids, queries and headers that nobody should send: no 500, no answer over five seconds. */
export async function fuzz(shop, { until, seed }) {
  const random = chance(seed);
  const all = routes();
  const faults = [];
  const counts = {};
  let slowest = 0;
  let asked = 0;
  const one = async (route) => {
    const { path, body, raw, headers } = hostile(random, route);
    const who = random() < 0.1 ? {} : { ...shop.people[Math.floor(random() * shop.people.length)], ...headers };
    const { status, ms, body: said } = await shop.send(route.method, path, body, { who, raw });
    asked++;
    counts[status] = (counts[status] ?? 0) + 1;
    slowest = Math.max(slowest, ms);
    if (status === 500 || status === 0)
      faults.push(
        `${route.method} ${path.slice(0, 120)} → ${status} ${said.error?.message ?? ''} ${(raw ?? JSON.stringify(body) ?? '').slice(0, 160)}`,
      );
    if (ms > SLOW_MS) faults.push(`${route.method} ${path.slice(0, 120)} took ${ms} ms`);
  };
  while (Date.now() < until) {
    await Promise.all(Array.from({ length: 6 }, () => one(all[Math.floor(random() * all.length)])));
    if (faults.length > 20) break;
  }
  // What the fuzz wrote is not counted by the walk.
  for (const id of (await shop.sql('SELECT id FROM client')).split('\n').filter(Boolean))
    if (!shop.kept.has(id)) shop.kept.set(id, 'fuzzed');
  return {
    figures: { 'fuzzed requests': asked, '500s': counts[500] ?? 0, 'ms at most for one': slowest },
    faults,
  };
}
