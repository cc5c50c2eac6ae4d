import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Browser } from './browser.ts';
import { ROOT, freePort, until } from './kalvet.ts';
import type { Signed } from './session.ts';
import { PASSWORD, signIn } from './session.ts';

const DEAD = 'SIGKILL';

describe('killed and started again', () => {
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-killed-'));
  let port = 0;
  let start: ChildProcess;
  let browser: Browser | undefined;
  let output = '';
  let signed: Partial<Signed> = {};
  const url = () => `http://127.0.0.1:${port}`;

  /** The command that a person types, in a data folder of its own. */
  const run = async () => {
    output = '';
    start = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--empty'], {
      env: { ...process.env, KALVET_DATA: folder, PORT: String(port) },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    const take = (chunk: Buffer) => (output += chunk);
    start.stdout!.on('data', take);
    start.stderr!.on('data', take);
    await until(`a start (${output})`, async () => (await fetch(`${url()}/api/health`)).ok, 180_000);
  };
  const children = (pid: number) =>
    readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').trim().split(' ').filter(Boolean).map(Number);

  beforeAll(async () => {
    port = await freePort();
    await run();
  });
  afterAll(async () => {
    await browser?.close();
    if (start.exitCode === null && start.signalCode === null) {
      const gone = new Promise((resolve) => start.once('exit', resolve));
      start.kill('SIGINT');
      await gone;
    }
    rmSync(folder, { recursive: true, force: true });
  });

  const add = (name: string, key: string) =>
    fetch(`${url()}/api/people`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': key, ...signed },
      body: JSON.stringify({
        id: `01a00000-0000-7000-8000-${name.padStart(12, '0')}`,
        name: `Person ${name}`,
        shortName: name,
        roles: ['hand'],
        rooms: [],
        gates: [],
      }),
    });
  const people = async () =>
    (
      (await (await fetch(`${url()}/api/shop`, { headers: signed })).json()) as { people: { name: string }[] }
    ).people.map(({ name }) => name);

  it('a second start in the same folder says that one is running', async () => {
    const second = spawn(process.execPath, [join(ROOT, 'scripts/start.mjs'), '--empty'], {
      env: { ...process.env, KALVET_DATA: folder, PORT: String(port) },
    });
    let said = '';
    second.stderr.on('data', (chunk: Buffer) => (said += chunk));
    const code = await new Promise((resolve) => second.once('exit', resolve));
    expect(code).toBe(1);
    expect(said).toContain('already running from this folder');
  });

  it('loses nothing that was acknowledged, doubles nothing, and the screen goes on with what was typed', async () => {
    browser = await Browser.open(url());
    await browser.go('/floor');
    await browser.type('#who-name', 'Ines Marlow');
    await browser.type('#who-password', PASSWORD);
    await browser.press('Set up the shop');
    await browser.gone('#who-name');
    signed = await signIn(url(), 'Ines Marlow');
    await browser.says('No work has been set up yet');
    await browser.go('/set-up');
    await browser.type('#title', 'A title that must not be lost');

    // Writes come in while everything is killed at once: the start, the server and the database.
    const server = children(start.pid!)[0]!;
    const database = Number(readFileSync(join(folder, 'db.pid'), 'utf8'));
    const acknowledged: string[] = [];
    const keys = Array.from({ length: 60 }, (_, i) => ({ name: String(i + 100), key: randomUUID() }));
    const writing = Promise.all(
      keys.map(async ({ name, key }) => {
        const answer = await add(name, key).catch(() => undefined);
        if (answer?.status === 201) acknowledged.push(name);
      }),
    );
    await until('some writes', async () => acknowledged.length >= 8);
    for (const pid of [start.pid!, server, database]) process.kill(pid, DEAD);
    await writing;
    await browser.says('The records cannot be reached');

    await run();
    const kept = await people();
    for (const name of acknowledged) expect(kept).withContext(`acknowledged ${name}`).toContain(`Person ${name}`);
    // Sent again with their keys, every one is there exactly once.
    for (const { name, key } of keys) expect((await add(name, key)).status).toBe(201);
    const after = (await people()).filter((name) => name.startsWith('Person'));
    expect(after.length).toBe(keys.length);
    expect(new Set(after).size).toBe(keys.length);

    await until('the screen going on', async () => !(await browser!.text()).includes('cannot be reached'), 60_000);
    expect(await (await browser.find('#title')).getAttribute('value')).toBe('A title that must not be lost');
    await browser.type('#artist', 'Wilma Tarn');
    await browser.type('#height-0', '200');
    await browser.click('[data-test=set-up]');
    await browser.says('What comes first');
  });
});
