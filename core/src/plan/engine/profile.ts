import { UNITS_TOLERANCE } from '../problem.ts';

/** How much of a resource is in use over time: steps at sorted minutes, each level holding until the next. */
export class Profile {
  private readonly at: number[] = [-Infinity];
  private readonly used: number[] = [0];

  constructor(private readonly capacity: number) {}

  /** The last step at or before a minute. */
  private stepAt(minute: number): number {
    let low = 0;
    let high = this.at.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.at[middle]! <= minute) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  }

  /** The step that begins at a minute, made where there is none. */
  private cut(minute: number): number {
    const i = this.stepAt(minute);
    if (this.at[i] === minute) return i;
    this.at.splice(i + 1, 0, minute);
    this.used.splice(i + 1, 0, this.used[i]!);
    return i + 1;
  }

  /** Takes units from one minute to another; negative ones give them back. */
  take(from: number, to: number, units: number): void {
    if (to <= from) return;
    const first = this.cut(from);
    const last = this.cut(to);
    for (let i = first; i < last; i++) this.used[i]! += units;
    // Levels that became the same are one again, so that giving back leaves nothing behind.
    for (const i of [last, first])
      if (i > 0 && Math.abs(this.used[i]! - this.used[i - 1]!) <= UNITS_TOLERANCE / 4) {
        this.at.splice(i, 1);
        this.used.splice(i, 1);
      }
  }

  /** The first minute at which units could be free again, where they are not free from one minute to another; else undefined. */
  blockedUntil(from: number, to: number, units: number): number | undefined {
    if (to <= from) return undefined;
    const most = this.capacity - units + UNITS_TOLERANCE;
    for (let i = this.stepAt(from); i < this.at.length && this.at[i]! < to; i++) {
      if (this.used[i]! <= most) continue;
      while (i + 1 < this.at.length && this.used[i + 1]! > most) i++;
      return this.at[i + 1] ?? Infinity;
    }
    return undefined;
  }
}
