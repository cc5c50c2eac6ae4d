import type { Arc, Compiled, Task } from '../compile.ts';
import { startByNeeds } from '../load-rules.ts';
import { earliestStartToEnd, endOf } from '../openings.ts';
import { LAST_MINUTE, UNITS_TOLERANCE } from '../problem.ts';
import { relaxed } from '../relax.ts';
import { earliestOf } from '../task-start.ts';
import type { Board } from './board.ts';
import type { Foresight } from './foresight.ts';
import { Heap } from './heap.ts';
import type { Load, Loads } from './loads.ts';
import type { Wanted } from './machines.ts';
import type { Urgency } from './priority.ts';

/** How often a task may be put, on average, before an insertion is given up. */
const MOST_PUTS = 60;
const FEW_PUTS = 2000;
/** How many minutes a load of several may be tried at. */
const MOST_LOOKS = 3000;

/** How tasks are put. */
export interface Manner {
  /** What comes first: smaller is sooner. */
  readonly order: Float64Array;
  /** By what factor saving a load counts when a task weighs joining one against going alone. */
  readonly thrift: number;
  /**
   * Where setting up takes longer the more a load holds: for what share of all that it could hold a new load is left time. One
   * that begins as soon as its first task could be set up takes no other.
   */
  readonly room?: number;
  /** Tasks that do not start before a minute, though they could; NaN where they may. */
  readonly notBefore?: Float64Array;
  /** Tasks that are to share one load, by the task; −1 or absent where it is free. */
  readonly groups?: { readonly of: Int32Array; readonly members: readonly (readonly number[])[] };
}

type Held = Pick<Load, 'resource' | 'start' | 'end'>;

interface Spot {
  readonly start: number;
  readonly end: number;
  readonly load?: Load;
}

/**
 * Puts tasks on a board that may hold others: again and again the most urgent task whose predecessors are put goes to the
 * first place where its calendars, its resources and a load let it start. Where it would then be too late after one before
 * it, that one is taken out with all that followed from it and has to start later (after R. Kolisch, "Serial and parallel
 * resource-constrained project scheduling methods revisited", and the unscheduling step of B. Franck, K. Neumann and
 * C. Schwindt for maximum lags). A task in loads joins one where what that saves is worth the wait, and what comes before
 * it is then moved with it.
 */
export class Inserter {
  private readonly soonest: Float64Array;
  private readonly earliest: Float64Array;
  private readonly raised: number[] = [];
  private readonly soon: Float64Array;
  private readonly heap: Heap;
  private readonly isHeld: Uint8Array;
  private manner!: Manner;
  /** How often each task had to make room, for saying which are the tightest. */
  private readonly pushed = new Map<number, number>();
  private stuck: number | undefined;
  private foresight: Foresight | undefined;
  private isHopeless = false;

  constructor(
    private readonly compiled: Compiled,
    private readonly board: Board,
    private readonly urgency: Urgency,
  ) {
    const { tasks } = compiled;
    // No schedule has a task sooner than links, lags and hours alone allow: maximum waits are kept from the start.
    this.soonest = relaxed(compiled).starts;
    this.earliest = this.soonest.slice();
    this.soon = new Float64Array(tasks.length);
    this.isHeld = Uint8Array.from(tasks, ({ fixed }) => (fixed !== null ? 1 : 0));
    this.heap = new Heap((a, b) => {
      const less = this.soon[a]! - this.soon[b]!;
      return less !== 0 ? less < 0 : a < b;
    });
  }

  /** Whether a task stays where it is. */
  held(place: number): boolean {
    return this.isHeld[place] === 1;
  }

