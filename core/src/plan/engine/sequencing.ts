import type { Compiled } from '../compile.ts';
import { UNITS_TOLERANCE } from '../problem.ts';
import { chance } from './chance.ts';

/** Moves in one step of the search. */
const MOVES = 50;
/** Moves without a better schedule after which the best one is shaken and gone on from. */
const PATIENCE = 1500;
/** Of the shakes every so often one begins at a schedule shaken much harder. */
const HARD = 6;

/**
 * Whether a problem is one of sequences: every resource serves one task at a time and is always open, there are no loads,
 * no maximum waits, nothing fixed, and the last finish counts. Such a job shop has a search of its own.
 */
export function isSequencing({ tasks, into, resources, problem }: Compiled): boolean {
  return (
    (problem.objective.makespan ?? 0) > 0 &&
    tasks.every(
      (task) =>
        task.open === null &&
        task.fixed === null &&
        task.batch === null &&
        task.takes.length <= 1 &&
        task.takes.every(({ resource, units }) => 2 * units > resources[resource]!.capacity + UNITS_TOLERANCE) &&
        into[task.place]!.every(({ maxLag }) => maxLag === Infinity),
    )
  );
}

/** Whether nothing but the last finish counts. */
export function isMakespanAlone({ problem }: Compiled): boolean {
  const { tardiness = 0, flow = 0 } = problem.objective;
  return flow === 0 && (tardiness === 0 || problem.jobs.every(({ due }) => due === undefined));
}

/**
 * Tabu search over the sequences of a job shop: two neighbours at the edge of a block on a critical path change places,
 * judged by the longest path through them (E. Nowicki and C. Smutnicki, "A fast taboo search algorithm for the job shop
 * problem", 1996; E. Taillard's estimate, 1994). The same seed gives the same search.
 */
export class Sequencing {
  /** The best schedule's starts. */
  readonly bestStarts: Float64Array;
  best: number;
  private readonly random: () => number;
  private readonly count: number;
  private readonly duration: Float64Array;
  private readonly earliest: Float64Array;
  /** The tasks before and after each one on its resource; −1 where there is none. */
  private readonly before: Int32Array;
  private readonly after: Int32Array;
  private readonly bestBefore: Int32Array;
  private readonly bestAfter: Int32Array;
  private readonly head: Float64Array;
  /** From a task's start to the end of all that follows from it. */
  private readonly tail: Float64Array;
  private readonly order: Int32Array;
  private readonly waiting: Int32Array;
  /** Until which move two tasks may not be put in this order again, by the pair. */
  private readonly tabu = new Map<number, number>();
  private length = 0;
  private moves = 0;
  private lastBetter = 0;
  private shakes = 0;

  constructor(
    private readonly compiled: Compiled,
    starts: Float64Array,
    seed: number,
  ) {
    const { tasks, resources } = compiled;
    this.random = chance(seed);
    this.count = tasks.length;
    this.duration = Float64Array.from(tasks, ({ duration }) => duration);
    this.earliest = Float64Array.from(tasks, ({ earliest }) => earliest);
    this.before = new Int32Array(this.count).fill(-1);
    this.after = new Int32Array(this.count).fill(-1);
    this.head = new Float64Array(this.count);
    this.tail = new Float64Array(this.count);
    this.order = new Int32Array(this.count);
    this.waiting = new Int32Array(this.count);
    const rank = new Int32Array(this.count);
    compiled.order.forEach((place, i) => (rank[place] = i));
    resources.forEach((_, resource) => {
      // What takes no time holds nothing, so its turn does not matter.
      const users = tasks.filter(({ takes, duration }) => duration > 0 && takes[0]?.resource === resource);
      users.sort((a, b) => starts[a.place]! - starts[b.place]! || rank[a.place]! - rank[b.place]!);
      for (let i = 1; i < users.length; i++) {
        this.before[users[i]!.place] = users[i - 1]!.place;
        this.after[users[i - 1]!.place] = users[i]!.place;
      }
    });
    this.measure();
    this.best = this.length;
    this.bestStarts = this.head.slice();
    this.bestBefore = this.before.slice();
    this.bestAfter = this.after.slice();
  }

  /** Some moves. @returns whether a better schedule was found */
  step(): boolean {
    const best = this.best;
    for (let i = 0; i < MOVES; i++) this.move();
    return this.best < best;
  }

  private move(): void {
    this.moves++;
    if (this.moves - this.lastBetter > PATIENCE) this.shake();
    const pair = this.choose();
    if (pair === undefined) return;
    const [first, second] = pair;
    this.swap(first, second);
    this.tabu.set(first * this.count + second, this.moves + 8 + Math.floor(this.random() * 10));
    if (!this.measure()) {
      this.swap(second, first);
      this.measure();
      return;
    }
    if (this.length >= this.best) return;
    this.best = this.length;
    this.lastBetter = this.moves;
    this.bestStarts.set(this.head);
    this.bestBefore.set(this.before);
    this.bestAfter.set(this.after);
  }

  /** From the best schedule on, with some critical neighbours swapped at random. */
  private shake(): void {
    this.before.set(this.bestBefore);
    this.after.set(this.bestAfter);
    this.measure();
    this.tabu.clear();
    this.lastBetter = this.moves;
    const swaps = ++this.shakes % HARD === 0 ? 60 : 4 + Math.floor(this.random() * 12);
    for (let i = 0; i < swaps; i++) {
      const pairs = this.critical();
      if (pairs.length === 0) return;
      const [first, second] = pairs[Math.floor(this.random() * pairs.length)]!;
      this.swap(first, second);
      if (this.measure()) continue;
      this.swap(second, first);
      this.measure();
    }
  }

