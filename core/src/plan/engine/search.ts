import type { Compiled } from '../compile.ts';
import { Board } from './board.ts';
import { chance } from './chance.ts';
import { Foresight } from './foresight.ts';
import { Inserter } from './inserter.ts';
import type { Manner } from './inserter.ts';
import type { Load } from './loads.ts';
import type { Previous } from './previous.ts';
import { LAST_MINUTE } from '../problem.ts';
import { listUnder } from '../../units/lists.ts';
import { JobOffsets } from './job-offsets.ts';
import { JobOrders } from './job-orders.ts';
import type { Look } from './job-orders.ts';
import { Neighbourhoods } from './neighbourhoods.ts';
import type { Proposal } from './neighbourhoods.ts';
import { Sequencing, isMakespanAlone, isSequencing } from './sequencing.ts';
import { PRIORITY_RULES, crewsFirst, urgencyOf } from './priority.ts';
import type { Urgency } from './priority.ts';

/** Where every task was put. */
export interface Placing {
  readonly starts: Float64Array;
  readonly ends: Float64Array;
  /** Each task's load by name, where it has one. */
  readonly loads: ReadonlyMap<number, string>;
  /** Each load's resource id. */
  readonly resourceOf: ReadonlyMap<string, string>;
  /** Each load's machine. */
  readonly machineOf: ReadonlyMap<string, number>;
  /** The objective, and what moving cost beside it. */
  readonly cost: number;
}

/** How often a trial leaves what could start earlier where it was, if moving costs. */
const STAYS = 0.6;
/** For what share of a full load a new one is left time to be set up: half is mostly best, and any shop may be another. */
const ROOMS = [0.5, 0, 1, 0.25, 0.75];
/** Until there is a schedule at all, so many are tried with one share before the next. */
const TRIES_A_ROOM = 8;
/** How often it is the share that the best schedule was built with. */
const SAME_ROOM = 0.6;
/** So often a whole schedule is begun again for what found no place in time. */
const MOST_AGAIN = 12;
/** Whole schedules by different looks at the jobs. */
const LOOKS = 28;
const FEW_LOOKS = 4;
/** Whole schedules with some jobs moved, in large shops. */
const WHOLE_MOVES = 150;
/** The larger the shop, the fewer whole schedules are built before parts are changed: so many tasks in all of them. */
const MOST_BUILT = 600_000;
/** Where whole schedules take long, parts of one are worth more sooner: so many in vain times the square of the tasks. */
const MOVED_FALLS = 4e9;
/**
 * Below so many tasks every other time whole schedules begin again they are blind: jobs are moved whatever they cost. What the
 * guided ones are stuck in the blind ones sometimes leave by a quarter of the cost; larger shops have no time for both.
 */
const MOST_IN_TURN = 8000;
/** Looks are worth less of it: none goes on from another. */
const LOOKS_SHARE = 4;
const wholes = (most: number, size: number): number => Math.min(most, Math.ceil(MOST_BUILT / Math.max(1, size)));
/** Trials in the first cooling; each following one is twice as long. */
const FIRST_ROUND = 400;
/** So many of the trials that make a schedule worse are mild; a cooling begins by letting about these pass. */
const MILD = 0.12;
/** By how much the bound between mild and not follows each trial. */
const LEARN = 0.03;
const FIRST_MILD = 1e-4;
/** From so many tasks on a job that moves along with all behind it is worth what it costs, and how often beside the others. */
const LARGE = 1000;
const SHIFTS = 0.05;
/** So many pairs of loads are looked at whether they could be one, until one of them can. */
const MOST_PAIRS = 80;
/** Of the neighbourhoods the one that was of most use is asked so much more often than one of none. */
const FAVOUR = 4;

/**
 * The search: a schedule by a priority rule, then trials that take a part out and put it again in another way; a trial is
 * kept when it is better, or a little worse while it is hot (simulated annealing over large neighbourhoods, after P. Shaw
 * 1998 and S. Ropke and D. Pisinger 2006). Coolings do not look ahead to the end of the time: a longer search goes through
 * everything that a shorter one does, so it is never worse.
 */
