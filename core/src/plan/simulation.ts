import type { Compiled } from './compile.ts';
import { handovers } from './lanes.ts';
import type { Openings } from './openings.ts';
import { earliestStart, endOf } from './openings.ts';
import type { PlanTask, Schedule, ScheduledTask } from './problem.ts';
import { LAST_MINUTE } from './problem.ts';
import { earliestOf } from './task-start.ts';

/** By how much durations differ where neither the task nor its room says: one standard deviation, as a share. */
export const DEFAULT_SPREAD = 0.2;

/** What share comes through each room at the first try, where the shop's own history does not say (handbook, section 4). */
export const FIRST_PASS_YIELD: Readonly<Record<string, number>> = {
  wax: 0.95,
  shell: 0.97,
  burnout: 0.98,
  pour: 0.96,
  chasing: 0.94,
};

/** Losses of one thing in a row that are followed up. */
export const MOST_LOSSES = 4;
/** Where wax and shell are made, which a loss takes along. */
const WAX_ROOMS: ReadonlySet<string> = new Set(['wax', 'sprue', 'shell']);
/** How many durations are drawn beforehand: they are then dealt like cards. */
export const CARDS = 4096;

/** What has to wait for what, in flat lists: those of one node or task lie between its place in `…At` and the next. */
interface Net {
  /** The tasks of each node; nodes are in an order that puts each after what it waits for. */
  readonly memberAt: Int32Array;
  readonly members: Int32Array;
  /** The tasks that each task waits for, and how long after them. */
  readonly waitAt: Int32Array;
  readonly waitFor: Int32Array;
  readonly waitLag: Float64Array;
  /** The nodes that each node follows on a resource, and the minutes between. */
  readonly behindAt: Int32Array;
  readonly behind: Int32Array;
  readonly gaps: Float64Array;
  /** Minutes right before each node in which its machine is set up, and when that may go on. */
  readonly lead: Float64Array;
  readonly leadOpen: readonly Openings[];
}

function netOf(compiled: Compiled, placed: readonly ScheduledTask[]): Net {
  const { tasks, into } = compiled;
  const rank = new Int32Array(tasks.length);
  compiled.order.forEach((place, i) => (rank[place] = i));
  const inTime = tasks
    .map(({ place }) => place)
    .sort((a, b) => placed[a]!.start - placed[b]!.start || rank[a]! - rank[b]!);
  const loadNode = new Map<string, number>();
  const nodes: number[][] = [];
  const nodeOf = new Int32Array(tasks.length);
  for (const place of inTime) {
    const { load } = placed[place]!;
    const known = load === undefined ? undefined : loadNode.get(load);
    const node = known ?? nodes.push([]) - 1;
    if (load !== undefined) loadNode.set(load, node);
    nodes[node]!.push(place);
    nodeOf[place] = node;
  }
  const passed = handovers(compiled, placed, ({ place }) => nodeOf[place]!);
  const links = tasks.flatMap(({ place }) =>
    into[place]!.map(({ from }) => ({ from: nodeOf[from]!, to: nodeOf[place]! })),
  );
  // Nodes that take no time can stand at one minute in any order: what is handed on says which comes first.
  const order = orderOf(nodes.length, [...links, ...passed]);
  const newNode = new Int32Array(nodes.length);
  order.forEach((node, i) => (newNode[node] = i));
  const behind: Map<number, number>[] = order.map(() => new Map());
  const lead = new Float64Array(nodes.length);
  const leadOpen: Openings[] = order.map(() => null);
  for (const { from, to, resource, gap } of passed) {
    const node = newNode[to]!;
    if (tasks[nodes[to]![0]!]!.fixed !== null) continue;
    behind[node]!.set(newNode[from]!, Math.max(gap, behind[node]!.get(newNode[from]!) ?? 0));
    const rule = compiled.loadRules[resource];
    if (!rule || rule.open === null) continue;
    lead[node] = gap;
    leadOpen[node] = rule.open;
  }
  const [memberAt, members] = flat(order.map((node) => nodes[node]!));
  const [waitAt, waitFor] = flat(into.map((arcs) => arcs.map(({ from }) => from)));
  const [behindAt, behindList] = flat(behind.map((each) => [...each.keys()]));
  const gaps = Float64Array.from(behind.flatMap((each) => [...each.values()]));
  const waitLag = Float64Array.from(into.flatMap((arcs) => arcs.map(({ minLag }) => minLag)));
  return { memberAt, members, waitAt, waitFor, waitLag, behindAt, behind: behindList, gaps, lead, leadOpen };
}

/** Lists one after another, and where each begins. */
function flat(lists: readonly (readonly number[])[]): [at: Int32Array, all: Int32Array] {
  const at = new Int32Array(lists.length + 1);
  lists.forEach((list, i) => (at[i + 1] = at[i]! + list.length));
  return [at, Int32Array.from(lists.flat())];
}