  /** The best pair to swap that is not tabu, or that would beat the best schedule; any where all are tabu. */
  private choose(): [number, number] | undefined {
    const pairs = this.critical();
    let chosen: [number, number] | undefined;
    let least = Infinity;
    for (const pair of pairs) {
      const [first, second] = pair;
      const estimate = this.estimate(first, second);
      const isTabu = (this.tabu.get(second * this.count + first) ?? 0) > this.moves;
      if ((isTabu && estimate >= this.best) || estimate >= least) continue;
      least = estimate;
      chosen = pair;
    }
    return chosen ?? (pairs.length > 0 ? pairs[Math.floor(this.random() * pairs.length)] : undefined);
  }

  /** Neighbours at the edges of the blocks of one critical path, of which there may be several. */
  private critical(): [number, number][] {
    const { head, tail, duration, before, compiled } = this;
    let at = -1;
    let ties = 0;
    for (let place = 0; place < this.count; place++)
      if (head[place]! + tail[place]! >= this.length && head[place]! + duration[place]! >= this.length)
        if (this.random() * ++ties < 1) at = place;
    const path: number[] = [];
    while (at >= 0) {
      path.push(at);
      let next = -1;
      let choices = 0;
      const machine = before[at]!;
      if (machine >= 0 && head[machine]! + duration[machine]! === head[at]) {
        next = machine;
        choices = 1;
      }
      for (const { from, minLag } of compiled.into[at]!)
        if (head[from]! + duration[from]! + minLag === head[at] && this.random() * ++choices < 1) next = from;
      at = next;
    }
    path.reverse();
    const pairs: [number, number][] = [];
    for (let i = 0; i < path.length;) {
      let j = i;
      while (j + 1 < path.length && before[path[j + 1]!] === path[j]!) j++;
      // In the first block the beginning, in the last the end cannot be made better by a swap.
      if (j > i) {
        if (i > 0) pairs.push([path[i]!, path[i + 1]!]);
        if (j < path.length - 1 && (j > i + 1 || i === 0)) pairs.push([path[j - 1]!, path[j]!]);
      }
      i = j + 1;
    }
    return pairs;
  }

  /** The longest path through two neighbours if they changed places. */
  private estimate(first: number, second: number): number {
    const { head, tail, duration, before, after, compiled, earliest } = this;
    const ahead = (place: number, machine: number, machineHead: number): number => {
      let start = earliest[place]!;
      if (machine >= 0) start = Math.max(start, machineHead);
      for (const { from, minLag } of compiled.into[place]!)
        start = Math.max(start, head[from]! + duration[from]! + minLag);
      return start;
    };
    const behind = (place: number, machine: number): number => {
      let rest = machine;
      for (const { to, minLag } of compiled.out[place]!) rest = Math.max(rest, tail[to]! + minLag);
      return rest + duration[place]!;
    };
    const pre = before[first]!;
    const post = after[second]!;
    const secondHead = ahead(second, pre, pre >= 0 ? head[pre]! + duration[pre]! : 0);
    const firstHead = ahead(first, second, secondHead + duration[second]!);
    const firstTail = behind(first, post >= 0 ? tail[post]! : 0);
    const secondTail = behind(second, firstTail);
    return Math.max(secondHead + secondTail, firstHead + firstTail);
  }

  private swap(first: number, second: number): void {
    const { before, after } = this;
    const [pre, post] = [before[first]!, after[second]!];
    before[second] = pre;
    after[second] = first;
    before[first] = second;
    after[first] = post;
    if (pre >= 0) after[pre] = second;
    if (post >= 0) before[post] = first;
  }

  /** Works out heads, tails and length. @returns false where the sequences contradict the links */
  private measure(): boolean {
    const { compiled, before, after, head, tail, order, waiting, duration, count } = this;
    let filled = 0;
    for (let place = 0; place < count; place++) {
      waiting[place] = compiled.into[place]!.length + (before[place]! >= 0 ? 1 : 0);
      if (waiting[place] === 0) order[filled++] = place;
    }
    this.length = 0;
    for (let i = 0; i < filled; i++) {
      const place = order[i]!;
      let start = this.earliest[place]!;
      const machine = before[place]!;
      if (machine >= 0) start = Math.max(start, head[machine]! + duration[machine]!);
      for (const { from, minLag } of compiled.into[place]!)
        start = Math.max(start, head[from]! + duration[from]! + minLag);
      head[place] = start;
      if (start + duration[place]! > this.length) this.length = start + duration[place]!;
      for (const { to } of compiled.out[place]!) if (--waiting[to]! === 0) order[filled++] = to;
      const next = after[place]!;
      if (next >= 0 && --waiting[next]! === 0) order[filled++] = next;
    }
    if (filled < count) return false;
    for (let i = count - 1; i >= 0; i--) {
      const place = order[i]!;
      const next = after[place]!;
      let rest = next >= 0 ? tail[next]! : 0;
      for (const { to, minLag } of compiled.out[place]!) rest = Math.max(rest, tail[to]! + minLag);
      tail[place] = rest + duration[place]!;
    }
    return true;
  }
}
