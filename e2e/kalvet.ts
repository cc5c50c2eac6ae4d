// A running Kalvet for a journey: the real server from dist/, on a database of its own.
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as mariadb from 'mariadb';
import type { FloorAnswer, PieceAnswer, StepForm } from '@kalvet/core';

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..');

export const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });

export const sleep = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Asks until the answer is there; fails with the last trouble after `ms`. */
export async function until<T>(what: string, ask: () => Promise<T | undefined | false>, ms = 20_000): Promise<T> {
  const end = Date.now() + ms;
  let trouble: unknown;
  while (Date.now() < end) {
    try {
      const got = await ask();
      if (got) return got;
    } catch (error) {
      trouble = error;
    }
    await sleep(100);
  }
  throw new Error(`${what} did not come${trouble ? `: ${String(trouble)}` : ''}`);
}

/** The address of a fresh database. */
async function freshDatabase(name: string): Promise<string> {
  const url = new URL(process.env['KALVET_JOURNEY_DB_URL'] ?? '');
  const connection = await mariadb.createConnection({
    host: url.hostname,
    port: Number(url.port),
    user: url.username,
    password: url.password,
  });
  await connection.query(`DROP DATABASE IF EXISTS ${name}`);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  await connection.end();
  url.pathname = `/${name}`;
  return url.href;
}

export class Kalvet {
  private child: ChildProcess | undefined;
  private constructor(
    private readonly database: string,
    readonly port: number,
  ) {}

  static async start(name: string): Promise<Kalvet> {
    const kalvet = new Kalvet(await freshDatabase(name), await freePort());
    await kalvet.run();
    return kalvet;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async run(): Promise<void> {
    this.child = spawn(process.execPath, [join(ROOT, 'dist/server/main.mjs')], {
      env: { ...process.env, KALVET_DB_URL: this.database, PORT: String(this.port) },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    await until('Kalvet', async () => (await fetch(`${this.url}/api/health`)).ok);
  }

  /** Ends the server; outright where it is not asked to stop in order. */
  async stop(signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    const { child } = this;
    if (!child || child.exitCode !== null) return;
    const gone = new Promise((resolve) => child.once('exit', resolve));
    child.kill(signal);
    await gone;
  }

  async get<T>(path: string): Promise<T> {
    const answer = await fetch(`${this.url}/api${path}`);
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
    return (await answer.json()) as T;
  }

  floor = () => this.get<FloorAnswer>('/floor');
  piece = (id: string) => this.get<PieceAnswer>(`/pieces/${id}`);
  form = (stepId: string) => this.get<StepForm>(`/steps/${stepId}/form`);

  /** Writes past the screens, to prepare what a journey is not about. */
  async post(
    path: string,
    body: object,
    person = '',
    key: string = randomUUID(),
  ): Promise<{ status: number; body: Record<string, never> }> {
    const answer = await fetch(`${this.url}/api${path}`, {
      method: 'POST',
      headers: {
        'Content-Type': 'application/json',
        'Idempotency-Key': key,
        ...(person ? { 'X-Kalvet-Person': person } : {}),
      },
      body: JSON.stringify(body),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, never> };
  }
}
