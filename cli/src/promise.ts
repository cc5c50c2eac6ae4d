import { DEFAULT_RUNS, promiseDates } from '@kalvet/core';
import { argumentsOf, numberIn } from './arguments.ts';
import { Wrong } from './files.ts';
import { printJson, printRows } from './model.ts';
import { readProblem, readSchedule, wallClock } from './plan-files.ts';

const OPTIONS = {
  runs: { type: 'string' },
  seed: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** `kalvet promise`: the dates that a schedule lets one promise, one chance in two and nine in ten. @returns the exit code */
export async function promise(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const [problemFile, scheduleFile] = positionals;
  if (problemFile === undefined || scheduleFile === undefined || positionals.length !== 2)
    throw new Wrong('promise takes a problem file and its schedule file');
  const runs = numberIn('runs', values.runs, { whole: true, above: true }) ?? DEFAULT_RUNS;
  const seed = numberIn('seed', values.seed, { whole: true }) ?? 1;
  const problem = await readProblem(problemFile);
  const schedule = await readSchedule(scheduleFile, problem);
  const promises = promiseDates(problem, schedule, { runs, seed });
  if (values.json) {
    printJson(promises);
    return 0;
  }
  const clock = (minute: number) => wallClock(problem, minute);
  printRows([
    ['job', 'planned', 'one chance in two by', 'nine in ten by', 'due', 'on time'],
    ...promises.jobs.map(({ id, planned, p50, p90, due, onTime }) => [
      id,
      clock(planned),
      clock(p50),
      clock(p90),
      due === undefined ? '–' : clock(due),
      onTime === undefined ? '–' : `${(100 * onTime).toFixed(0)} %`,
    ]),
  ]);
  process.stdout.write(`\n${promises.runs} runs, seed ${seed}\n`);
  return 0;
}
