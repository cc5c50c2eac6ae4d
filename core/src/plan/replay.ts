import type { Arc, Compiled, Task } from './compile.ts';
import { Board } from './engine/board.ts';
import { Inserter } from './engine/inserter.ts';
import type { Urgency } from './engine/priority.ts';
import { urgencyOf } from './engine/priority.ts';
import type { Schedule } from './problem.ts';
import { CARDS, MOST_LOSSES, Simulation } from './simulation.ts';

/**
 * Runs of a schedule as a shop lives them: durations differ and things are lost, and at every moment whoever is free takes what
 * was planned first of all that can be done. Nothing starts before it was planned to; a load goes without what is not ready.
 * Where an order is kept to the letter instead, one late tree moves a pour day, and with it all that was planned behind.
 */
export class Replay extends Simulation {
  private readonly urgency: Urgency;
  private readonly free: readonly number[];
  private readonly into: readonly (readonly Arc[])[];
  private readonly out: readonly (readonly Arc[])[];

  constructor(compiled: Compiled, schedule: Schedule) {
    super(compiled, schedule);
    this.urgency = urgencyOf(compiled);
    this.free = compiled.tasks.filter(({ fixed }) => fixed === null).map(({ place }) => place);
    // Maximum waits are kept by people: a run that cannot keep one goes on all the same.
    const plain = (arcs: readonly Arc[]): Arc[] => arcs.map((arc) => ({ ...arc, maxLag: Infinity }));
    this.into = compiled.into.map(plain);
    this.out = compiled.out.map(plain);
  }

  override run(random: () => number): void {
    const { starts, finish, compiled } = this;
    const late = new Float64Array(compiled.tasks.length);
    const tasks = compiled.tasks.map((task): Task => {
      const { place, fixed, duration } = task;
      if (this.loss[place]! > 0)
        for (let times = 0; times < MOST_LOSSES && random() < this.loss[place]!; times++)
          late[place]! += this.detour[place]!;
      if (fixed !== null || duration === 0) return task;
      return { ...task, duration: Math.max(1, Math.round(duration * this.deck[place]![(random() * CARDS) | 0]!)) };
    });
    const into = [...this.into];
    // What is lost is made again beside everything else: what hangs on it waits as long as that took.
    late.forEach((minutes, place) => {
      if (minutes === 0) return;
      for (const { to } of this.out[place]!)
        into[to] = into[to]!.map((arc) => (arc.from === place ? { ...arc, minLag: arc.minLag + minutes } : arc));
    });
    const board = new Board({ ...compiled, tasks, into, out: this.out });
    const inserter = new Inserter({ ...compiled, tasks, into, out: this.out }, board, this.urgency);
    const isPut =
      inserter.putFixed().length === 0 && inserter.putAll(this.free, { order: starts, thrift: 1, notBefore: starts });
    finish.fill(-Infinity);
    for (const { place, job } of tasks) {
      // What found no hour any more comes out as planned, and as much later as it was lost.
      const end = (isPut ? board.ends[place]! : this.ends[place]!) + late[place]!;
      if (end > finish[job]!) finish[job] = end;
    }
  }
}
