import type { Arc, Compiled, Task } from './compile.ts';
import { Board } from './engine/board.ts';
import { Inserter } from './engine/inserter.ts';
import type { Urgency } from './engine/priority.ts';
import { urgencyOf } from './engine/priority.ts';
import type { Schedule } from './problem.ts';
import type { Loss } from './remakes.ts';
import { withRemakes } from './remakes.ts';
import { CARDS, MOST_LOSSES, Simulation } from './simulation.ts';

/**
 * Runs of a schedule as a shop lives them: durations differ and things are lost, and at every moment whoever is free takes what
 * was planned first of all that can be done. Nothing starts before it was planned to; a load goes without what is not ready;
 * what is lost is made again by the same hands, in the same mould and fires, while everything else goes on.
 * Where an order is kept to the letter instead, one late tree moves a pour day, and with it all that was planned behind.
 */
export class Replay extends Simulation {
  private readonly urgency: Urgency;
  /** Maximum waits are kept by people: a run that cannot keep one goes on all the same. */
  private readonly free: Compiled;

  constructor(compiled: Compiled, schedule: Schedule) {
    super(compiled, schedule);
    this.urgency = urgencyOf(compiled);
    const plain = (arcs: readonly Arc[]): Arc[] => arcs.map((arc) => ({ ...arc, maxLag: Infinity }));
    this.free = { ...compiled, into: compiled.into.map(plain), out: compiled.out.map(plain) };
  }

  override run(random: () => number): void {
    const { starts, finish, ends } = this;
    const losses = this.drawLosses(random);
    const { compiled, origin, behind } = withRemakes(this.free, losses, { starts, ends });
    const tasks = compiled.tasks.map((task): Task => {
      const { place, fixed, duration } = task;
      if (fixed !== null || duration === 0) return task;
      const drawn = duration * this.deck[origin[place]!]![(random() * CARDS) | 0]!;
      return { ...task, duration: Math.max(1, Math.round(drawn)) };
    });
    const net = { ...compiled, tasks };
    const board = new Board(net);
    const inserter = new Inserter(net, board, spread(this.urgency, origin));
    // What is made again is planned as it was the first time, so much later: no sooner, and as urgent then.
    const order = Float64Array.from(tasks, ({ place }) => starts[origin[place]!]! + behind[place]!);
    const free = tasks.filter(({ fixed }) => fixed === null).map(({ place }) => place);
    const isPut = inserter.putFixed().length === 0 && inserter.putAll(free, { order, thrift: 1, notBefore: order });
    finish.fill(-Infinity);
    for (const { place, job } of tasks) {
      // What found no hour any more comes out as planned, and as much later as it was lost.
      const end = isPut ? board.ends[place]! : ends[origin[place]!]! + behind[place]!;
      if (end > finish[job]!) finish[job] = end;
    }
  }

  private drawLosses(random: () => number): Loss[] {
    const losses: Loss[] = [];
    this.loss.forEach((share, place) => {
      if (share === 0 || random() >= share) return;
      const chain = this.chainTo(place);
      losses.push({ place, chain, tries: this.drawTries(chain, random), redo: this.redo(place) });
    });
    return losses;
  }

  /** What is made again can be lost again, anywhere on its way. */
  private drawTries(chain: readonly number[], random: () => number): number[] {
    const tries: number[] = [];
    while (tries.length < MOST_LOSSES - 1) {
      const lostAt = chain.findIndex((place) => this.loss[place]! > 0 && random() < this.loss[place]!);
      if (lostAt < 0) break;
      tries.push(lostAt + 1);
    }
    return [...tries, chain.length];
  }
}

/** Urgencies of tasks that stand there again: those of the ones that they are copies of. */
function spread({ latest, weight, tail, span }: Urgency, origin: Int32Array): Urgency {
  if (origin.length === latest.length) return { latest, weight, tail, span };
  const of = (list: Float64Array) => Float64Array.from(origin, (place) => list[place]!);
  return { latest: of(latest), weight: of(weight), tail: of(tail), span: of(span) };
}
