import type { ChainLink, PlanOptions } from '@kalvet/core';
import { whyLate } from '@kalvet/core';
import { argumentsOf, numberIn } from './arguments.ts';
import { Wrong } from './files.ts';
import { printJson, printRows } from './model.ts';
import { readProblem, readSchedule, spanInWords, wallClock } from './plan-files.ts';

const OPTIONS = {
  iterations: { type: 'string' },
  seed: { type: 'string' },
  json: { type: 'boolean' },
} as const;

/** `kalvet why`: what holds a job's finish, and what would help. @returns the exit code */
export async function why(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const [problemFile, scheduleFile, job] = positionals;
  if (problemFile === undefined || scheduleFile === undefined || job === undefined || positionals.length !== 3)
    throw new Wrong('why takes a problem file, its schedule file and a job');
  const iterations = numberIn('iterations', values.iterations, { whole: true }) ?? 0;
  const seed = numberIn('seed', values.seed, { whole: true }) ?? 1;
  const problem = await readProblem(problemFile);
  if (!problem.jobs.some(({ id }) => id === job)) throw new Wrong(`${problemFile} has no job "${job}"`);
  if (!problem.tasks.some((task) => task.job === job)) throw new Wrong(`the job "${job}" has no tasks`);
  const schedule = await readSchedule(scheduleFile, problem);
  const found = whyLate(problem, schedule, job, (): PlanOptions => ({ iterations, seed }));
  if (values.json) {
    printJson(found);
    return 0;
  }
  const { finish, due, chain, reliefs } = found;
  const lateness = due === undefined ? '' : `, due ${wallClock(problem, due)}${late(finish - due)}`;
  process.stdout.write(`${job} ends ${wallClock(problem, finish)}${lateness}\n\n`);
  printRows(
    [
      ['from', 'to', 'task', 'waits for'],
      ...chain.map((link) => [wallClock(problem, link.start), wallClock(problem, link.end), link.task, inWords(link)]),
    ],
    true,
  );
  process.stdout.write('\n');
  if (reliefs.length === 0) process.stdout.write('nothing that the shop could add stands on this chain\n');
  else
    printRows([
      ['what would help', `${job} ends`, 'sooner', 'whole objective less'],
      ...reliefs.map(({ text, finish: end, sooner, objective }) => [
        text,
        wallClock(problem, end),
        spanInWords(sooner),
        String(Number(objective.toPrecision(4))),
      ]),
    ]);
  return 0;
}

const late = (minutes: number): string => (minutes > 0 ? `: ${spanInWords(minutes)} late` : ', in time');

function inWords({ hold, waited, closed, calendars }: ChainLink): string {
  const hours = closed > 0 ? `, then ${spanInWords(closed)} for the hours of ${calendars.join(', ')}` : '';
  const wait = waited > 0 ? ` (${spanInWords(waited)})` : '';
  switch (hold.kind) {
    case 'link':
      return `${hold.by}${hold.minLag > 0 ? ` and ${spanInWords(hold.minLag)} after it` : ''}${hours}`;
    case 'resource':
      return `${hold.resource}, which ${hold.by} gives back${wait}${hours}`;
    case 'load':
      return `${hold.by} in the same load ${hold.load}${wait}`;
    case 'follower':
      return `${hold.by}, which must follow within ${spanInWords(hold.maxLag)}${wait}`;
    case 'earliest':
      return `its earliest start${hours}`;
    case 'fixed':
      return 'nothing: it has begun, or is pinned';
    case 'choice':
      return `nothing it needs: the schedule has it later${wait}`;
  }
}
