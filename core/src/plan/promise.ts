import { compile } from './compile.ts';
import { chance } from './engine/chance.ts';
import type { PlanProblem, Schedule } from './problem.ts';
import { Replay } from './replay.ts';
import { Simulation } from './simulation.ts';

export interface PromiseOptions {
  readonly runs?: number;
  readonly seed?: number;
  /** Whether each run goes on as a shop would, taking what can be done; else it keeps the schedule's order to the letter. */
  readonly lived?: boolean;
  readonly onProgress?: (share: number) => void;
  /** Asked now and then; where it says so the runs so far count. */
  readonly cancelled?: () => boolean;
}

/** When a job will be finished, in minutes: as planned, with one chance in two, and with nine in ten. */
export interface JobPromise {
  readonly id: string;
  readonly due?: number;
  readonly planned: number;
  readonly p50: number;
  readonly p90: number;
  /** In which share of the runs it was finished when due; absent where it is never late. */
  readonly onTime?: number;
}

export interface Promises {
  readonly runs: number;
  readonly jobs: readonly JobPromise[];
}

export const DEFAULT_RUNS = 1000;

/**
 * Finish quantiles from many runs of a schedule in which durations differ and things are lost. Every run keeps the
 * schedule's order on each resource and its loads, and shifts to the right what cannot start when planned; nothing starts
 * before it was planned to. What is lost is made again from where its chain begins: what hangs on it waits as much longer
 * as the chain took in the schedule. Durations are lognormal with the planned one as the middle. Deterministic by seed.
 * @throws RangeError where the schedule is not one of this problem
 */
export function promiseDates(problem: PlanProblem, schedule: Schedule, options: PromiseOptions = {}): Promises {
  const compiled = compile(problem);
  const runs = options.runs ?? DEFAULT_RUNS;
  const simulation = options.lived ? new Replay(compiled, schedule) : new Simulation(compiled, schedule);
  const random = chance(options.seed ?? 1);
  const finishes = problem.jobs.map(() => new Float64Array(runs));
  let done = 0;
  for (; done < runs; done++) {
    if (done > 0 && options.cancelled?.()) break;
    simulation.run(random);
    finishes.forEach((list, job) => (list[done] = simulation.finish[job]!));
    options.onProgress?.((done + 1) / runs);
  }
  return {
    runs: done,
    jobs: problem.jobs.flatMap(({ id, due }, job): JobPromise[] => {
      const planned = simulation.planned[job]!;
      if (planned === -Infinity) return [];
      const sorted = finishes[job]!.subarray(0, done).sort();
      const at = (share: number) => Math.round(sorted[Math.min(done - 1, Math.ceil(share * done) - 1)]!);
      const onTime = due === undefined ? undefined : sorted.filter((end) => end <= due).length / done;
      return [
        {
          id,
          ...(due === undefined ? {} : { due }),
          planned,
          p50: at(0.5),
          p90: at(0.9),
          ...(onTime === undefined ? {} : { onTime }),
        },
      ];
    }),
  };
}