  /** What is fixed stands where it is, each in a load with those of the same start. @returns those that do not fit */
  putFixed(): number[] {
    const { board } = this;
    const fixed = this.compiled.tasks.filter((task) => task.fixed !== null);
    // The longest first: the others can share its load.
    fixed.sort((a, b) => b.duration - a.duration || a.place - b.place);
    // Where a load's setup depends on the one before it, that one has to stand first.
    const isOrdered = ({ batch }: Task) => batch !== null && this.compiled.loadRules[batch.resource]!.isOrdered;
    fixed.sort((a, b) =>
      isOrdered(a) && isOrdered(b) ? a.fixed! - b.fixed! : Number(isOrdered(a)) - Number(isOrdered(b)),
    );
    for (const task of fixed) {
      const start = task.fixed!;
      const end = endOf(task.open, task.spans, start, task.duration);
      if (task.batch) {
        const load = board.loads[task.batch.resource]!.forFixed(task, start, end);
        if (!load || (isNew(load) && this.cannotHold(load, [task]) !== undefined)) return [task.place];
        board.place(task.place, start, load.end, load);
      } else {
        for (const { resource, units } of task.takes)
          if (board.profiles[resource]!.blockedUntil(start, end, units) !== undefined) return [task.place];
        board.place(task.place, start, end, null);
      }
    }
    return [];
  }

  /**
   * Keeps a task for good where it was, if everything before it is kept and all rules allow it.
   * @returns whether it is kept
   */
  hold(place: number, start: number): boolean {
    const { board, compiled } = this;
    const task = compiled.tasks[place]!;
    const fits = compiled.into[place]!.every(
      ({ from, minLag, maxLag }) =>
        this.isHeld[from] && start >= board.ends[from]! + minLag && start <= board.ends[from]! + maxLag,
    );
    if (!fits || start < task.earliest || earliestOf(task, start, task.duration) !== start) return false;
    const own = endOf(task.open, task.spans, start, task.duration);
    const load = task.batch ? board.loads[task.batch.resource]!.forFixed(task, start, own) : null;
    if (load === undefined) return false;
    const end = load?.end ?? own;
    if (!(end <= LAST_MINUTE) || this.blockedUntil(task, start, end) !== undefined) return false;
    if (load && isNew(load) && this.heldUntil(load, [task]) !== undefined) return false;
    board.place(place, start, end, load);
    this.isHeld[place] = 1;
    return true;
  }

  /**
   * Takes tasks out with all that follows from them. @returns what was taken out, or nothing where one of them is held
   */
  takeOut(places: Iterable<number>): number[] | undefined {
    const { board, compiled } = this;
    const stack = [...places];
    const out: number[] = [];
    while (stack.length > 0) {
      const place = stack.pop()!;
      if (!board.put[place]) continue;
      if (this.isHeld[place]) return undefined;
      // Those that follow go first: a task is only lifted when nothing put hangs on it.
      const after = compiled.out[place]!.filter(({ to }) => board.put[to]);
      if (after.length > 0) {
        stack.push(place);
        for (const { to } of after) stack.push(to);
        continue;
      }
      const load = board.loadOf[place];
      board.lift(place);
      out.push(place);
      // Mates of a load that runs shorter without it have to leave it too.
      const wrong = load?.members.size === 0 ? board.loads[load.resource]!.wrongWithout(load) : undefined;
      for (const mate of wrong?.members ?? []) stack.push(mate.place);
      if (load && load.members.size > 0 && [...load.members].every(({ duration }) => duration < load.duration))
        for (const mate of load.members) stack.push(mate.place);
    }
    return out;
  }

  /**
   * Puts tasks that are not put, and those that have to make way for them.
   * @param foresight breaks off where it will cost too much
   * @returns whether the board is full again; if not, some are left out
   */
  putAll(places: readonly number[], manner: Manner, foresight?: Foresight): boolean {
    const { board, heap } = this;
    this.manner = manner;
    this.stuck = undefined;
    this.foresight = foresight;
    this.isHopeless = false;
    heap.clear();
    for (const place of this.raised.splice(0)) this.earliest[place] = this.soonest[place]!;
    let left = 0;
    for (const place of places) {
      if (board.put[place]) continue;
      left++;
      if (board.waiting[place] === 0) this.ready(place);
    }
    let puts = MOST_PUTS * left + FEW_PUTS;
    while (heap.size > 0) {
      const place = heap.pop()!;
      if (board.put[place] || board.waiting[place]! > 0) continue;
      if (puts-- < 0) return false;
      const group = manner.groups?.of[place] ?? -1;
      if (!(group < 0 ? this.putOne(place) : this.putGroup(manner.groups!.members[group]!))) {
        this.stuck = place;
        return false;
      }
      if (this.isHopeless) return false;
    }
    return board.putCount === board.put.length;
  }

