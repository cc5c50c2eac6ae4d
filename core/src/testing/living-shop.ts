// A shop that lives: pieces come in week by week, everything is planned anew on each Monday, durations turn out other than
// planned, and things are lost and made again with the hands and moulds that takes. For benchmarks: do promised dates hold?
import { compile } from '../plan/compile.ts';
import type { Arc, Task } from '../plan/compile.ts';
import { Board } from '../plan/engine/board.ts';
import { chance } from '../plan/engine/chance.ts';
import { Inserter } from '../plan/engine/inserter.ts';
import { urgencyOf } from '../plan/engine/priority.ts';
import { endOf } from '../plan/openings.ts';
import { planProblem } from '../plan/plan.ts';
import { promiseDates } from '../plan/promise.ts';
import type { PlanLink, PlanProblem, PlanTask, Schedule } from '../plan/problem.ts';
import { DEFAULT_SPREAD, FIRST_PASS_YIELD } from '../plan/simulation.ts';
import { foundryProblem } from './foundry-problem.ts';

const DAY = 1440;
const WEEK = 7 * DAY;
const USUAL_WEEKS = 6;
const ROOMS: Readonly<Record<string, string>> = { kiln: 'burnout', crucible: 'pour' };

/** A task as it turns out: how long it really takes, whether what it works on is lost by it, and when it was done. */
interface Lived {
  readonly task: PlanTask;
  readonly duration: number;
  readonly isLost: boolean;
  start?: number;
  end?: number;
  /** When it would have ended had it taken as long as was planned. */
  thoughtEnd?: number;
}

/** What was promised to a piece when it came in, and when it was out; in minutes since the first Monday. */
export interface Kept {
  readonly job: string;
  readonly told: number;
  readonly even: number;
  readonly ninety: number;
  readonly finished: number;
}

export interface LivingOptions {
  readonly weeks: number;
  /** Pieces that come in each week. */
  readonly arrivals?: number;
  readonly seed?: number;
  readonly runs?: number;
  readonly tries?: number;
}

/** Lives so many weeks and gives every promise that was made and has come due to be judged. */
export function liveOn({ weeks, arrivals = 1, seed = 1, runs = 80, tries = 20 }: LivingOptions): Kept[] {
  const shop = new LivingShop(weeks * arrivals, seed);
  const promised = new Map<string, { told: number; even: number; ninety: number }>();
  for (let day = 0; day < 7 * weeks; day++) {
    const now = day * DAY;
    const isMonday = day % 7 === 0;
    if (day % 7 > 4) continue;
    const fresh = isMonday ? shop.arrive(day / 7, arrivals) : new Set<string>();
    const { problem, schedule } = shop.plan(now, isMonday ? tries : 0);
    if (isMonday) {
      const { jobs } = promiseDates(problem, schedule, { runs, seed: day + 1, lived: true });
      for (const { id, planned, p50, p90 } of jobs)
        if (fresh.has(id)) {
          promised.set(id, { told: now + planned, even: now + p50, ninety: now + p90 });
          shop.due.set(id, now + p90);
        }
    }
    shop.live(problem, schedule, now, now + (day % 7 === 4 ? 3 : 1) * DAY);
  }
  return [...promised].flatMap(([job, dates]) => {
    const finished = shop.finished(job);
    return finished === undefined ? [] : [{ job, ...dates, finished }];
  });
}

class LivingShop {
  private readonly all: PlanProblem;
  private readonly random: () => number;
  private readonly lived = new Map<string, Lived>();
  private readonly links: PlanLink[] = [];
  private readonly release = new Map<string, number>();
  /** What each piece was promised for. */
  readonly due = new Map<string, number>();
  private told: readonly { readonly id: string; readonly start: number }[] = [];
  private made = 0;

  constructor(pieces: number, seed: number) {
    this.random = chance(seed * 7919);
    const { resources, ...rest } = foundryProblem(pieces, seed, { coats: 7 });
    // The hands of a small shop, however many pieces come in over the years.
    const few = foundryProblem(20, seed).resources;
    const usual = new Map(few.map((each) => [each.id, each]));
    this.all = { ...rest, resources: resources.map((each) => usual.get(each.id) ?? each) };
  }

  /** The pieces of a week come in. */
  arrive(week: number, count: number): ReadonlySet<string> {
    const fresh = new Set(this.all.jobs.slice(week * count, (week + 1) * count).map(({ id }) => id));
    for (const id of fresh) this.release.set(id, week * WEEK);
    for (const task of this.all.tasks) if (fresh.has(task.job)) this.take(task);
    const own = ({ from }: PlanLink) => fresh.has(from.split('.')[0]!);
    this.links.push(...this.all.links.filter(own));
    return fresh;
  }

  private take(task: PlanTask): void {
    const first = task.needs[0]!.resource;
    const room = ROOMS[first] ?? first;
    const normal = Math.sqrt(-2 * Math.log(1 - this.random())) * Math.cos(2 * Math.PI * this.random());
    const duration = Math.max(1, Math.round(task.duration * Math.exp(Math.log(1 + DEFAULT_SPREAD) * normal)));
    const passes = this.isLastIn(task, room) ? (FIRST_PASS_YIELD[room] ?? 1) : 1;
    this.lived.set(task.id, { task: { ...task, room }, duration, isLost: this.random() > passes });
  }

  private isLastIn({ id }: PlanTask, room: string): boolean {
    const followers = this.all.links.filter(({ from }) => from === id.replace(/~\d+$/, ''));
    const roomOf = (to: string) => {
      const first = this.all.tasks.find((each) => each.id === to)!.needs[0]!.resource;
      return ROOMS[first] ?? first;
    };
    return followers.every(({ to }) => roomOf(to) !== room);
  }

