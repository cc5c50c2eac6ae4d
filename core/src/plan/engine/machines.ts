import type { LoadRule } from '../load-rules.ts';
import { setupOf, startAfter } from '../load-rules.ts';
import type { Load } from './loads.ts';
import { Profile } from './profile.ts';

/** A load that is not there yet. */
export type Wanted = Pick<Load, 'start' | 'end' | 'units' | 'key'>;

/** The machines of a resource that works in loads: where a load finds one, and what its coming and going does to others. */
export interface Machines {
  /** The first minute to look at again, where no machine is free for a load; undefined where one is. */
  blockedUntil(load: Wanted): number | undefined;
  /** A machine that is free for it. */
  machineFor(load: Wanted): number;
  take(load: Load): void;
  give(load: Load): void;
  /** Whether it may hold so many units where it stands. */
  mayHold(load: Load, units: number): boolean;
  /** Takes all loads out at once. */
  clear(): void;
  /** A load that stands wrong now that one is gone. */
  wrongWithout(gone: Load): Load | undefined;
}

/** Where the same time passes between any two loads it is enough to count those that run. */
export class CountedMachines implements Machines {
  private readonly busy: Profile;

  constructor(private readonly rule: LoadRule) {
    this.busy = new Profile(rule.machines);
  }

  blockedUntil({ start, end }: Wanted): number | undefined {
    return this.busy.blockedUntil(start, end + this.rule.setup, 1);
  }

  machineFor = (): number => 0;

  take({ start, end }: Load): void {
    this.busy.take(start, end + this.rule.setup, 1);
  }

  give({ start, end }: Load): void {
    this.busy.take(start, end + this.rule.setup, -1);
  }

  clear(): void {
    this.busy.clear();
  }

  mayHold = (): boolean => true;
  wrongWithout = (): undefined => undefined;
}

/**
 * Where a setup depends on what is in the load and on what was before it, each load has a machine of its own in which it
 * stands between two others. One that goes can leave the next one cold, or after another key.
 */
export class OrderedMachines implements Machines {
  private readonly lanes: Load[][];

  constructor(private readonly rule: LoadRule) {
    this.lanes = Array.from({ length: rule.machines }, () => []);
  }

  /** How many loads of a lane stand before a load: those that end by its start. */
  private placeIn(lane: readonly Load[], { start, end }: Wanted): number {
    let i = lane.length;
    while (i > 0 && (lane[i - 1]!.start > start || (lane[i - 1]!.start === start && lane[i - 1]!.end > end))) i--;
    return i;
  }

  /** The first minute at which it could start on a machine, by the loads on both sides of it; its own where it may. */
  private startOn(lane: readonly Load[], load: Wanted): number {
    const i = this.placeIn(lane, load);
    const start = startAfter(this.rule, load, lane[i - 1]);
    if (start > load.start) return start;
    const next = lane[i];
    if (!next || startAfter(this.rule, next, load) === next.start) return load.start;
    return Math.max(load.start + 1, next.end);
  }

  blockedUntil(load: Wanted): number | undefined {
    let least = Infinity;
    for (const lane of this.lanes) {
      const start = this.startOn(lane, load);
      if (start === load.start) return undefined;
      if (start < least) least = start;
    }
    return least;
  }

  /** Of those that are free the one that is set up soonest: a warm one before a cold one. */
  machineFor(load: Wanted): number {
    let best = -1;
    let least = Infinity;
    this.lanes.forEach((lane, machine) => {
      if (this.startOn(lane, load) !== load.start) return;
      const setup = setupOf(this.rule, load, lane[this.placeIn(lane, load) - 1]);
      if (setup >= least) return;
      best = machine;
      least = setup;
    });
    return best;
  }

  take(load: Load): void {
    const lane = this.lanes[load.machine]!;
    lane.splice(this.placeIn(lane, load), 0, load);
  }

  give(load: Load): void {
    const lane = this.lanes[load.machine]!;
    lane.splice(lane.indexOf(load), 1);
  }

  clear(): void {
    for (const lane of this.lanes) lane.length = 0;
  }

  mayHold(load: Load, units: number): boolean {
    if (this.rule.perUnit === 0) return true;
    const lane = this.lanes[load.machine]!;
    const before = lane[lane.indexOf(load) - 1];
    return startAfter(this.rule, { ...wantedOf(load), units }, before) === load.start;
  }

  wrongWithout(gone: Load): Load | undefined {
    const lane = this.lanes[gone.machine]!;
    const i = this.placeIn(lane, gone);
    const next = lane[i];
    return next && startAfter(this.rule, next, lane[i - 1]) !== next.start ? next : undefined;
  }
}

const wantedOf = ({ start, end, units, key }: Wanted): Wanted => ({ start, end, units, key });