  /** The task that found no place at all or in time, where the last insertion was given up for one. */
  get stuckAt(): number | undefined {
    return this.stuck;
  }

  /** The tasks that stood in the way of the last insertion. */
  tightest(): number[] {
    if (this.stuck !== undefined) return [this.stuck];
    return [...this.pushed]
      .sort((a, b) => b[1] - a[1] || a[0] - b[0])
      .slice(0, 8)
      .map(([place]) => place);
  }

  private ready(place: number): void {
    this.soon[place] = Math.min(this.manner.order[place]!, this.latestFor(place));
    this.heap.push(place);
  }

  private earliestFor(place: number): number {
    let earliest = this.earliest[place]!;
    const notBefore = this.manner.notBefore?.[place];
    if (notBefore !== undefined && notBefore > earliest) earliest = notBefore;
    for (const { from, minLag } of this.compiled.into[place]!) {
      const after = this.board.ends[from]! + minLag;
      if (after > earliest) earliest = after;
    }
    return earliest;
  }

  private latestFor(place: number): number {
    let latest = Infinity;
    for (const { from, maxLag } of this.compiled.into[place]!) {
      const until = this.board.ends[from]! + maxLag;
      if (until < latest) latest = until;
    }
    return latest;
  }

  /** False where it can never be put. */
  private putOne(place: number): boolean {
    const task = this.compiled.tasks[place]!;
    const from = this.earliestFor(place);
    const found = task.batch ? this.spotInLoad(task, from) : this.spotAlone(task, from);
    if (!found) return false;
    if (found.start > this.latestFor(place)) return this.pushBack([place], this.soonestBeyond(task, found.start));
    this.commit(task, found);
    return true;
  }

  /**
   * The least start of a task that came too late. Where it follows a load of its own machine, that load can leave the machine
   * warm by moving a little, so what was found is no bound.
   */
  private soonestBeyond(task: Task, found: number): number {
    const { into, tasks, loadRules } = this.compiled;
    const isOwn = ({ from, maxLag }: Arc) => maxLag < Infinity && tasks[from]!.batch?.resource === task.batch!.resource;
    if (!task.batch || !loadRules[task.batch.resource]!.isOrdered || !into[task.place]!.some(isOwn)) return found;
    return Math.min(found, earliestOf(task, this.latestFor(task.place) + 1, task.duration));
  }

  private commit(task: Task, { start, end, load }: Spot): void {
    const { board } = this;
    const own = task.batch
      ? (load ?? board.loads[task.batch.resource]!.create({ start, end, ...task.batch }, task.duration))
      : null;
    board.place(task.place, start, end, own);
    this.readyAfter(task.place);
  }

  private readyAfter(place: number): void {
    if (this.foresight?.note(place, this.board.ends[place]!)) this.isHopeless = true;
    for (const { to } of this.compiled.out[place]!)
      if (!this.board.put[to] && this.board.waiting[to] === 0) this.ready(to);
  }

  /** Puts tasks that share a load, once all of them are ready. */
  private putGroup(members: readonly number[]): boolean {
    const { board } = this;
    if (members.some((place) => board.put[place] || board.waiting[place]! > 0)) return true;
    const tasks = members.map((place) => this.compiled.tasks[place]!);
    const duration = Math.max(...tasks.map((task) => task.duration));
    const { batch } = tasks[0]!;
    const units = tasks.reduce((sum, task) => sum + task.batch!.units, 0);
    const found = this.spotTogether(tasks, { units, key: batch!.key }, duration);
    if (!found) return false;
    const late = members.filter((place) => found.start > this.latestFor(place));
    if (late.length > 0) return this.pushBack(late, found.start);
    const book = board.loads[batch!.resource]!;
    // Whoever put them together may have thought of loads that take no time.
    if (found.end > found.start && units > book.capacity + UNITS_TOLERANCE) return false;
    const load = book.create({ ...found, units, key: batch!.key }, duration);
    for (const { place } of tasks) board.place(place, found.start, found.end, load);
    for (const place of members) this.readyAfter(place);
    return true;
  }

