// A Kalvet to be ill-treated: its start command, its processes, four people who write, and what must hold whatever happens.
import { randomUUID } from 'node:crypto';
import { spawn } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { freePort } from '../lib/database.mjs';
import { ensureDatabasePrograms } from '../lib/install.mjs';
import { ROOT } from '../lib/paths.mjs';
import { ask, throughSocket } from '../lib/records.mjs';

const PASSWORD = 'three brown otters';
const sleep = (ms) => new Promise((resolve) => setTimeout(resolve, ms));
export { sleep };

/** Chance that can be had again: a small generator with a seed (mulberry32). */
export function chance(seed) {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

export class Shop {
  said = '';
  people = [];
  /** What the server said it kept: it must be there for ever, once. */
  kept = new Map();
  /** What was sent and never answered: sent again with its key at the end. */
  open = new Map();

  static async open(folder, env = {}) {
    const shop = new Shop();
    shop.folder = folder;
    shop.env = env;
    shop.port = await freePort();
    shop.programs = await ensureDatabasePrograms();
    await shop.start();
    await shop.signUp();
    return shop;
  }

  get url() {
    return `http://127.0.0.1:${this.port}`;
  }

  async start() {
    this.said = '';
    this.child = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--empty'], {
      env: {
        ...process.env,
        KALVET_DATA: this.folder,
        PORT: String(this.port),
        KALVET_PLAN_EFFORT: '0.1',
        KALVET_RATES: '1000',
        ...this.env,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const take = (chunk) => (this.said = (this.said + chunk).slice(-20_000));
    this.child.stdout.on('data', take);
    this.child.stderr.on('data', take);
    let over = false;
    this.ended = new Promise((resolve) => this.child.once('exit', resolve)).then(() => (over = true));
    // Not the answer of a server that is just ending.
    const until = Date.now() + 120_000;
    while (!this.said.includes('ready at')) {
      if (over || Date.now() > until) throw new Error(`it did not start; it said:\n${this.said.slice(-2000)}`);
      await sleep(50);
    }
    await this.well();
  }

  /** Waits until Kalvet answers; gives the seconds it took. @throws where it does not */
  async well(ms = 60_000) {
    const began = Date.now();
    for (;;) {
      const answer = await fetch(`${this.url}/api/health`, { signal: AbortSignal.timeout(12_000) }).catch(
        () => undefined,
      );
      if (answer?.ok) return (Date.now() - began) / 1000;
      if (Date.now() - began > ms) throw new Error(`Kalvet did not come back; it said:\n${this.said.slice(-2000)}`);
      await sleep(100);
    }
  }

  async signUp() {
    const first = await this.opened('/set-up', { name: 'Ines Marlow', shortName: 'IM', password: PASSWORD });
    this.people = [first];
    for (const [name, shortName] of [
      ['Tomas Quill', 'TQ'],
      ['Petra Lund', 'PL'],
      ['Oskar Venn', 'OV'],
    ]) {
      const id = randomUUID();
      await this.send(
        'POST',
        '/people',
        { id, name, shortName, roles: ['manager'], rooms: [], gates: [] },
        { who: first },
      );
      const { body } = await this.send('POST', `/people/${id}/password`, {}, { who: first });
      const once = await this.opened('/session', { name, password: body.password });
      await this.send('PUT', '/session/password', { before: body.password, password: PASSWORD }, { who: once });
      this.people.push(await this.opened('/session', { name, password: PASSWORD }));
    }
  }

  async opened(path, body) {
    const answer = await fetch(`${this.url}/api${path}`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
    const cookie = answer.headers
      .getSetCookie()
      .find((each) => each.startsWith('kalvet_session='))
      .split(';')[0];
    const { token } = await (await fetch(`${this.url}/api/session`, { headers: { Cookie: cookie } })).json();
    return { Cookie: cookie, 'X-Kalvet-Token': token };
  }

  /** Asks; `status` 0 where nobody answered. */
  async send(method, path, body, { who = this.people[0], key = randomUUID(), ms = 20_000, raw } = {}) {
    const began = Date.now();
    try {
      const answer = await fetch(`${this.url}/api${path}`, {
        method,
        headers: { 'Content-Type': 'application/json', 'Idempotency-Key': key, ...who },
        ...(method === 'GET' ? {} : { body: raw ?? JSON.stringify(body) }),
        signal: AbortSignal.timeout(ms),
      });
      const text = await answer.text();
      let json;
      try {
        json = JSON.parse(text);
      } catch {
        json = { text: text.slice(0, 200) };
      }
      return { status: answer.status, body: json, ms: Date.now() - began };
    } catch (error) {
      return { status: 0, body: { error: { message: error.message } }, ms: Date.now() - began };
    }
  }

  /** Writes one client; remembers whether it was acknowledged. */
  async write(who, name) {
    const id = randomUUID();
    const key = randomUUID();
    const sent = { who, key, body: { id, version: 0, name, contact: '' } };
    this.open.set(id, sent);
    const { status } = await this.send('POST', '/clients', sent.body, sent);
    if (status === 200) {
      this.kept.set(id, name);
      this.open.delete(id);
    } else if (status >= 400 && status !== 503 && status !== 429)
      throw new Error(`a write was answered with ${status}`);
    return status === 200;
  }

  pid(what) {
    if (what === 'start') return this.child.pid;
    if (what === 'database') return Number(readFileSync(join(this.folder, 'db.pid'), 'utf8'));
    const children = readFileSync(`/proc/${this.child.pid}/task/${this.child.pid}/children`, 'utf8').trim().split(' ');
    return children.map(Number).find((pid) => readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('main.mjs'));
  }

  sql(statement) {
    const socket = /--socket=([^\0]+)/.exec(readFileSync(`/proc/${this.pid('database')}/cmdline`, 'utf8'))[1];
    return ask(throughSocket({ socket }, 'kalvet_empty', this.programs), statement);
  }

  /** What must hold whatever happened. @returns what does not, in words */
  async walk() {
    const faults = [];
    await this.well();
    // What nobody answered is sent again with its key: it is there once, whether or not it had been kept.
    for (const [id, { who, key, body }] of [...this.open]) {
      const { status } = await this.send('POST', '/clients', body, { who, key });
      if (status !== 200) faults.push(`sent again with its key: ${status}`);
      else {
        this.kept.set(id, body.name);
        this.open.delete(id);
      }
    }
    const rows = (await this.sql('SELECT id FROM client')).split('\n').filter(Boolean);
    const there = new Set(rows);
    const lost = [...this.kept.keys()].filter((id) => !there.has(id));
    if (lost.length > 0) faults.push(`${lost.length} acknowledged writes are lost`);
    if (rows.length !== this.kept.size) faults.push(`${rows.length} clients for ${this.kept.size} writes`);
    const numbers = (statement) => this.sql(statement).then(Number);
    const events = await numbers("SELECT COUNT(*) FROM event WHERE verb = 'save client'");
    if (events !== rows.length) faults.push(`${events} events for ${rows.length} clients`);
    const [highest, counter, count] = await Promise.all([
      numbers('SELECT COALESCE(MAX(number), 0) FROM event'),
      numbers("SELECT value FROM counter WHERE name = 'change'"),
      numbers('SELECT COUNT(*) FROM event'),
    ]);
    if (highest !== counter || count !== counter)
      faults.push(`change number ${counter}, highest ${highest}, ${count} events`);
    const keys = await numbers('SELECT COUNT(*) FROM idempotency WHERE status = 0');
    if (keys > 0) faults.push(`${keys} keys without an answer`);
    for (const [i, who] of this.people.entries()) {
      const { body } = await this.send('GET', '/session', undefined, { who });
      if (body.state !== 'in') faults.push(`the session of person ${i} is ${body.state}`);
    }
    return faults;
  }

  async close() {
    if (this.child.exitCode === null && this.child.signalCode === null) this.child.kill('SIGINT');
    await this.ended;
  }
}
