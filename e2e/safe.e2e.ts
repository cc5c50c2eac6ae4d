// What stands round the records: copies that are proven, restoring, being started again, an older program.
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import * as mariadb from 'mariadb';
import { Browser } from './browser.ts';
import { freePort, until } from './kalvet.ts';
import type { Signed } from './session.ts';
import { setUpShop, signIn } from './session.ts';
import { Start, command } from './start-command.ts';

describe('safe hands', () => {
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-safe-'));
  const other = mkdtempSync(join(tmpdir(), 'kalvet-other-'));
  const file = join(other, 'asked.tar');
  let port = 0;
  let start: Start;
  let signed: Signed;
  let browser: Browser | undefined;
  const url = () => `http://127.0.0.1:${port}`;

  beforeAll(async () => {
    port = await freePort();
    start = new Start(folder, port);
    await start.ready();
    signed = await setUpShop(url(), 'Ines Marlow', 'IM');
  });
  afterAll(async () => {
    await browser?.close();
    await start?.stop();
    for (const each of [folder, other]) rmSync(each, { recursive: true, force: true });
  });

  const add = async (n: number, as = signed) => {
    const person = { id: randomUUID(), name: `Person ${n}`, shortName: `P${n}`, roles: ['hand'], rooms: [], gates: [] };
    const answer = await fetch(`${url()}/api/people`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID(), ...as },
      body: JSON.stringify(person),
    });
    return answer.status;
  };
  const people = async (as: Signed) => {
    const { people: all } = (await (await fetch(`${url()}/api/people`, { headers: as })).json()) as {
      people: { id: string; name: string; version: number }[];
    };
    return all.map(({ id, name, version }) => `${id} ${name} ${version}`).sort();
  };
  /** The columns of a shop's own database, past the program. */
  const sql = async (statement: string) => {
    const command = readFileSync(`/proc/${readFileSync(join(folder, 'db.pid'), 'utf8').trim()}/cmdline`, 'utf8');
    const connection = await mariadb.createConnection({
      host: '127.0.0.1',
      port: Number(/--port=(\d+)/.exec(command)![1]),
      user: 'kalvet',
      password: readFileSync(join(folder, 'db-password'), 'utf8').trim(),
      database: 'kalvet_empty',
    });
    await connection.query(statement);
    await connection.end();
  };

  it('a backup made while people write restores to the same records on an empty machine', async () => {
    let writing = true;
    let written = 0;
    const writers = Promise.all(
      [0, 1, 2].map(async (w) => {
        for (let i = 0; writing; i++) if ((await add(1000 * (w + 1) + i)) === 201) written++;
      }),
    );
    await until('some writes', async () => written > 10);
    const made = command('backup.mjs', folder, file);
    writing = false;
    await writers;
    expect([made.code, made.said]).toEqual([0, jasmine.stringContaining('read back and found the same')]);
    // A second one under the same name would destroy the first.
    expect(command('backup.mjs', folder, file).said).toContain('is there already');
    await start.stop();
    const whole = command('backup.mjs', folder, '--empty', join(other, 'whole.tar'));
    expect(whole.code).toBe(0);
    start = new Start(folder, port);
    await start.ready();
    const wanted = await people(await signIn(url(), 'Ines Marlow'));
    await start.stop();

    const restored = command('restore.mjs', other, join(other, 'whole.tar'));
    expect([restored.code, restored.said]).toEqual([0, jasmine.stringContaining('npm run start:empty')]);
    start = new Start(other, port);
    await start.ready();
    // Her password is among the records too.
    expect(await people(await signIn(url(), 'Ines Marlow'))).toEqual(wanted);
    expect(wanted.length).toBeGreaterThan(10);
  });

  it('restoring onto a shop in use copies what was there first, and is refused beside a running Kalvet', async () => {
    expect(command('restore.mjs', other, file).said).toContain('Stop it first');
    const before = await people(await signIn(url(), 'Ines Marlow'));
    await start.stop();
    const restored = command('restore.mjs', other, file);
    expect(restored.code).toBe(0);
    const copies = readdirSync(join(other, 'backups'));
    expect(copies.filter((name) => name.includes('before-restore')).length).toBe(1);
    start = new Start(other, port);
    await start.ready();
    const after = await people(await signIn(url(), 'Ines Marlow'));
    // It was made while others wrote: not all of them are in it, and none that nobody wrote.
    expect(after.length).toBeLessThanOrEqual(before.length);
    expect(after.every((each) => before.includes(each))).toBeTrue();
    await start.stop();
    const back = command(
      'restore.mjs',
      other,
      join(
        other,
        'backups',
        copies.find((name) => name.includes('before-restore'))!,
      ),
    );
    expect(back.code).toBe(0);
    start = new Start(other, port);
    await start.ready();
    expect(await people(await signIn(url(), 'Ines Marlow'))).toEqual(before);
    await start.stop();
  });

  it('what dies is started again at the same address; screens say so and keep what is typed, a reload included', async () => {
    start = new Start(folder, port);
    await start.ready();
    signed = await signIn(url(), 'Ines Marlow');
    browser = await Browser.open(url());
    await browser.go('/floor');
    await browser.signIn('Ines Marlow');
    await browser.go('/set-up');
    await browser.type('#title', 'A title that must not be lost');
    const pids = readFileSync(`/proc/${start.child.pid}/task/${start.child.pid}/children`, 'utf8').trim().split(' ');
    process.kill(Number(pids[0]), 'SIGKILL');
    await until('the stand-in', async () => {
      const answer = await fetch(`${url()}/api/health`);
      return answer.status === 503 && (await answer.text()).includes('being started again');
    });
    await browser.driver.navigate().refresh();
    await browser.says('Set up a work');
    expect(await (await browser.find('#title')).getAttribute('value')).toBe('A title that must not be lost');
    await browser.says('is not recorded yet');
    process.kill(Number(readFileSync(join(folder, 'db.pid'), 'utf8')), 'SIGKILL');
    await until('writes again', async () => (await add(7)) === 201, 90_000);
    expect(start.said).toContain('the database stopped; it is started again');
    expect(readFileSync(join(folder, 'logs', 'kalvet.log'), 'utf8')).toContain('ready at');
  });

  it('an older program says that a newer one was here, and touches nothing', async () => {
    await sql("INSERT INTO migration VALUES ('9999-from-the-future', UTC_TIMESTAMP(3))");
    await start.stop();
    start = new Start(folder, port);
    expect(await start.ended).toBe(1);
    expect(start.said).toContain('these records were kept by a newer Kalvet (9999-from-the-future)');
  });

  it('other machines are let in only once somebody manages the shop with a password', async () => {
    const fresh = mkdtempSync(join(tmpdir(), 'kalvet-fresh-'));
    start = new Start(fresh, port, { HOST: '0.0.0.0' });
    expect(await start.ended).toBe(1);
    expect(start.said).toContain('nobody manages this shop with a password yet');
    rmSync(fresh, { recursive: true, force: true });
  });

  it('a way back in is given at the server, for one time', async () => {
    await new Promise((resolve) => setTimeout(resolve, 200));
    start = new Start(other, port);
    await start.ready();
    expect(command('recover.mjs', other, 'Nobody').said).toContain('Ines Marlow (manager)');
    const { code, said } = command('recover.mjs', other, 'ines marlow');
    expect(code).toBe(0);
    const password = /once with\s+(\S+)/.exec(said)![1]!;
    await signIn(url(), 'IM', password);
    await expectAsync(signIn(url(), 'IM')).toBeRejected();
  });
});
