import { DAY_MIN } from '../../units/instant.ts';
import type { Compiled } from '../compile.ts';
import { usesOf } from '../compile.ts';
import { familiesOf } from '../families.ts';
import type { Board } from './board.ts';
import type { Manner } from './inserter.ts';
import type { Load } from './loads.ts';
import type { Urgency } from './priority.ts';
import type { Groups } from './regroup.ts';
import { merged, parted, placesOf } from './regroup.ts';

/** What is to be taken out and in which manner it is put again. */
export interface Proposal {
  readonly roots: readonly number[];
  /** Called once it is known what was taken out. */
  readonly manner: (out: readonly number[]) => Manner;
}

/** Tasks that a trial takes out, about; and where jobs that follow one another change places. */
const MOST_OUT = 260;
const MOST_IN_WAVE = 1500;
const THRIFTS = [0, 0.5, 1, 1, 2, 5];

/**
 * The ways in which a schedule is changed on trial: whole jobs, loads put together or parted, a stretch of time on one
 * resource, everything from some minute on, neighbours on the chain that holds a job's end. Each takes something out and
 * says in which order it is to be put again.
 */
export class Neighbourhoods {
  /** Tasks that only one job waits for, its own among them, by the job. */
  private readonly families: readonly (readonly number[])[];
  /** Jobs that have a family. */
  private readonly owners: readonly number[];
  /** The job that alone waits for each task; −1 where several do. */
  readonly familyOf: Int32Array;
  /** Each task's place in an order that puts it after what it waits for. */
  private readonly rankOf: Int32Array;
  private readonly users: readonly (readonly number[])[];
  private readonly order: Float64Array;
  private readonly batches: readonly number[];
  private readonly span: number;

  constructor(
    private readonly compiled: Compiled,
    private readonly board: Board,
    private readonly urgency: Urgency,
    private readonly isHeld: (place: number) => boolean,
    private readonly random: () => number,
  ) {
    this.order = urgency.latest.slice();
    this.familyOf = familiesOf(compiled);
    const families: number[][] = compiled.problem.jobs.map(() => []);
    // What several jobs wait for goes with its own.
    compiled.tasks.forEach(({ place }) => families[this.owner(place)]!.push(place));
    this.families = families;
    this.owners = [...families.keys()].filter((job) => families[job]!.length > 0);
    this.rankOf = new Int32Array(compiled.tasks.length);
    compiled.order.forEach((place, i) => (this.rankOf[place] = i));
    this.users = compiled.resources.map((_, resource) =>
      compiled.tasks
        .filter((task) => task.batch?.resource === resource || usesOf(task).some((use) => use.resource === resource))
        .map(({ place }) => place),
    );
    this.batches = compiled.resources.flatMap(({ batch }, place) => (batch ? [place] : []));
    const last = board.ends.reduce((most, end) => Math.max(most, end), 1);
    this.span = last - board.starts.reduce((least, start) => Math.min(least, start), last);
  }

  /** The ways there are, by name. */
  readonly ways: Readonly<Record<string, () => Proposal | undefined>> = {
    jobs: () => this.jobs(),
    wave: () => this.wave(),
    loads: () => this.loads(),
    merge: () => this.merge(),
    part: () => this.part(),
    stretch: () => this.stretch(),
    rest: () => this.rest(),
    chain: () => this.chain(),
    again: () => this.again(),
    shift: () => this.shift(),
  };

  /** The job whose family a task belongs to. */
  private owner(place: number): number {
    const job = this.familyOf[place]!;
    return job >= 0 ? job : this.compiled.tasks[place]!.job;
  }

  private below(count: number): number {
    return Math.floor(this.random() * count);
  }

  private oneOf<T>(list: readonly T[]): T {
    return list[this.below(list.length)]!;
  }

  /** A job, the likelier the more it costs. */
  private costly(): number {
    const { owners, board } = this;
    if (this.random() < 0.3) return this.oneOf(owners);
    let left = this.random() * owners.reduce((sum, job) => sum + board.costOf(job), 0);
    return owners.find((job) => (left -= board.costOf(job)) < 0) ?? this.oneOf(owners);
  }

  /** Some jobs as a whole: one that costs much, others that stand near it or any. */
  private jobs(): Proposal | undefined {
    const first = this.costly();
    const chosen = new Set([first]);
    let size = this.families[first]!.length;
    const wanted = 1 + this.below(6);
    for (let tries = 0; chosen.size < wanted && tries < 12 && size < MOST_OUT; tries++) {
      const job = this.random() < 0.5 ? this.oneOf(this.owners) : this.near(first);
      if (job === undefined || chosen.has(job)) continue;
      chosen.add(job);
      size += this.families[job]!.length;
    }
    return this.propose([...chosen].flatMap((job) => this.families[job]!));
  }