export class Search {
  readonly urgency: Urgency;
  private readonly board: Board;
  private readonly inserter: Inserter;
  private neighbourhoods: Neighbourhoods | undefined;
  private foresight: Foresight | undefined;
  private sequencing: Sequencing | undefined;
  private readonly isSequence: boolean;
  private turn = 0;
  private readonly random: () => number;
  private best: Placing | undefined;
  private readonly all: readonly number[];
  /** Orders for whole schedules that were not tried yet. */
  private readonly orders: (() => Float64Array)[];
  /** Orders that are only worth trying where nothing was found yet. */
  private readonly lastResort: (() => Float64Array)[];
  private kept: JobOrders | undefined;
  /** What the schedule built last cost. */
  private built = Infinity;
  private looks = 0;
  /** Whether the board is what a trial may begin with: after a schedule that was of no use it is not. */
  private isBest = false;
  private offsets: JobOffsets | undefined;
  /** How often whole schedules began again from nothing. */
  private begun = 0;
  /** How many schedules were built with some jobs moved since one was better than all before. */
  private inVain = 0;
  /** Tasks that were put since the two last began: in whole schedules, and in parts of the best. */
  private readonly work = { wholes: 0, parts: 0 };
  private look: { look: Look; cost: number } | undefined;
  private round = { at: 0, length: FIRST_ROUND };
  private mild = 0;
  /**
   * What a whole schedule had no place for before its maximum wait was over, since others had taken it, with all that leads to
   * it: it goes first from then on.
   */
  private readonly pressing = new Set<number>();
  private readonly hasRooms: boolean;
  private failed = 0;
  private bestRoom = ROOMS[0]!;
  private readonly uses = new Map<string, { work: number; gain: number }>();

  /** @param previous a schedule to begin with, and what moving away from it costs */
  constructor(
    private readonly compiled: Compiled,
    seed: number,
    private readonly previous?: Previous,
  ) {
    this.urgency = urgencyOf(compiled);
    this.board = new Board(compiled, previous?.near);
    this.inserter = new Inserter(compiled, this.board, this.urgency);
    this.hasRooms = compiled.loadRules.some((rule) => rule !== null && rule.perUnit > 0);
    this.isSequence = isSequencing(compiled) && !previous?.near;
    this.random = chance(seed);
    this.all = compiled.tasks.filter(({ fixed }) => fixed === null).map(({ place }) => place);
    const { 'latest start': _, 'earliest due date': byDue, ...others } = PRIORITY_RULES;
    this.orders = [() => byDue!(compiled, this.urgency), () => this.jobOrders.bySlack()];
    const crews = crewsFirst(compiled, this.urgency);
    if (crews) this.orders.unshift(() => crews);
    this.lastResort = Object.values(others).map((rule) => () => rule(compiled, this.urgency));
  }

  private get jobOrders(): JobOrders {
    return (this.kept ??= new JobOrders(this.compiled, this.urgency));
  }

  /** Puts what is fixed, and holds what is frozen where it was. @returns the tasks that do not fit */
  putFixed(): number[] {
    const wrong = this.inserter.putFixed();
    const { starts, frozen } = this.previous ?? { starts: undefined, frozen: 0 };
    // Mates of a load come one after the other: what holds one of them lets the next one in.
    // A load that is warm from the one before it can only be held after that one, whatever their order here.
    const times = this.compiled.loadRules.some((rule) => rule?.isOrdered) ? 2 : 1;
    for (let time = 0; starts && frozen > 0 && time < times; time++)
      for (const place of this.compiled.order)
        if (starts[place]! < frozen && !this.inserter.held(place)) this.inserter.hold(place, starts[place]!);
    this.board.begin();
    return wrong;
  }

  /** Whether anything can be changed at all. */
  get isFree(): boolean {
    return this.all.some((place) => !this.inserter.held(place));
  }

  /** The first schedule: what was there before, with what no longer fits put later; else by the latest starts. */
  begin(): void {
    const { previous } = this;
    if (previous) {
      const order = previous.starts.map((start, place) => (Number.isNaN(start) ? this.urgency.latest[place]! : start));
      const isThere = this.build({ order, thrift: 1, groups: previous.groups, notBefore: previous.starts });
      if (!isThere || this.isMoved(previous)) {
        // What was in one load need not go together any more, but when it went is still the best guess.
        const apart = { of: previous.groups.of.map(() => -1), members: [] };
        this.build({ order, thrift: 1, groups: apart, notBefore: previous.starts });
        if (!isThere) this.build({ order, thrift: 1 });
      }
      // In the same order and loads, but what can move up does.
      this.build({ order, thrift: 1, groups: previous.groups });
    }
    this.build(this.byRule(this.urgency.latest));
  }