/** A schedule as a net of what has to wait for what, flat, so that a run costs little. A node is a task or a load. */
export class Simulation {
  readonly finish: Float64Array;
  readonly planned: Float64Array;
  protected readonly ends: Float64Array;
  /** When what a task worked on is there: later than its end where it was lost. */
  private readonly there: Float64Array;
  private readonly nodeEnds: Float64Array;
  protected readonly starts: Float64Array;
  protected readonly durations: Float64Array;
  protected readonly fixed: Uint8Array;
  private readonly jobs: Int32Array;
  private readonly net: Net;
  private readonly cards = new Map<number, Float64Array>();
  protected readonly deck: readonly Float64Array[];
  protected readonly loss: Float64Array;
  protected readonly detour: Float64Array;

  constructor(
    protected readonly compiled: Compiled,
    schedule: Schedule,
  ) {
    const { tasks, problem } = compiled;
    const placedById = new Map(schedule.tasks.map((task) => [task.id, task]));
    const placed = tasks.map(({ id }) => {
      const found = placedById.get(id);
      if (!found) throw new RangeError(`the schedule does not have the task ${id}`);
      return found;
    });
    this.starts = Float64Array.from(placed, ({ start }) => start);
    this.ends = Float64Array.from(placed, ({ end }) => end);
    this.there = new Float64Array(tasks.length);
    this.finish = new Float64Array(problem.jobs.length);
    this.planned = new Float64Array(problem.jobs.length).fill(-Infinity);
    for (const { job, place } of tasks) this.planned[job] = Math.max(this.planned[job]!, this.ends[place]!);

    this.durations = Float64Array.from(tasks, ({ duration }) => duration);
    this.fixed = Uint8Array.from(tasks, ({ fixed }) => (fixed === null ? 0 : 1));
    this.jobs = Int32Array.from(tasks, ({ job }) => job);
    this.net = netOf(compiled, placed);
    this.nodeEnds = new Float64Array(this.net.lead.length);
    this.deck = problem.tasks.map(({ spread }) => this.cardsOf(spread ?? DEFAULT_SPREAD));
    this.loss = lossesOf(compiled);
    this.detour = this.detours();
  }

  /** Factors of durations, dealt at random: the quantiles of a lognormal with the middle 1. */
  private cardsOf(spread: number): Float64Array {
    const known = this.cards.get(spread);
    if (known) return known;
    const width = Math.log(1 + spread);
    const cards = Float64Array.from({ length: CARDS }, (_, i) => Math.exp(width * normalQuantile((i + 0.5) / CARDS)));
    this.cards.set(spread, cards);
    return cards;
  }

  /** How much longer what hangs on a task waits when what it worked on is lost: as long as its chain took to get there. */
  private detours(): Float64Array {
    return Float64Array.from(this.compiled.tasks, ({ place }) =>
      this.loss[place] === 0 ? 0 : this.ends[place]! - this.starts[this.chainTo(place)[0]!]! + this.redo(place),
    );
  }

  /** The tasks that made what a task works on, the first first, itself last. */
  protected chainTo(place: number): number[] {
    const chain = [place];
    for (let next = this.madeFrom(place); next !== undefined; next = this.madeFrom(next)) chain.unshift(next);
    return chain;
  }

  /** Minutes that making again takes of what was done before the plan. */
  protected redo = (place: number): number => this.compiled.problem.tasks[place]!.redo ?? 0;

  /**
   * The task that made what a task works on, as far as one thing is made of one thing; before the metal also of several,
   * the last of them, since a tree of waxes is made again as a whole. A mould is not made again.
   */
  private madeFrom(place: number): number | undefined {
    const { tasks, into, out, problem } = this.compiled;
    const isWax = WAX_ROOMS.has(problem.tasks[place]!.room ?? '');
    const arcs = into[place]!;
    if (arcs.length === 0 || (arcs.length > 1 && !isWax)) return undefined;
    const before = arcs.reduce((one, other) => (this.ends[other.from]! > this.ends[one.from]! ? other : one)).from;
    if (tasks[before]!.fixed !== null || problem.tasks[before]!.room === 'mould') return undefined;
    return isWax || out[before]!.length === 1 ? before : undefined;
  }

