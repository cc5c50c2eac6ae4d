import { UNITS_TOLERANCE } from '../problem.ts';

/** Steps in one block at most; a full one is halved. */
const BLOCK = 48;

/** Some steps that follow one another: minutes in order, what is in use from each to the next, and the least of it. */
interface Block {
  readonly at: Float64Array;
  readonly used: Float64Array;
  count: number;
  least: number;
}

const emptyBlock = (): Block => ({
  at: new Float64Array(BLOCK),
  used: new Float64Array(BLOCK),
  count: 0,
  least: Infinity,
});

/**
 * How much of a resource is in use over time: steps at sorted minutes, each level holding until the next. The steps lie
 * in blocks that know their least level, so that weeks without room are passed in a few looks.
 */
export class Profile {
  private readonly blocks: Block[];

  constructor(private readonly capacity: number) {
    const first = emptyBlock();
    first.at[0] = -Infinity;
    first.count = 1;
    first.least = 0;
    this.blocks = [first];
  }

  /** The last block that begins at or before a minute. */
  private blockAt(minute: number): number {
    const { blocks } = this;
    let low = 0;
    let high = blocks.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (blocks[middle]!.at[0]! <= minute) low = middle + 1;
      else high = middle;
    }
    return low - 1;
  }

  /** Makes a step begin at a minute where none does. */
  private cut(minute: number): void {
    const b = this.blockAt(minute);
    const block = this.blocks[b]!;
    const i = stepIn(block, minute);
    if (block.at[i] === minute) return;
    if (block.count === BLOCK) {
      this.halve(b);
      return this.cut(minute);
    }
    block.at.copyWithin(i + 2, i + 1, block.count);
    block.used.copyWithin(i + 2, i + 1, block.count);
    block.at[i + 1] = minute;
    block.used[i + 1] = block.used[i]!;
    block.count++;
  }

  private halve(b: number): void {
    const block = this.blocks[b]!;
    const half = block.count >> 1;
    const next = emptyBlock();
    next.at.set(block.at.subarray(half, block.count));
    next.used.set(block.used.subarray(half, block.count));
    next.count = block.count - half;
    block.count = half;
    sumUp(block);
    sumUp(next);
    this.blocks.splice(b + 1, 0, next);
  }

  /** Takes units from one minute to another; negative ones give them back. */
  take(from: number, to: number, units: number): void {
    if (to <= from) return;
    this.cut(from);
    this.cut(to);
    const { blocks } = this;
    let b = this.blockAt(from);
    let i = stepIn(blocks[b]!, from);
    for (; b < blocks.length; b++, i = 0) {
      const block = blocks[b]!;
      const { at, used, count, least } = block;
      let wasLeast = false;
      for (; i < count && at[i]! < to; i++) {
        if (used[i]! <= least) wasLeast = true;
        used[i]! += units;
        if (used[i]! < block.least) block.least = used[i]!;
      }
      if (wasLeast && units > 0) sumUp(block);
      if (i < count) break;
    }
    // Levels that became the same are one again, so that giving back leaves nothing behind.
    this.join(to);
    this.join(from);
  }

  /** Takes the step that begins at a minute away where it changes nothing. */
  private join(minute: number): void {
    const { blocks } = this;
    const b = this.blockAt(minute);
    const block = blocks[b]!;
    const i = stepIn(block, minute);
    if (block.at[i] !== minute) return;
    const before = i > 0 ? block.used[i - 1]! : b > 0 ? blocks[b - 1]!.used[blocks[b - 1]!.count - 1]! : NaN;
    if (!(Math.abs(block.used[i]! - before) <= UNITS_TOLERANCE / 4)) return;
    block.at.copyWithin(i, i + 1, block.count);
    block.used.copyWithin(i, i + 1, block.count);
    block.count--;
    if (block.count === 0) blocks.splice(b, 1);
    // The same level stands before it, in the same block unless it was the first.
    else if (i === 0) sumUp(block);
  }

  /** The first minute at which units could be free again, where they are not free from one minute to another; else undefined. */
  blockedUntil(from: number, to: number, units: number): number | undefined {
    if (to <= from) return undefined;
    const { blocks } = this;
    const most = this.capacity - units + UNITS_TOLERANCE;
    let b = this.blockAt(from);
    let i = stepIn(blocks[b]!, from);
    let isBlocked = false;
    for (; b < blocks.length; b++, i = 0) {
      const block = blocks[b]!;
      if (isBlocked && i === 0 && block.least > most) continue;
      for (; i < block.count; i++) {
        if (block.used[i]! > most) {
          if (!isBlocked && block.at[i]! >= to) return undefined;
          isBlocked = true;
        } else if (isBlocked) return block.at[i]!;
        else if (block.at[i]! >= to) return undefined;
      }
    }
    return isBlocked ? Infinity : undefined;
  }
}

/** The last step of a block at or before a minute. */
function stepIn({ at, count }: Block, minute: number): number {
  let low = 0;
  let high = count;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (at[middle]! <= minute) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

function sumUp(block: Block): void {
  let least = Infinity;
  for (let i = 0; i < block.count; i++) if (block.used[i]! < least) least = block.used[i]!;
  block.least = least;
}
