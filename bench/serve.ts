// The server as `npm start` runs it, on the filled database.
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { Agent, request } from 'node:http';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { FloorAnswer } from '@kalvet/core';
import type { Signed } from '../e2e/session.ts';
import { asInDemo } from '../e2e/session.ts';

const agent = new Agent({ keepAlive: true, maxSockets: 64 });

export interface Served {
  readonly base: string;
  /** Reads an answer to its end, packed as a browser asks for it; gives its bytes on the wire. */
  readonly get: (path: string) => Promise<number>;
  readonly json: <T>(path: string) => Promise<T>;
  readonly post: (path: string, body: unknown, key: string) => Promise<number>;
  /** Writes, and gives the answer. */
  readonly send: (method: string, path: string, body: unknown) => Promise<{ status: number; body: unknown }>;
  /** Who everything is asked by. */
  readonly signed: Signed;
  readonly pid: number;
  readonly stop: () => Promise<void>;
}

export async function serve(url: string, port: number): Promise<Served> {
  const main = join(dirname(fileURLToPath(import.meta.url)), '..', 'server', 'main.mjs');
  const child: ChildProcess = spawn(process.execPath, [main], {
    env: {
      ...process.env,
      KALVET_DB_URL: url,
      PORT: String(port),
      HOST: '127.0.0.1',
      KALVET_FOLLOW_PARENT: '1',
      KALVET_DEMO: '1',
      KALVET_RATES: '1000',
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  const base = `http://127.0.0.1:${port}`;
  await up(base);
  const { choices } = (await (await fetch(`${base}/api/session`)).json()) as {
    choices: { id: string; roles: string[] }[];
  };
  const signed = await asInDemo(base, choices.find(({ roles }) => roles.includes('manager'))!.id);
  const json = async <T>(path: string): Promise<T> =>
    (await (await fetch(`${base}${path}`, { headers: signed })).json()) as T;
  const served: Served = {
    base,
    pid: child.pid!,
    signed,
    json,
    get: (path) =>
      new Promise((resolve, reject) => {
        const asked = request(
          `${base}${path}`,
          { agent, headers: { 'Accept-Encoding': 'gzip, br', ...signed } },
          (answer) => {
            let bytes = 0;
            answer.on('data', (chunk: Buffer) => (bytes += chunk.length));
            answer.on('end', () =>
              answer.statusCode === 200 ? resolve(bytes) : reject(new Error(`${path}: ${answer.statusCode}`)),
            );
          },
        );
        asked.on('error', reject);
        asked.end();
      }),
    send: async (method, path, body) => {
      const answer = await fetch(`${base}${path}`, {
        method,
        headers: { 'Content-Type': 'application/json', 'Idempotency-Key': randomUUID(), ...signed },
        body: JSON.stringify(body),
      });
      return { status: answer.status, body: await answer.json() };
    },
    post: async (path, body, key) => {
      const answer = await fetch(`${base}${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'Idempotency-Key': key, ...signed },
        body: JSON.stringify(body),
      });
      await answer.text();
      return answer.status;
    },
    stop: () =>
      new Promise((resolve) => {
        child.on('exit', () => resolve());
        child.kill('SIGTERM');
      }),
  };
  return served;
}

/** Resolves when the server answers. */
async function up(base: string): Promise<void> {
  for (let i = 0; ; i++) {
    if (
      await fetch(`${base}/api/health`).then(
        (answer) => answer.ok,
        () => false,
      )
    )
      break;
    if (i > 150) throw new Error('the server did not come up');
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
}

/** Waits until the shop has dates from a plan that knows the newest change; gives the seconds it took. */
export async function untilPlanned(served: Served): Promise<number> {
  const began = Date.now();
  for (let i = 0; i < 240; i++) {
    const { plan } = await served.json<FloorAnswer>('/api/floor');
    if (plan.failed) throw new Error(`no plan: ${plan.failed}`);
    if (plan.planId && !plan.running && plan.changesSince === 0) return (Date.now() - began) / 1000;
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  throw new Error('no plan after two minutes');
}