  /**
   * Jobs that end one after another, all of them, put again wholly one before the next in another order: only so the ones
   * behind gain what one that is put back has left.
   */
  private wave(): Proposal | undefined {
    const { board } = this;
    if (this.owners.length < 2) return undefined;
    const jobs = [...this.owners].sort((a, b) => board.finishOf(a) - board.finishOf(b) || a - b);
    const wanted = 2 + Math.floor(this.random() ** 2 * (jobs.length - 1));
    const from = this.below(Math.max(1, jobs.length - (wanted >> 1)));
    const chosen: number[] = [];
    for (let i = from, size = 0; i < jobs.length && chosen.length < wanted && size < MOST_IN_WAVE; i++) {
      chosen.push(jobs[i]!);
      size += this.families[jobs[i]!]!.length;
    }
    if (chosen.length < 2) return undefined;
    const roots = chosen.flatMap((job) => this.families[job]!).filter((place) => !this.isHeld(place));
    for (let moves = 1 + this.below(2); moves > 0; moves--) {
      const [job] = chosen.splice(this.below(chosen.length), 1);
      chosen.splice(this.below(chosen.length + 1), 0, job!);
    }
    const thrift = this.oneOf(THRIFTS);
    const isLoose = this.random() < 0.3;
    return {
      roots,
      manner: (out) => {
        this.ranked(out, chosen, isLoose ? this.span / Math.max(1, jobs.length) : 1e9);
        return { order: this.order, thrift };
      },
    };
  }

  /** Orders by the rank of the jobs, so many minutes between one and the next, and within them as they stood. */
  private ranked(out: readonly number[], jobs: readonly number[], apart: number): void {
    const ranks = new Map(jobs.map((job, i) => [job, i]));
    for (const place of out) {
      const rank = ranks.get(this.owner(place)) ?? jobs.length;
      this.order[place] = rank * apart + (apart < 1e9 ? this.urgency.latest[place]! * 0.2 : 0) + this.rankOf[place]!;
    }
  }

  /** A job that uses the same resource at about the same time. */
  private near(job: number): number | undefined {
    const family = this.families[job]!;
    if (family.length === 0) return undefined;
    const { tasks } = this.compiled;
    const task = tasks[this.oneOf(family)]!;
    const resource = task.batch?.resource ?? (task.takes.length > 0 ? this.oneOf(task.takes).resource : undefined);
    if (resource === undefined) return undefined;
    const start = this.board.starts[task.place]!;
    let best: number | undefined;
    let least = Infinity;
    const users = this.users[resource]!;
    // A sample: the nearest of a few.
    for (let i = 0; i < 24; i++) {
      const other = this.oneOf(users);
      const away = Math.abs(this.board.starts[other]! - start);
      if (this.owner(other) === job || away >= least) continue;
      best = this.owner(other);
      least = away;
    }
    return best;
  }

  /** A few loads of one key that follow one another, nothing in them held. */
  private someLoads(most: number): Load[] {
    const books = this.batches.map((resource) => this.board.loads[resource]!).filter(({ list }) => list.length > 0);
    if (books.length === 0) return [];
    const { list } = this.oneOf(books);
    const first = this.below(list.length);
    const { key } = list[first]!;
    const found: Load[] = [];
    for (let i = first; i < list.length && found.length < most; i++)
      if (list[i]!.key === key && [...list[i]!.members].every(({ place }) => !this.isHeld(place))) found.push(list[i]!);
    return found;
  }

  /** Tasks, and mostly all that belongs to the jobs that wait for them. */
  private withFamilies(places: readonly number[]): readonly number[] {
    if (this.random() < 0.4) return places;
    return [...new Set(places.map((place) => this.owner(place)))].flatMap((job) => this.families[job]!);
  }

  /** All that is in a few loads that follow one another. */
  private loads(): Proposal | undefined {
    const places = this.someLoads(1 + this.below(3)).flatMap((load) => placesOf(load));
    return places.length === 0 ? undefined : this.propose([...this.withFamilies(places), ...places]);
  }

  /** Two loads put together, or one's member put with another. */
  private merge(): Proposal | undefined {
    const [one, ...others] = this.someLoads(2 + this.below(3));
    if (!one || others.length === 0) return undefined;
    const other = this.oneOf(others);
    const groups = merged(this.compiled, this.board.loads[one.resource]!, one, other, this.random);
    return groups && this.regroup([...placesOf(one), ...placesOf(other)], groups);
  }