  /** Whether what is on the board could not all stay where it was. */
  private isMoved({ starts }: Previous): boolean {
    return starts.some((start, place) => !Number.isNaN(start) && this.board.starts[place] !== start);
  }

  private byRule(order: Float64Array): Manner {
    return { order, thrift: 1 };
  }

  /** A whole schedule in a manner. @returns whether it was found; it is kept where it is the best so far */
  build(manner: Manner): boolean {
    this.isBest = false;
    const room = this.nextRoom();
    for (let again = 0; ; again++) {
      this.clear();
      if (this.inserter.putAll(this.all, { room, ...this.pressed(manner) })) break;
      if (again < MOST_AGAIN && this.press(this.inserter.stuckAt)) continue;
      // With nothing found yet, it may be that what presses stands in its own way.
      if (!this.best && ++this.failed % TRIES_A_ROOM === 0) this.pressing.clear();
      return false;
    }
    this.built = this.board.reckon();
    this.isBest = this.keepBest();
    if (!this.isBest) return true;
    this.bestRoom = room;
    if (room > 0 && manner.room === undefined) this.tighten();
    return true;
  }

  /** Loads that were left time for more than came into them move up: the best schedule again, in its order and its loads. */
  private tighten(): void {
    const { starts, loads } = this.best!;
    const mates = new Map<string, number[]>();
    for (const [place, name] of loads) if (!this.inserter.held(place)) listUnder(mates, name, place);
    const members = [...mates.values()];
    const of = new Int32Array(starts.length).fill(-1);
    members.forEach((group, i) => group.forEach((place) => (of[place] = i)));
    this.build({ order: starts, thrift: 1, groups: { of, members }, room: 0 });
  }

  /** @returns whether a task that found no place in time goes first from now on, and did not before */
  private press(stuck: number | undefined): boolean {
    if (stuck === undefined || this.pressing.has(stuck)) return false;
    const stack = [stuck];
    for (let place = stack.pop(); place !== undefined; place = stack.pop()) {
      this.pressing.add(place);
      for (const { from } of this.compiled.into[place]!)
        if (!this.pressing.has(from) && !this.inserter.held(from)) stack.push(from);
    }
    return true;
  }

  private pressed(manner: Manner): Manner {
    if (this.pressing.size === 0) return manner;
    const order = manner.order.slice();
    for (const place of this.pressing) order[place]! -= 8 * LAST_MINUTE;
    return { ...manner, order };
  }

  /** Nothing where a setup does not depend on what is in the load. */
  private nextRoom(): number {
    if (!this.hasRooms) return 0;
    if (!this.best || this.orders.length > 0) return ROOMS[Math.floor(this.failed / TRIES_A_ROOM) % ROOMS.length]!;
    return this.random() < SAME_ROOM ? this.bestRoom : ROOMS[Math.floor(this.random() * ROOMS.length)]!;
  }

  /** What the schedule built last cost. */
  get lastBuilt(): number {
    return this.built;
  }

  /** The next trial: first the other rules, then neighbourhoods. */
  step(): void {
    const order = this.orders.shift() ?? (this.best ? undefined : this.lastResort.shift());
    if (order) {
      this.build(this.byRule(order()));
      return;
    }
    // Where moving costs, a schedule from nothing has no hope.
    const isWorth = !this.previous?.near && this.compiled.problem.jobs.length > 2;
    if (
      this.best &&
      isWorth &&
      this.looks < (this.isSequence ? FEW_LOOKS : wholes(LOOKS, LOOKS_SHARE * this.all.length))
    ) {
      this.tryLook();
      return;
    }
    if (!this.best) {
      const { latest } = this.urgency;
      this.build(this.byRule(latest.map((each) => each + (this.random() - 0.5) * 20_000)));
      return;
    }
    if (this.best && isWorth && this.all.length >= LARGE && this.isForWholes) {
      this.tryOffsets();
      return;
    }
    // Where other things count beside the last finish, the two searches take turns.
    if (this.isSequence && (isMakespanAlone(this.compiled) || this.turn++ % 2 === 0)) this.sequences();
    else this.trial();
  }

