import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { PlanProblem, Schedule } from '@kalvet/core';
import { argumentsOf } from './arguments.ts';
import { Wrong, writeJson } from './files.ts';

const OPTIONS = { output: { type: 'string', short: 'o' }, url: { type: 'string' }, user: { type: 'string' } } as const;

const DEFAULT_URL = 'http://127.0.0.1:4300';
const ASK_AGAIN_MS = 1000;

/** `kalvet export-plan`: the plan of a running shop as files that anybody can check or replan. @returns the exit code */
export async function exportPlan(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  if (values.output === undefined || positionals.length > 0)
    throw new Wrong('export-plan takes -o with the folder that the files go to');
  const url = new URL(values.url ?? DEFAULT_URL).origin;
  const headers = await signIn(url, values.user);
  try {
    const { problem, schedule } = await filesOf(url, headers);
    await mkdir(values.output, { recursive: true }).catch((error: Error) => {
      throw new Wrong(`${values.output} cannot be made: ${error.message}`);
    });
    await writeJson(join(values.output, 'problem.json'), problem);
    await writeJson(join(values.output, 'schedule.json'), schedule);
    process.stderr.write(
      `kalvet: ${schedule.tasks.length} tasks in ${join(values.output, 'problem.json')} and schedule.json\n`,
    );
  } finally {
    await ask(url, '/session/end', { method: 'POST', headers, body: '{}' }).catch(() => undefined);
  }
  return 0;
}

/** Signs in by name and password; in the demo as its production manager where nobody is named. */
async function signIn(url: string, user: string | undefined): Promise<Record<string, string>> {
  const { demo, choices } = (await json(await ask(url, '/session'))) as {
    demo: boolean;
    choices?: { id: string; roles: string[] }[];
  };
  const chosen = user === undefined && demo ? choices?.find(({ roles }) => roles.includes('manager')) : undefined;
  const password = process.env['KALVET_PASSWORD'];
  if (!chosen && (user === undefined || !password))
    throw new Wrong('say who reads the plan by --user NAME, and the password by the environment’s KALVET_PASSWORD');
  const body = chosen ? { personId: chosen.id } : { name: user, password };
  const answer = await ask(url, chosen ? '/session/demo' : '/session', {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  });
  await json(answer);
  const Cookie = answer.headers
    .getSetCookie()
    .map((cookie) => cookie.split(';')[0])
    .join('; ');
  const { token } = (await json(await ask(url, '/session', { headers: { Cookie } }))) as { token: string };
  return { Cookie, 'X-Kalvet-Token': token, 'Content-Type': 'application/json' };
}

/** Asks until the server has worked it out. */
async function filesOf(
  url: string,
  headers: Record<string, string>,
): Promise<{ problem: PlanProblem; schedule: Schedule }> {
  for (let path = '/plan/files'; ;) {
    const said = (await json(await ask(url, path, { headers }))) as
      { problem: PlanProblem; schedule: Schedule } | { ticket: string };
    if ('problem' in said) return said;
    await new Promise((resolve) => setTimeout(resolve, ASK_AGAIN_MS));
    path = `/plan/files?ticket=${encodeURIComponent(said.ticket)}`;
  }
}

const ask = (url: string, path: string, init: RequestInit = {}): Promise<Response> =>
  fetch(`${url}/api${path}`, init).catch(() => {
    throw new Wrong(`no Kalvet answers at ${url}`);
  });

/** @throws Wrong in the server's own words where it refuses */
async function json(answer: Response): Promise<unknown> {
  const body = (await answer.json().catch(() => ({}))) as { error?: { message: string } };
  if (!answer.ok) throw new Wrong(body.error?.message ?? `the server answers ${answer.status}`);
  return body;
}
