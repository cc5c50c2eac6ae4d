import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createServer } from 'node:net';
import type { AddressInfo, Server } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort, until } from './kalvet.ts';
import { Start } from './start-command.ts';

const alive = (pid: number) => {
  try {
    return !/\) [ZX] /.test(readFileSync(`/proc/${pid}/stat`, 'utf8'));
  } catch {
    return false;
  }
};

describe('starting', () => {
  const folder = mkdtempSync(join(tmpdir(), 'kalvet-start-'));
  const databasePid = () => Number(readFileSync(join(folder, 'db.pid'), 'utf8'));
  let port = 0;
  let start: Start | undefined;

  beforeAll(async () => {
    port = await freePort();
  });
  afterAll(async () => {
    await start?.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  it('says what to do about a port in use, a port that is none, and a demo that would go elsewhere', async () => {
    const taken: Server = createServer();
    await new Promise<void>((resolve) => taken.listen(0, '127.0.0.1', resolve));
    const { port: used } = taken.address() as AddressInfo;
    const busy = new Start(folder, used);
    expect(await busy.ended).toBe(1);
    expect(busy.said).toContain(`PORT=${used + 1} npm start`);
    await new Promise((resolve) => taken.close(resolve));
    const wrong = new Start(folder, 'soon');
    expect(await wrong.ended).toBe(1);
    expect(wrong.said).toContain('PORT must be a number');
    const foreign = new Start(folder, port, { KALVET_DB_URL: 'mariadb://a:b@127.0.0.1:1/c' }, ['--reset-demo']);
    expect(await foreign.ended).toBe(1);
    expect(foreign.said).toContain('never in the one of KALVET_DB_URL');
  });

  it('does not speak to its database through a folder that somebody else could have made', async () => {
    const other = mkdtempSync(join(tmpdir(), 'kalvet-start-'));
    const name = createHash('sha256').update(join(other, 'db')).digest('hex').slice(0, 10);
    const socket = join(tmpdir(), `kalvet-${name}`);
    mkdirSync(socket);
    chmodSync(socket, 0o777);
    const refused = new Start(other, port);
    expect(await refused.ended).toBe(1);
    expect(refused.said).toContain('belongs to somebody else or is open to others');
    for (const each of [other, socket]) rmSync(each, { recursive: true, force: true });
  });

  it('clears up after a first start that was killed half-way: half a database, and a lock whose process is gone', async () => {
    mkdirSync(join(folder, 'db.making', 'mysql'), { recursive: true });
    writeFileSync(join(folder, 'start.lock'), JSON.stringify({ pid: 2 ** 22 - 3, started: '1', port: 1 }));
    start = new Start(folder, port);
    await start.ready();
    expect(existsSync(join(folder, 'db.making'))).toBeFalse();
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);
  });

  it('takes over the database of a start that was killed; its server ends by itself', async () => {
    const pid = databasePid();
    start!.child.kill('SIGKILL');
    await start!.ended;
    await until(
      'the server gone',
      async () =>
        !(await fetch(`http://127.0.0.1:${port}/api/health`).then(
          () => true,
          () => false,
        )),
    );
    expect(alive(pid)).toBeTrue();
    start = new Start(folder, port);
    await start.ready();
    expect(start.said).toContain('database found running');
    expect(databasePid()).toBe(pid);
  });

  it('stops everything on Ctrl-C, and starts again in seconds', async () => {
    const pid = databasePid();
    await start!.stop();
    expect(start!.child.exitCode).toBe(0);
    expect(start!.said).toContain('stopped.');
    expect(alive(pid)).toBeFalse();
    expect(existsSync(join(folder, 'start.lock'))).toBeFalse();
    start = new Start(folder, port);
    await start.ready();
    expect(start.said).not.toContain('building');
    expect(start.said).not.toContain('preparing');
  });
});