  /** A whole schedule, job by job in an order by some look: any at first, then such as were good. */
  private tryLook(): void {
    const isFirst = this.looks++ < LOOKS / 2;
    const look = this.jobOrders.look(this.random, isFirst ? undefined : this.look?.look);
    if (!this.build(this.byRule(this.jobOrders.byApparentTardiness(look)))) return;
    if (!this.look || this.built < this.look.cost) this.look = { look, cost: this.built };
  }

  /** A whole schedule, some jobs counted as due sooner or later than they are. */
  private tryOffsets(): void {
    this.inVain++;
    this.work.wholes += this.all.length;
    this.offsets ??= new JobOffsets(this.compiled, this.urgency, this.random);
    const span = this.best!.ends.reduce((most, end) => Math.max(most, end), 0);
    if (!this.build(this.byRule(this.offsets.next(span)))) return;
    const isBlind = this.begun % 2 === 1 && this.all.length <= MOST_IN_TURN;
    if (this.offsets.learn(this.built, isBlind ? undefined : (job) => this.board.costOf(job))) this.inVain = 0;
  }

  /**
   * Whether whole schedules are worth a try: until many of them in turn were in vain; and again from nothing, by other
   * chances, once changing parts had as much work as they.
   */
  private get isForWholes(): boolean {
    if (this.inVain < Math.min(WHOLE_MOVES, Math.ceil(MOVED_FALLS / this.all.length ** 2))) return true;
    if (this.work.parts < this.work.wholes) return false;
    this.work.parts = 0;
    this.work.wholes = 0;
    this.offsets = undefined;
    this.begun++;
    this.inVain = 0;
    return true;
  }

  /** A schedule's sequences made better, and what they come to put on the board. */
  private sequences(): void {
    this.sequencing ??= new Sequencing(this.compiled, this.best!.starts, Math.floor(this.random() * 2 ** 31));
    if (this.sequencing.step()) this.build(this.byRule(this.sequencing.bestStarts));
  }

  private waysToChange(): Neighbourhoods {
    return (this.neighbourhoods ??= new Neighbourhoods(
      this.compiled,
      this.board,
      this.urgency,
      (place) => this.inserter.held(place),
      this.random,
    ));
  }

  private trial(): void {
    const { board, inserter } = this;
    if (!this.isBest) this.restore();
    this.work.parts += 5;
    const neighbourhoods = this.waysToChange();
    if (this.round.at++ >= this.round.length) {
      this.round = { at: 0, length: 2 * this.round.length };
      if (board.cost > this.best!.cost) this.restore();
    }
    const way = this.chooseWay();
    const proposal = neighbourhoods.ways[way]!();
    const use = this.uses.get(way)!;
    use.work += 5;
    if (!proposal) return;
    const before = board.cost;
    board.begin();
    const out = inserter.takeOut(proposal.roots);
    if (!out) return board.takeBack();
    const cooling = 1 - this.round.at / this.round.length;
    const allowed = this.mild * cooling * this.random() * 2;
    this.foresight ??= new Foresight(this.compiled, board, neighbourhoods.familyOf);
    this.foresight.begin(out, before + Math.max(allowed, 1e-9));
    const isPut = inserter.putAll(out, { room: this.nextRoom(), ...this.nearly(proposal.manner(out)) }, this.foresight);
    use.work += board.touchedCount;
    this.work.parts += board.touchedCount;
    neighbourhoods.reset(out);
    const cost = isPut ? board.reckon() : Infinity;
    if (cost > before + 1e-9) {
      // How much worse a mild trial is follows the trials by itself: a quantile found by stochastic approximation.
      if (this.mild === 0) this.mild = isPut ? cost - before : Math.max(1e-9, before * FIRST_MILD);
      else this.mild *= 1 + LEARN * (cost - before < this.mild ? MILD - 1 : MILD);
      if (cost > before + allowed) return board.takeBack();
    }
    board.begin();
    const best = this.best!.cost;
    if (this.keepBest()) use.gain += best - cost;
  }

  /**
   * In the best schedule, loads of a like put together wherever nothing becomes worse by it: a heat less is little beside a
   * week's lateness, so chance seldom gets to it, and yet it is what a founder sees first.
   */
  tidy(): void {
    if (!this.best) return;
    this.restore();
    const ways = this.waysToChange();
    for (let pairs = ways.fittingPairs(MOST_PAIRS); pairs.length > 0;) {
      const [one, other] = pairs.shift()!;
      if (this.isBetter(ways.together(one, other))) pairs = ways.fittingPairs(MOST_PAIRS);
    }
  }