  private spotTogether(tasks: readonly Task[], load: Pick<Load, 'units' | 'key'>, duration: number): Spot | undefined {
    const { board } = this;
    const book = board.loads[tasks[0]!.batch!.resource]!;
    let minute = Math.max(...tasks.map(({ place }) => this.earliestFor(place)));
    for (let looks = 0; looks < MOST_LOOKS; looks++) {
      let start = minute;
      for (const task of tasks) start = Math.max(start, earliestOf(task, start, duration));
      if (start === Infinity) return undefined;
      const end = endOf(tasks[0]!.open, tasks[0]!.spans, start, duration);
      if (end > LAST_MINUTE) return undefined;
      const isCommon = tasks.every(
        (task) => earliestOf(task, start, duration) === start && endOf(task.open, task.spans, start, duration) === end,
      );
      let until = isCommon ? undefined : start + 1;
      // Ordinary needs of several members can add up beyond what is free for each of them alone.
      if (isCommon) {
        const wanted = { start, end, ...load };
        until = later(this.blockedTogether(tasks, start, end), this.loadBlockedUntil(book, wanted, tasks));
      }
      if (until === undefined) return { start, end };
      minute = Math.max(until, start + 1);
    }
    return undefined;
  }

  private blockedTogether(tasks: readonly Task[], start: number, end: number): number | undefined {
    const units = new Map<number, number>();
    for (const { takes } of tasks)
      for (const take of takes) units.set(take.resource, (units.get(take.resource) ?? 0) + take.units);
    let until: number | undefined;
    for (const [resource, sum] of units)
      until = later(until, this.board.profiles[resource]!.blockedUntil(start, end, sum));
    return until;
  }

  /**
   * Tasks that would start too late after something before them: those before have to end later. They and what followed
   * from them are taken out, and so on backwards along the maximum waits. @returns false where that cannot be
   */
  private pushBack(places: readonly number[], start: number): boolean {
    const { board, compiled } = this;
    const out = new Set<number>(places);
    const stack: [place: number, start: number][] = places.map((place) => [place, start]);
    for (const place of places) if (compiled.tasks[place]!.batch) this.raise(place, start);
    while (stack.length > 0) {
      const [place, until] = stack.pop()!;
      for (const { from, maxLag } of compiled.into[place]!) {
        if (maxLag === Infinity || board.ends[from]! + maxLag >= until) continue;
        const before = compiled.tasks[from]!;
        if (this.isHeld[from]) return false;
        const minute = earliestStartToEnd(before.open, before.spans, until - maxLag, before.duration);
        if (minute === Infinity || minute > LAST_MINUTE) return false;
        // It may have been moved for another of those that follow it already.
        const raised = Math.max(minute, (board.put[from] ? board.starts[from]! : this.earliest[from]! - 1) + 1);
        this.raise(from, raised);
        this.pushed.set(from, (this.pushed.get(from) ?? 0) + 1);
        const taken = this.takeOut([from]);
        if (!taken) return false;
        for (const each of taken) out.add(each);
        out.add(from);
        stack.push([from, raised]);
      }
    }
    for (const place of out) if (!board.put[place] && board.waiting[place] === 0) this.ready(place);
    return true;
  }

  private raise(place: number, minute: number): void {
    if (minute <= this.earliest[place]!) return;
    this.earliest[place] = minute;
    this.raised.push(place);
  }

  private spotAlone(task: Task, from: number): Spot | undefined {
    for (let minute = from; ;) {
      const start = earliestOf(task, minute, task.duration);
      const end = endOf(task.open, task.spans, start, task.duration);
      if (!(end <= LAST_MINUTE)) return undefined;
      const blocked = this.blockedUntil(task, start, end);
      if (blocked === undefined) return { start, end };
      minute = blocked;
    }
  }

  /** The latest minute until which any of the task's own resources is taken; undefined where all are free. */
  private blockedUntil(task: Task, start: number, end: number): number | undefined {
    let until: number | undefined;
    for (const { resource, units } of task.takes)
      until = later(until, this.board.profiles[resource]!.blockedUntil(start, end, units));
    return until;
  }