  /** Loads of a like that lie within a week of one another and fit into one, the closest first. */
  fittingPairs(most: number): (readonly [Load, Load])[] {
    const pairs = this.batches.flatMap((resource) => {
      const { list, capacity, maxTasks } = this.board.loads[resource]!;
      return list.flatMap((one, i) =>
        list
          .slice(i + 1)
          .filter(
            (other) =>
              other.key === one.key &&
              other.start - one.start <= 7 * DAY_MIN &&
              one.units + other.units <= capacity &&
              one.members.size + other.members.size <= maxTasks,
          )
          .map((other) => [one, other] as const),
      );
    });
    return pairs.sort(([a, b], [c, d]) => b.start - a.start - (d.start - c.start)).slice(0, most);
  }

  /** Two loads as one, all that hangs on them in the order and the loads that it has. */
  together(one: Load, other: Load): Proposal {
    const all = [...placesOf(one), ...placesOf(other)];
    this.remember();
    return {
      roots: all,
      manner: (out) => {
        this.fill(out, 0, false);
        const others = this.asTheyWere(out).filter((group) => !group.some((place) => all.includes(place)));
        return { order: this.order, thrift: 1, ...this.grouped(out, [all, ...others]) };
      },
    };
  }

  /** One load parted into two. */
  private part(): Proposal | undefined {
    const [load] = this.someLoads(1);
    if (!load || load.members.size < 2) return undefined;
    return this.regroup(placesOf(load), parted(load, this.random));
  }

  private regroup(places: readonly number[], groups: Groups): Proposal | undefined {
    return this.propose([...this.withFamilies(places), ...places], groups);
  }

  /** What starts on one resource within a stretch of time. */
  private stretch(): Proposal | undefined {
    const { tasks } = this.compiled;
    const task = tasks[this.below(tasks.length)]!;
    const resource = task.batch?.resource ?? (task.takes.length > 0 ? this.oneOf(task.takes).resource : undefined);
    if (resource === undefined) return undefined;
    const from = this.board.starts[task.place]!;
    const users = this.users[resource]!.filter((place) => this.board.starts[place]! >= from);
    users.sort((a, b) => this.board.starts[a]! - this.board.starts[b]!);
    return this.propose(users.slice(0, 2 + this.below(Math.min(30, 4 + (tasks.length >> 3)))));
  }

  /** Everything that starts late: the last tasks of the schedule. */
  private rest(): Proposal | undefined {
    const { starts } = this.board;
    const count = Math.min(starts.length, MOST_OUT);
    // The start of about so many from the end, told from a sample.
    const share = (2 + this.below(count)) / starts.length;
    const sample = Float64Array.from({ length: 64 }, () => this.oneOf(starts as unknown as number[])).sort();
    const from = sample[Math.max(0, Math.min(63, Math.round(64 * (1 - share))))]!;
    const late: number[] = [];
    for (let place = 0; place < starts.length; place++) if (starts[place]! >= from) late.push(place);
    return this.propose(late);
  }

  /** Two that follow one another on a resource, on the chain that holds a job's end: the later one goes first. */
  private chain(): Proposal | undefined {
    const { board, compiled } = this;
    const job = this.costly();
    let at: number | undefined;
    for (const place of board.tasksOf[job]!) if (at === undefined || board.ends[place]! > board.ends[at]!) at = place;
    const pairs: [number, number][] = [];
    for (let steps = 0; at !== undefined && steps < 200; steps++) {
      const start: number = board.starts[at]!;
      let before: number | undefined;
      for (const { from, minLag } of compiled.into[at]!) if (board.ends[from]! + minLag === start) before = from;
      if (before === undefined) {
        const blocker = this.endsAt(at, start);
        if (blocker !== undefined) pairs.push([blocker, at]);
        before = blocker;
      }
      if (before === undefined)
        // A calendar or a load is in the way: on with what came last before it.
        for (const { from } of compiled.into[at]!)
          if (before === undefined || board.ends[from]! > board.ends[before]!) before = from;
      at = before;
    }
    if (pairs.length === 0) return undefined;
    const [blocker, later] = this.oneOf(pairs);
    if (this.isHeld(blocker) || this.isHeld(later)) return undefined;
    return this.propose([blocker, later], [], [later, blocker]);
  }

  /** A task that ends on one of the same resources just when another starts. */
  private endsAt(place: number, start: number): number | undefined {
    const task = this.compiled.tasks[place]!;
    for (const { resource } of usesOf(task))
      for (const other of this.users[resource]!) if (other !== place && this.board.ends[other] === start) return other;
    return undefined;
  }

  /** Everything anew, in the order and the loads that it has: what can move up does. */
  private again(): Proposal | undefined {
    const all = [...this.board.starts.keys()].filter((place) => !this.isHeld(place));
    this.remember();
    return {
      roots: all,
      manner: (out) => {
        this.fill(out, 0, false);
        return { order: this.order, thrift: 1, room: 0, ...this.grouped(out, this.asTheyWere(out)) };
      },
    };
  }

