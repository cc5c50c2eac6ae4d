// Planning: foundries of all sizes and classical job shops. What a plan costs, how far that is from what is proven, how
// long it took, and how much better it is than the best of ten priority rules with the same building of loads.
import type { PlanProblem, Schedule } from '@kalvet/core';
import { checkSchedule, planByRule, planProblem, PRIORITY_RULES, promiseDates } from '@kalvet/core';
import { crowdedFoundry } from '../core/src/testing/crowded-foundry.ts';
import { foundryProblem } from '../core/src/testing/foundry-problem.ts';
import { JOB_SHOPS, jobShopProblem } from '../core/src/testing/job-shops.ts';
import { plainSearch } from './plain-search.ts';
import { line, timed } from './measure.ts';
import type { Line } from './measure.ts';

const MB = 1e6;
const KB = 1024;
/** Pieces, seconds of search, and the least gain over the rules in per cent, where one is asked for. */
const FOUNDRIES = [
  { pieces: 5, seconds: 3 },
  { pieces: 20, seconds: 10, gain: 10 },
  { pieces: 100, seconds: 20, gain: 10 },
  { pieces: 400, seconds: 20, gain: 10 },
] as const;
/** Pieces of crowded shops, and the most that a plan may cost as a share of what the plain search finds, in per cent. */
const CROWDED = [
  { pieces: 5, share: 100 },
  { pieces: 20, share: 90 },
  { pieces: 60, share: 90 },
  { pieces: 150, share: 90 },
  { pieces: 400, share: 90 },
] as const;
const CROWDED_SECONDS = 20;
const FIRST_PIECES = 400;
const SHOP_SECONDS = 20;
const CURVE_SECONDS = [0, 1, 2, 5, 10, 20, 60, 120] as const;
const CROWDED_CURVE = [1, 2, 5, 10, 20, 60] as const;
const RUNS = 1000;

/** Plans for so long; every schedule is checked. */
function planned(problem: PlanProblem, seconds: number, enough?: number): Schedule {
  const until = performance.now() + seconds * 1000;
  let best = Infinity;
  const schedule = planProblem(problem, {
    more: () => performance.now() < until && best > (enough ?? -Infinity),
    onProgress: (_, value) => (best = value ?? Infinity),
    ...(seconds === 0 ? { iterations: 0 } : {}),
  });
  if (schedule.status !== 'feasible') throw new Error(`no plan: ${schedule.messages[0]?.text ?? schedule.status}`);
  if (checkSchedule(problem, schedule).length > 0) throw new Error('the check found faults');
  return schedule;
}

const bestByRules = (problem: PlanProblem): number =>
  Math.min(...Object.keys(PRIORITY_RULES).map((rule) => planByRule(problem, rule)?.objective?.value ?? Infinity));

const gapOf = ({ objective, lowerBound }: Schedule): number => 100 * (1 - lowerBound!.value / objective!.value);

export async function plan(): Promise<Line[]> {
  const lines: Line[] = [];
  const large = foundryProblem(FIRST_PIECES, 1, { coats: 9 });
  let first: Schedule | undefined;
  const ms = await timed(async () => (first = planned(large, 0)));
  lines.push(line(`First plan of ${FIRST_PIECES} pieces, ${large.tasks.length} tasks, checked`, ms / 1000, 's', 3));
  const promised = await timed(async () => promiseDates(large, first!, { runs: RUNS }));
  lines.push(line(`Promises of the same from ${RUNS} runs`, promised / 1000, 's', 30));
  for (const { pieces, seconds, ...aim } of FOUNDRIES) {
    const problem = foundryProblem(pieces, 7, { coats: 9 });
    const schedule = planned(problem, seconds);
    const of = `${pieces} pieces, ${problem.tasks.length} tasks, in ${seconds} s`;
    const better = 100 * (1 - schedule.objective!.value / bestByRules(problem));
    lines.push(
      line(`Objective of ${of}`, schedule.objective!.value, ''),
      line('… above what is proven to be the least', gapOf(schedule), '%'),
      'gain' in aim
        ? line('… as a share of the best of ten rules', 100 - better, '%', 100 - aim.gain)
        : line('… as a share of the best of ten rules', 100 - better, '%'),
    );
  }
  lines.push(...crowdedLines([CROWDED_SECONDS]));
  for (const shop of JOB_SHOPS) {
    const problem = jobShopProblem(shop);
    let found: Schedule | undefined;
    const took = await timed(async () => (found = planned(problem, SHOP_SECONDS, shop.optimum)));
    lines.push(
      line(
        `${shop.name}: above the published optimum of ${shop.optimum}`,
        100 * (found!.objective!.value / shop.optimum - 1),
        '%',
        3,
      ),
      line('… found in', took / 1000, 's', SHOP_SECONDS + 1),
    );
  }
  lines.push(line('Most memory the process had', (process.resourceUsage().maxRSS * KB) / MB, 'MB', 1000));
  return lines;
}

/** Crowded shops: what a plan costs beside what the plain search finds in the same time. */
function crowdedLines(seconds: readonly number[]): Line[] {
  return CROWDED.flatMap(({ pieces, share }) => {
    const problem = crowdedFoundry(pieces, 1);
    const plain = plainSearch(problem, seconds);
    return seconds.flatMap((second, i) => {
      const schedule = planned(problem, second);
      const of = `${pieces} pieces in a crowded shop, ${problem.tasks.length} tasks, in ${second} s`;
      return [
        line(`Objective of ${of}`, schedule.objective!.value, ''),
        line(
          `… as a share of the plain search’s ${plain[i]!.toFixed(0)}`,
          (100 * schedule.objective!.value) / plain[i]!,
          '%',
          share,
        ),
        line('… late', (100 * lateIn(problem, schedule)) / pieces, '% of the pieces'),
        line('… above what is proven to be the least', gapOf(schedule), '%'),
      ];
    });
  });
}

function lateIn({ jobs, tasks }: PlanProblem, schedule: Schedule): number {
  const ends = new Map<string, number>();
  const jobOf = new Map(tasks.map(({ id, job }) => [id, job]));
  for (const { id, end } of schedule.tasks) ends.set(jobOf.get(id)!, Math.max(end, ends.get(jobOf.get(id)!) ?? 0));
  return jobs.filter(({ id, due }) => due !== undefined && ends.get(id)! > due).length;
}

/** The long curves of objective against seconds, for loose and for tight due dates. */
export async function planLong(): Promise<Line[]> {
  const lines: Line[] = [...crowdedLines(CROWDED_CURVE)];
  for (const pieces of [5, 20, 40, 100, 200, 400])
    for (const tight of [1, 0.4]) {
      const given = foundryProblem(pieces, 7, { coats: 9 });
      const jobs = given.jobs.map((job) => ({ ...job, due: Math.round(job.due! * tight) }));
      const problem = { ...given, jobs };
      const rules = bestByRules(problem);
      for (const seconds of CURVE_SECONDS) {
        const schedule = planned(problem, seconds);
        const share = (100 * schedule.objective!.value) / rules;
        lines.push(
          line(
            `${pieces} pieces, due × ${tight}, ${seconds} s: ${schedule.objective!.value.toFixed(0)} (at least ${schedule.lowerBound!.value.toFixed(0)})`,
            share,
            '% of the best rule',
          ),
        );
      }
    }
  return lines;
}