  /** Everything that is not done, planned from a Monday on. */
  plan(now: number, tries: number): { problem: PlanProblem; schedule: Schedule } {
    const open = [...this.lived.values()].filter(({ end }) => end === undefined || end > now);
    const ids = new Set(open.map(({ task }) => task.id));
    const earliest = new Map<string, number>();
    for (const { from, to, minLag = 0 } of this.links) {
      const before = this.lived.get(from)!;
      if (ids.has(to) && !ids.has(from)) earliest.set(to, Math.max(earliest.get(to) ?? 0, before.end! + minLag - now));
    }
    const problem = (isStrict: boolean): PlanProblem => ({
      ...this.all,
      start: startOf(now),
      jobs: [...new Set(open.map(({ task }) => task.job))].map((id) => ({
        id,
        release: Math.max(0, this.release.get(id)! - now),
        // Due when it was promised for; what has just come in when such a piece usually is.
        due: Math.max(0, (this.due.get(id) ?? this.release.get(id)! + USUAL_WEEKS * WEEK) - now),
      })),
      tasks: open.map(({ task, start }) => {
        if (start === undefined) return { ...task, earliest: earliest.get(task.id) ?? 0 };
        // What runs takes as long as was thought; once that is over, whoever does it knows how long it still takes.
        const { duration, thoughtEnd } = this.lived.get(task.id)!;
        return { ...task, duration: thoughtEnd! > now ? task.duration : duration, fixedStart: start - now };
      }),
      links: this.links
        .filter(({ from, to }) => ids.has(from) && ids.has(to))
        .map(({ maxLag, ...link }) => (isStrict && maxLag !== undefined ? { ...link, maxLag } : link)),
      previous: {
        starts: this.told.filter(({ id }) => ids.has(id)).map(({ id, start }) => ({ id, start: start - now })),
        weight: 0.00001,
        frozen: 2 * DAY,
      },
    });
    for (const strict of [true, false]) {
      const tried = problem(strict);
      const schedule = planProblem(tried, { iterations: tries });
      if (schedule.status === 'feasible') {
        this.told = schedule.tasks.map(({ id, start }) => ({ id, start: start + now }));
        return { problem: tried, schedule };
      }
    }
    throw new Error(`no plan on day ${now / DAY}`);
  }

  /** Time goes by until the next plan: whoever is free takes what was planned first; what was lost is found out when it is done. */
  live(problem: PlanProblem, schedule: Schedule, now: number, until: number): void {
    const compiled = compile(problem);
    const planned = new Map(schedule.tasks.map(({ id, start }) => [id, start]));
    const tasks = compiled.tasks.map((task): Task => {
      return { ...task, duration: this.lived.get(task.id)!.duration };
    });
    const isLost = (place: number) => this.lived.get(tasks[place]!.id)!.isLost;
    const held = (arcs: readonly Arc[]): Arc[] =>
      arcs.map((arc) => ({ ...arc, maxLag: Infinity, minLag: isLost(arc.from) ? arc.minLag + 2 * WEEK : arc.minLag }));
    const net = { ...compiled, tasks, into: compiled.into.map(held), out: compiled.out.map(held) };
    const board = new Board(net);
    const inserter = new Inserter(net, board, urgencyOf(net));
    const order = Float64Array.from(tasks, ({ id }) => planned.get(id)!);
    inserter.putFixed();
    const free = tasks.filter(({ fixed }) => fixed === null).map(({ place }) => place);
    if (!inserter.putAll(free, { order, thrift: 1, notBefore: order })) throw new Error('a day cannot be lived');
    const lost: Lived[] = [];
    for (const { place, id } of tasks) {
      const each = this.lived.get(id)!;
      const [start, end] = [board.starts[place]! + now, board.ends[place]! + now];
      if (start >= until) continue;
      if (each.start === undefined) {
        const { open, spans } = tasks[place]!;
        each.thoughtEnd = endOf(open, spans, start - now, each.task.duration) + now;
      }
      each.start = start;
      each.end = end;
      if (each.isLost && end <= until) lost.push(each);
    }
    for (const each of lost) this.makeAgain(each);
  }

  /** What was lost is made again from where its chain begins: new tasks like the old ones, before all that hung on it. */
  private makeAgain({ task }: Lived): void {
    const mark = `~${++this.made}`;
    const chain = [task.id];
    for (let id: string | undefined = task.id; (id = this.madeFrom(id)) !== undefined;) chain.unshift(id);
    const copy = (id: string) => `${id.replace(/~\d+$/, '')}${mark}`;
    const old = new Set(chain);
    for (const id of chain) this.take({ ...this.lived.get(id)!.task, id: copy(id) });
    const anew: PlanLink[] = [];
    for (const link of this.links) {
      if (old.has(link.from) && old.has(link.to)) anew.push({ ...link, from: copy(link.from), to: copy(link.to) });
      else if (link.from === task.id) anew.push({ ...link, from: copy(task.id) });
    }
    const kept = this.links.filter(({ from }) => from !== task.id);
    this.links.splice(0, this.links.length, ...kept, ...anew);
  }

  private madeFrom(id: string): string | undefined {
    const before = this.links.filter(({ to }) => to === id);
    return before.length === 1 ? before[0]!.from : undefined;
  }

  /** When the last of a piece was done; undefined while something is still to be done. */
  finished(job: string): number | undefined {
    let last = 0;
    for (const { task, end } of this.lived.values()) {
      if (task.job !== job) continue;
      if (end === undefined) return undefined;
      last = Math.max(last, end);
    }
    return last;
  }
}

/** The date of a Monday, so many minutes after the first one. */
function startOf(now: number): string {
  const day = new Date(Date.UTC(2027, 2, 1) + now * 60_000).toISOString().slice(0, 10);
  return `${day}T00:00:00`;
}