  /**
   * A few jobs some time sooner or later than they stand, and all that starts from there on anew in the order that it has:
   * what one job gives up moves all others along, which taking out only the job itself cannot find.
   */
  private shift(): Proposal | undefined {
    const { board } = this;
    const shifts = new Map<number, number>();
    for (let count = 1 + this.below(3); count > 0; count--) {
      const isSooner = this.random() < 0.5;
      const by = this.span * 0.3 * this.random() ** 2;
      shifts.set(isSooner ? this.costly() : this.oneOf(this.owners), isSooner ? -by : by);
    }
    let from = Infinity;
    for (const [job, by] of shifts)
      for (const place of this.families[job]!)
        if (!this.isHeld(place)) from = Math.min(from, board.starts[place]! + Math.min(0, by));
    const roots = [...board.starts.keys()].filter((place) => board.starts[place]! >= from && !this.isHeld(place));
    if (roots.length === 0) return undefined;
    this.remember();
    const thrift = this.oneOf(THRIFTS);
    return {
      roots,
      manner: (out) => {
        for (const place of out) this.order[place] = board.starts[place]! + (shifts.get(this.owner(place)) ?? 0);
        const stay = this.asTheyWere(out).map((group) => group.filter((place) => !shifts.has(this.owner(place))));
        return {
          order: this.order,
          thrift,
          ...this.grouped(
            out,
            stay.filter(({ length }) => length > 1),
          ),
        };
      },
    };
  }

  /** Loads by what was in them when they were last remembered. */
  private remembered = new Map<Load, readonly number[]>();
  private asTheyWere(out: readonly number[]): Groups {
    const taken = new Set(out);
    return [...this.remembered.values()].filter(
      (members) => members.length > 1 && members.every((place) => taken.has(place)),
    );
  }

  /** Keeps in mind which loads the roots are in, since they are gone when the manner is asked for. */
  private remember(): void {
    this.remembered = new Map();
    for (const resource of this.batches)
      for (const load of this.board.loads[resource]!.list) this.remembered.set(load, placesOf(load));
  }

  /** @param groups tasks that are to share a load; @param first tasks that go before all others, in this order */
  private propose(roots: readonly number[], groups: Groups = [], first: readonly number[] = []): Proposal | undefined {
    const free = roots.filter((place) => !this.isHeld(place));
    if (free.length === 0) return undefined;
    const keep = groups.length === 0 && this.batches.length > 0 && this.random() < 0.4;
    const noise = this.random() < 0.25 ? 0 : this.span * 0.5 * this.random() ** 4;
    const byJob = this.random() < 0.5;
    const style = first.length > 0 ? 'kept' : this.oneOf(['rule', 'kept', 'kept', 'jobs'] as const);
    const thrift = this.oneOf(THRIFTS);
    if (keep) this.remember();
    return {
      roots: free,
      manner: (out) => {
        if (style === 'jobs') this.byJobs(out);
        else this.fill(out, first.length > 0 ? 0 : noise, byJob, style === 'rule');
        first.forEach((place, i) => (this.order[place] = -1e9 + i));
        const shared = keep ? this.asTheyWere(out) : groups;
        return { order: this.order, thrift, ...this.grouped(out, shared) };
      },
    };
  }

  private grouped(out: readonly number[], groups: Groups): Pick<Manner, 'groups'> {
    if (groups.length === 0) return {};
    const of = new Int32Array(this.compiled.tasks.length).fill(-1);
    const taken = new Set(out);
    const members = groups.map((group) => group.filter((place) => taken.has(place)));
    members.forEach((group, i) => group.forEach((place) => (of[place] = i)));
    return { groups: { of, members } };
  }

  /** Orders by when they stood or by the rule, with some chance in it, by the job or by the task. */
  private fill(out: readonly number[], noise: number, byJob: boolean, byRule = false): void {
    const shifts = new Map<number, number>();
    for (const place of out) {
      const job = this.owner(place);
      let shift = 0;
      if (noise > 0) {
        shift = byJob ? (shifts.get(job) ?? (this.random() - 0.5) * noise) : (this.random() - 0.5) * noise;
        if (byJob) shifts.set(job, shift);
      }
      this.order[place] = (byRule ? this.urgency.latest[place]! : this.board.starts[place]!) + shift;
    }
  }

  /** One job wholly before the next, in any order. */
  private byJobs(out: readonly number[]): void {
    const ranks = new Map<number, number>();
    for (const place of out) {
      const job = this.owner(place);
      if (!ranks.has(job)) ranks.set(job, this.random());
      this.order[place] = ranks.get(job)! * 1e9 + this.board.starts[place]!;
    }
  }

  /** Afterwards the order is again that of the rule, for what has to make way in other trials. */
  reset(out: readonly number[]): void {
    for (const place of out) this.order[place] = this.urgency.latest[place]!;
  }
}