  /** Tries a change; it stays where the schedule is better by it. */
  private isBetter({ roots, manner }: Proposal): boolean {
    const { board, inserter } = this;
    const before = board.cost;
    board.begin();
    const out = inserter.takeOut(roots);
    const isPut = out !== undefined && inserter.putAll(out, manner(out));
    if (out) this.waysToChange().reset(out);
    if (isPut && board.reckon() < before - 1e-9) {
      board.begin();
      return this.keepBest();
    }
    board.takeBack();
    return false;
  }

  /** Where moving costs, often nothing starts before it was to, though it could. */
  private nearly(manner: Manner): Manner {
    const { previous } = this;
    return previous?.near && this.random() < STAYS ? { ...manner, notBefore: previous.starts } : manner;
  }

  /** A neighbourhood, the likelier the more it has gained for its tries. */
  private chooseWay(): string {
    const names = Object.keys(this.neighbourhoods!.ways);
    const size = this.all.length;
    let most = 0;
    for (const name of names) {
      if (!this.uses.has(name)) this.uses.set(name, { work: 1, gain: 0 });
      const { work, gain } = this.uses.get(name)!;
      most = Math.max(most, gain / work);
    }
    const chances = names.map((name) => {
      const { work, gain } = this.uses.get(name)!;
      const chances = 1 + (most > 0 ? (FAVOUR * (gain / work)) / most : 0);
      // Everything anew costs as much as many small trials.
      if (name === 'again') return Math.min(0.3, 40 / size) * chances;
      return name === 'shift' ? (size < LARGE ? 0 : SHIFTS) * chances : chances;
    });
    let left = this.random() * chances.reduce((sum, each) => sum + each, 0);
    return names.find((_, i) => (left -= chances[i]!) < 0) ?? names[0]!;
  }

  /** Takes out all that is not held; what is put then cannot be taken back until the next trial. */
  private clear(): void {
    this.board.reset(this.compiled.order.filter((place) => this.board.put[place] && this.inserter.held(place)));
  }

  /** Puts the best schedule on the board again. */
  private restore(): void {
    const { board, compiled, best } = this;
    this.clear();
    if (!best) return;
    const mates = new Map<string, number[]>();
    for (const [place, name] of best.loads) listUnder(mates, name, place);
    const loads = new Map<string, Load>();
    for (const [name, places] of mates) {
      const tasks = places.map((place) => compiled.tasks[place]!);
      const fixed = tasks.find((task) => this.inserter.held(task.place));
      const { place, batch } = tasks[0]!;
      const duration = Math.max(...tasks.map((task) => task.duration));
      const units = tasks.reduce((sum, task) => sum + task.batch!.units, 0);
      const made = () => {
        const wanted = { start: best.starts[place]!, end: best.ends[place]!, units, key: batch!.key };
        return board.loads[batch!.resource]!.create(wanted, duration, best.machineOf.get(name));
      };
      loads.set(name, fixed ? board.loadOf[fixed.place]! : made());
    }
    for (const place of this.all) {
      if (this.inserter.held(place)) continue;
      const name = best.loads.get(place);
      board.place(place, best.starts[place]!, best.ends[place]!, name === undefined ? null : loads.get(name)!);
    }
    board.reckon();
    board.begin();
    this.isBest = true;
  }

  private keepBest(): boolean {
    if (this.best && this.board.cost >= this.best.cost - 1e-9) return false;
    this.best = this.snapshot();
    return true;
  }

  /** What is on the board. */
  private snapshot(): Placing {
    const { board } = this;
    const loads = new Map<number, string>();
    const resourceOf = new Map<string, string>();
    const machineOf = new Map<string, number>();
    board.loads.forEach((book, resource) => {
      const { id } = this.compiled.resources[resource]!;
      book?.list.forEach((load, i) => {
        const name = `${id}#${i + 1}`;
        resourceOf.set(name, id);
        machineOf.set(name, load.machine);
        for (const { place } of load.members) loads.set(place, name);
      });
    });
    const [starts, ends] = [board.starts.slice(), board.ends.slice()];
    return { starts, ends, loads, resourceOf, machineOf, cost: board.cost };
  }

  get found(): Placing | undefined {
    return this.best;
  }

  tightest(): number[] {
    return this.inserter.tightest();
  }
}
