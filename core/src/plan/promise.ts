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
  /** Jobs that are finished when the last of them is, such as the pieces of an order. */
  readonly together?: readonly { readonly id: string; readonly jobs: readonly string[] }[];
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
  /** Of jobs that were asked for together; those none of whose jobs is planned are left out. */
  readonly together: readonly Omit<JobPromise, 'due' | 'onTime'>[];
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
  // Sorted in place further down: what is finished together is taken before, run by run.
  const together = togetherOf(problem, options.together ?? [], finishes, simulation.planned, done);
  return {
    runs: done,
    together,
    jobs: problem.jobs.flatMap(({ id, due }, job): JobPromise[] => {
      const planned = simulation.planned[job]!;
      if (planned === -Infinity) return [];
      const sorted = finishes[job]!.subarray(0, done).sort();
      const onTime = due === undefined ? undefined : sorted.filter((end) => end <= due).length / done;
      return [
        {
          id,
          ...(due === undefined ? {} : { due }),
          planned,
          p50: quantile(sorted, 0.5),
          p90: quantile(sorted, 0.9),
          ...(onTime === undefined ? {} : { onTime }),
        },
      ];
    }),
  };
}

/**
 * The finish that so great a share of further runs would keep: of n sorted ones the k-th is kept by k of n + 1 (an order statistic's
 * expected coverage).
 */
const quantile = (sorted: Float64Array, share: number): number =>
  Math.round(sorted[Math.min(sorted.length - 1, Math.ceil(share * (sorted.length + 1)) - 1)]!);

/**
 * Several jobs as one that is finished with the last of them. Their own nine-in-ten dates do not say that: of two that each
 * keep theirs in nine runs of ten, both do in fewer.
 */
function togetherOf(
  { jobs }: PlanProblem,
  asked: NonNullable<PromiseOptions['together']>,
  finishes: readonly Float64Array[],
  planned: ArrayLike<number>,
  runs: number,
): Promises['together'] {
  const placeOf = new Map(jobs.map(({ id }, place) => [id, place]));
  return asked.flatMap(({ id, jobs: own }) => {
    const places = own.flatMap((job) => placeOf.get(job) ?? []).filter((place) => planned[place]! > -Infinity);
    if (places.length === 0) return [];
    const last = new Float64Array(runs).fill(-Infinity);
    for (const place of places)
      for (let run = 0; run < runs; run++) last[run] = Math.max(last[run]!, finishes[place]![run]!);
    last.sort();
    return [
      {
        id,
        planned: Math.max(...places.map((place) => planned[place]!)),
        p50: quantile(last, 0.5),
        p90: quantile(last, 0.9),
      },
    ];
  });
}