  /** The first minute to look at again, where no machine is free for a load, or not what it holds. */
  private loadBlockedUntil(book: Loads, load: Wanted, members: readonly Task[]): number | undefined {
    return later(book.blockedUntil(load), this.heldUntil({ ...load, resource: book.place }, members));
  }

  /** The same by the hours and the use of what a load holds once; undefined where it may hold all of it. */
  private heldUntil(load: Held, members: readonly Task[]): number | undefined {
    const rule = this.compiled.loadRules[load.resource]!;
    if (rule.needs.length === 0) return undefined;
    const isUnbroken = members.some(({ spans }) => spans === 'unbroken');
    const from = startByNeeds(rule, load.start, load.end, isUnbroken);
    return later(from > load.start ? from : undefined, this.cannotHold(load, members));
  }

  /** The same by what is in use alone: the hours do not bind what is fixed. */
  private cannotHold({ resource, start, end }: Held, members: readonly Task[]): number | undefined {
    const { profiles } = this.board;
    let until: number | undefined;
    for (const { resource: held, units, before } of this.compiled.loadRules[resource]!.needs) {
      const taken = profiles[held]!.blockedUntil(start - before, end, units);
      if (taken !== undefined) until = later(until, taken + before);
      // Members that need some of the same need it beside what their load holds.
      const own = members.reduce(
        (sum, { takes }) => sum + (takes.find((take) => take.resource === held)?.units ?? 0),
        0,
      );
      if (own > 0) until = later(until, profiles[held]!.blockedUntil(start, end, units + own));
    }
    return until;
  }

  /** Alone as soon as possible, or in a load that is there, whichever costs less by what is known of the task. */
  private spotInLoad(task: Task, from: number): Spot | undefined {
    const { objective } = this.compiled.problem;
    const book = this.board.loads[task.batch!.resource]!;
    const alone = this.spotInNewLoad(task, book, from);
    const saved = (objective.loads ?? 0) * book.cost * this.manner.thrift;
    const due = this.urgency.latest[task.place]!;
    const weight = this.urgency.weight[task.place]!;
    const cost = (start: number) =>
      weight * ((objective.flow ?? 0) * start + (objective.tardiness ?? 0) * Math.max(0, start - due));
    let best = alone;
    let least = alone ? cost(alone.start) + saved : Infinity;
    for (let i = book.from(from); i < book.list.length; i++) {
      const load = book.list[i]!;
      if (best && (load.start > (alone?.start ?? Infinity) || best.load) && cost(load.start) >= least) break;
      if (!book.takes(load, task)) continue;
      if (earliestOf(task, load.start, load.duration) !== load.start) continue;
      if (endOf(task.open, task.spans, load.start, load.duration) !== load.end) continue;
      if (this.blockedUntil(task, load.start, load.end) !== undefined) continue;
      best = { start: load.start, end: load.end, load };
      least = cost(load.start);
    }
    return best;
  }

  /** With time for more in it, unless the task would then be too late. */
  private spotInNewLoad(task: Task, book: Loads, from: number): Spot | undefined {
    const { room = 0 } = this.manner;
    const own = task.batch!.units;
    const wanted = book.rule.perUnit > 0 ? Math.max(own, room * book.capacity) : own;
    const found = this.spotForUnits(task, book, from, wanted);
    const isLate = wanted > own && (!found || found.start > this.latestFor(task.place));
    return isLate ? this.spotForUnits(task, book, from, own) : found;
  }

  private spotForUnits(task: Task, book: Loads, from: number, units: number): Spot | undefined {
    for (let minute = from; ;) {
      const start = earliestOf(task, minute, task.duration);
      const end = endOf(task.open, task.spans, start, task.duration);
      if (!(end <= LAST_MINUTE)) return undefined;
      const wanted = { start, end, ...task.batch!, units };
      const until = later(this.blockedUntil(task, start, end), this.loadBlockedUntil(book, wanted, [task]));
      if (until === undefined) return { start, end };
      minute = Math.max(until, start + 1);
    }
  }
}

const isNew = ({ members }: Load): boolean => members.size === 0;

const later = (one: number | undefined, other: number | undefined): number | undefined =>
  one === undefined ? other : other === undefined ? one : Math.max(one, other);