  run(random: () => number): void {
    const { memberAt, members, waitAt, waitFor, waitLag, behindAt, behind, gaps } = this.net;
    const { nodeEnds, there, finish, deck, loss, detour, starts, durations, fixed, jobs } = this;
    finish.fill(-Infinity);
    for (let node = 0; node < nodeEnds.length; node++) {
      const [from, to] = [memberAt[node]!, memberAt[node + 1]!];
      let ready = -Infinity;
      let duration = 0;
      for (let m = from; m < to; m++) {
        const place = members[m]!;
        if (starts[place]! > ready) ready = starts[place]!;
        for (let w = waitAt[place]!; w < waitAt[place + 1]!; w++) {
          const after = there[waitFor[w]!]! + waitLag[w]!;
          if (after > ready) ready = after;
        }
        const planned = durations[place]!;
        if (planned === 0) continue;
        const own = Math.max(1, Math.round(planned * deck[place]![(random() * CARDS) | 0]!));
        if (own > duration) duration = own;
      }
      for (let b = behindAt[node]!; b < behindAt[node + 1]!; b++) {
        const after = nodeEnds[behind[b]!]! + gaps[b]!;
        if (after > ready) ready = after;
      }
      const isFixed = fixed[members[from]!] === 1;
      const start = isFixed ? starts[members[from]!]! : this.startOf(node, ready, duration);
      let last = start;
      for (let m = from; m < to; m++) {
        const place = members[m]!;
        const { open, spans } = this.compiled.tasks[place]!;
        let end = endOf(open, spans, start, duration);
        // Hours end somewhere; beyond them nobody plans.
        if (!(end <= LAST_MINUTE)) end = LAST_MINUTE;
        if (end > last) last = end;
        if (loss[place]! > 0)
          for (let times = 0; times < MOST_LOSSES && random() < loss[place]!; times++) end += detour[place]!;
        there[place] = end;
        const job = jobs[place]!;
        if (end > finish[job]!) finish[job] = end;
      }
      nodeEnds[node] = last;
    }
  }

  /** When all of a node can start; what does not fit into any opening any more starts as soon as anything is open. */
  private startOf(node: number, ready: number, duration: number): number {
    const { tasks } = this.compiled;
    const { members, memberAt, lead, leadOpen } = this.net;
    const [from, to] = [memberAt[node]!, memberAt[node + 1]!];
    const isAlone = to - from === 1 && lead[node] === 0;
    for (let start = ready; ;) {
      let next = start;
      for (let m = from; m < to; m++) {
        const task = tasks[members[m]!]!;
        let at = earliestOf(task, next, duration);
        if (at === Infinity) at = earliestStart(task.open, 'through', next, duration);
        if (at === Infinity) return Math.min(next, LAST_MINUTE);
        next = at;
      }
      const setUp = earliestStart(leadOpen[node]!, 'unbroken', next - lead[node]!, lead[node]!) + lead[node]!;
      if (setUp < Infinity) next = setUp;
      if (next === start || isAlone) return next;
      start = next;
    }
  }
}

/** Nodes in an order that puts each after what it waits for. */
function orderOf(count: number, arcs: readonly { readonly from: number; readonly to: number }[]): number[] {
  const next: number[][] = Array.from({ length: count }, () => []);
  const waiting = new Int32Array(count);
  for (const { from, to } of arcs) {
    if (from === to) continue;
    next[from]!.push(to);
    waiting[to]!++;
  }
  const order: number[] = [];
  for (let node = 0; node < count; node++) if (waiting[node] === 0) order.push(node);
  for (let at = 0; at < order.length; at++)
    for (const to of next[order[at]!]!) if (--waiting[to]! === 0) order.push(to);
  if (order.length < count) throw new RangeError('the schedule does not keep the order of its links');
  return order;
}

/** What share is lost at each task: as it says itself, else by its room, at the last task that a chain has there. */
function lossesOf({ problem, out }: Compiled): Float64Array {
  return Float64Array.from(problem.tasks, ({ loss, room }: PlanTask, place) => {
    if (loss !== undefined) return loss;
    const passes = room === undefined ? undefined : FIRST_PASS_YIELD[room];
    if (passes === undefined || out[place]!.some(({ to }) => problem.tasks[to]!.room === room)) return 0;
    return 1 - passes;
  });
}

/** The quantile of the standard normal distribution (P. J. Acklam's rational approximation, error below 1.2e-9). */
function normalQuantile(p: number): number {
  const A = [
    -39.69683028665376, 220.9460984245205, -275.9285104469687, 138.357751867269, -30.66479806614716, 2.506628277459239,
  ];
  const B = [-54.47609879822406, 161.5858368580409, -155.6989798598866, 66.80131188771972, -13.28068155288572];
  const C = [
    -0.007784894002430293, -0.3223964580411365, -2.400758277161838, -2.549732539343734, 4.374664141464968,
    2.938163982698783,
  ];
  const D = [0.007784695709041462, 0.3224671290700398, 2.445134137142996, 3.754408661907416];
  const poly = (list: readonly number[], x: number) => list.reduce((sum, each) => sum * x + each, 0);
  if (p < 0.02425) {
    const q = Math.sqrt(-2 * Math.log(p));
    return poly(C, q) / (poly(D, q) * q + 1);
  }
  if (p > 1 - 0.02425) return -normalQuantile(1 - p);
  const q = p - 0.5;
  const r = q * q;
  return (poly(A, r) * q) / (poly(B, r) * r + 1);
}
