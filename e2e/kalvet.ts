// A running Kalvet for a journey: the real server from dist/, on a database of its own.
import type { Browser } from './browser.ts';
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { createServer } from 'node:net';
import type { AddressInfo } from 'node:net';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as mariadb from 'mariadb';
import type { FloorAnswer, PieceAnswer, StepForm } from '@kalvet/core';
import type { Signed } from './session.ts';
import { DEMO_MARK, asInDemo, personOf, setUpShop, signIn } from './session.ts';

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

/** Asks until the answer is there; fails with the last trouble after `ms`: long, since a wait costs nothing where all is well. */
export async function until<T>(what: string, ask: () => Promise<T | undefined | false>, ms = 60_000): Promise<T> {
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
async function freshDatabase(name: string, demo: boolean): Promise<string> {
  const url = new URL(process.env['KALVET_JOURNEY_DB_URL'] ?? '');
  const connection = await mariadb.createConnection({
    host: url.hostname,
    port: Number(url.port),
    user: url.username,
    password: url.password,
  });
  await connection.query(`DROP DATABASE IF EXISTS ${name}`);
  await connection.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_unicode_ci`);
  if (demo) {
    await connection.query(`USE ${name}`);
    for (const statement of DEMO_MARK) await connection.query(statement);
  }
  await connection.end();
  url.pathname = `/${name}`;
  return url.href;
}

export class Kalvet {
  private child: ChildProcess | undefined;
  private constructor(
    private readonly database: string,
    readonly port: number,
    private readonly demo: boolean,
    private readonly env: NodeJS.ProcessEnv,
  ) {}

  /**
   * @param demo people are chosen by one tap, so that a journey need not sign in; `laid` with the demo foundry in it; `env`
   * for what else the server is told
   */
  static async start(
    name: string,
    { demo = true, laid = false, env = {} }: { demo?: boolean; laid?: boolean; env?: NodeJS.ProcessEnv } = {},
  ): Promise<Kalvet> {
    const kalvet = new Kalvet(await freshDatabase(name, demo), await freePort(), demo, env);
    if (laid) await kalvet.layDemo();
    await kalvet.run();
    return kalvet;
  }

  /** Lays the demo foundry, and knows its manager. */
  private async layDemo(): Promise<void> {
    const laying = spawn(process.execPath, [join(ROOT, 'dist/server/demo.mjs'), '--reset'], {
      env: { ...process.env, KALVET_DB_URL: this.database, KALVET_OWN_DB: '1' },
      stdio: ['ignore', 'ignore', 'inherit'],
    });
    const code = await new Promise((resolve) => laying.once('exit', resolve));
    if (code !== 0) throw new Error('the demo could not be laid');
  }

  /** Somebody of the demo by their short name, chosen at a browser by one tap. */
  async choose(browser: Browser, shortName: string): Promise<string> {
    const answer = await fetch(`${this.url}/api/session`);
    const { choices } = (await answer.json()) as { choices: { id: string; shortName: string }[] };
    const person = choices.find((each) => each.shortName === shortName)!.id;
    await browser.go('/floor');
    await browser.click(`[data-person="${person}"]`);
    await browser.find('main');
    this.first ??= await this.as(person).then((signed) => signed as Signed);
    return person;
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async run(): Promise<void> {
    this.child = spawn(process.execPath, [join(ROOT, 'dist/server/main.mjs')], {
      env: {
        ...process.env,
        ...this.env,
        KALVET_DB_URL: this.database,
        PORT: String(this.port),
        KALVET_DEMO: this.demo ? '1' : '',
      },
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

  /** Who manages the shop of this journey; what is read past the screens is read by them. */
  private first: Signed | undefined;
  private readonly signed = new Map<string, Signed>();

  /** The first person, who manages the shop; gives their id. */
  async setUpShop(name: string, shortName: string): Promise<string> {
    return this.knows(await setUpShop(this.url, name, shortName));
  }

  /** Somebody who signed in on a screen, past the screens too. */
  async signIn(name: string, password?: string): Promise<string> {
    return this.knows(await signIn(this.url, name, password));
  }

  private async knows(signed: Signed): Promise<string> {
    const id = await personOf(this.url, signed);
    this.signed.set(id, signed);
    this.first ??= signed;
    return id;
  }

  /** What somebody's browser sends. */
  async as(person: string): Promise<Partial<Signed>> {
    if (!person) return this.first ?? {};
    if (!this.signed.has(person)) this.signed.set(person, await asInDemo(this.url, person));
    return this.signed.get(person)!;
  }

  async get<T>(path: string): Promise<T> {
    const answer = await fetch(`${this.url}/api${path}`, { headers: this.first ?? {} });
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
    return (await answer.json()) as T;
  }

  /** Waits until the dates know the newest change. */
  async planned(): Promise<void> {
    await until(
      'dates that know every change',
      async () => {
        const { plan } = await this.floor();
        return plan.planId !== null && !plan.running && plan.changesSince === 0;
      },
      180_000,
    );
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
        ...(await this.as(person)),
      },
      body: JSON.stringify(body),
    });
    return { status: answer.status, body: (await answer.json()) as Record<string, never> };
  }
}
