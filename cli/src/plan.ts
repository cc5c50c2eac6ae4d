import type { Schedule } from '@kalvet/core';
import { planDocument } from '@kalvet/core';
import { argumentsOf, numberIn } from './arguments.ts';
import { Wrong, readJson, writeJson } from './files.ts';

/** How long the first schedule is made better where nobody says: a few seconds. */
const DEFAULT_SECONDS = 3;
/** The rest of the time is for the last trial and the check. */
const SEARCHED = 0.97;
const EXIT: Readonly<Record<Schedule['status'], number>> = { feasible: 0, infeasible: 1, 'not-found': 1, invalid: 2 };

const OPTIONS = {
  output: { type: 'string', short: 'o' },
  seconds: { type: 'string' },
  iterations: { type: 'string' },
  seed: { type: 'string' },
  progress: { type: 'boolean' },
} as const;

/** `kalvet plan`: reads a problem, writes the best schedule found, or why there is none. @returns the exit code */
export async function plan(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  if (positionals.length !== 1) throw new Wrong('plan takes one problem file');
  const iterations = numberIn('iterations', values.iterations, { whole: true });
  const seconds = numberIn('seconds', values.seconds) ?? (iterations === undefined ? DEFAULT_SECONDS : Infinity);
  const seed = numberIn('seed', values.seed, { whole: true });
  const [path] = positionals as [string];
  const document = await readJson(path).catch(async (error: unknown) => {
    if (values.output !== undefined && error instanceof Wrong) await give(unreadable(error.message), values.output);
    throw error;
  });
  const until = performance.now() + seconds * 1000 * SEARCHED;
  let told = 0;
  const schedule = planDocument(document, {
    ...(seed === undefined ? {} : { seed }),
    ...(iterations === undefined ? {} : { iterations }),
    more: () => performance.now() < until,
    ...(values.progress
      ? {
          onProgress: (tries, value) => {
            if (performance.now() - told < 500) return;
            told = performance.now();
            process.stderr.write(`kalvet: ${tries} tries, best ${value === null ? 'none yet' : round(value)}\n`);
          },
        }
      : {}),
  });
  await give(schedule, values.output);
  return EXIT[schedule.status];
}

const round = (value: number) => Math.round(value * 1000) / 1000;

const unreadable = (text: string): Schedule => ({
  format: 'kalvet-schedule/1',
  status: 'invalid',
  tasks: [],
  messages: [{ text }],
});

async function give(schedule: Schedule, output: string | undefined): Promise<void> {
  if (output === undefined) {
    process.stdout.write(`${JSON.stringify(schedule, null, 1)}\n`);
    return;
  }
  await writeJson(output, schedule);
  const { status, objective, lowerBound, tasks, messages } = schedule;
  process.stderr.write(
    objective
      ? `kalvet: ${status}: ${tasks.length} tasks, objective ${round(objective.value)}${lowerBound ? `, proven to be at least ${round(lowerBound.value)}${gap(objective.value, lowerBound.value)}` : ''}\n`
      : `kalvet: ${status}: ${messages[0]?.path ? `${messages[0].path} ` : ''}${messages[0]?.text ?? ''}${messages.length > 1 ? ` (and ${messages.length - 1} more)` : ''}\n`,
  );
}

/** By how much a schedule may at most be above the best there is. */
const gap = (value: number, bound: number): string =>
  value > 0 ? `: at most ${(100 * (1 - bound / value)).toFixed(1)} % to gain` : '';
