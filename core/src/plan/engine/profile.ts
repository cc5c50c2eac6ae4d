import { UNITS_TOLERANCE } from '../problem.ts';

/** Steps from which on a block is halved. */
const BLOCK = 48;
/** Both ends of what is taken may become steps of one block before it is looked at. */
const ROOM = BLOCK + 2;

/** Some steps that follow one another: minutes in order, what is in use from each to the next, and the least of it. */
interface Block {
  readonly at: Float64Array;
  readonly used: Float64Array;
  count: number;
  least: number;
}

const emptyBlock = (): Block => ({
  at: new Float64Array(ROOM),
  used: new Float64Array(ROOM),
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

  /** Everything given back. */
  clear(): void {
    const first = this.blocks[0]!;
    this.blocks.length = 1;
    first.at[0] = -Infinity;
    first.used[0] = 0;
    first.count = 1;
    first.least = 0;
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

  private halve(b: number): void {
    const block = this.blocks[b]!;
    if (block.count < BLOCK) return;
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
    const { blocks } = this;
    const first = this.blockAt(from);
    let block = blocks[first]!;
    let i = stepIn(block, from);
    if (block.at[i]! < from) insert(block, i++, from, block.used[i - 1]!);
    const place = i;
    let last = first;
    for (;;) {
      // All of a block up to the end of what is taken; a step that goes on beyond it is cut there.
      const { at, used } = block;
      let wasLeast = false;
      for (; i < block.count && at[i]! < to; i++) {
        const next = i + 1 < block.count ? at[i + 1]! : (blocks[last + 1]?.at[0] ?? Infinity);
        if (next > to) insert(block, i, to, used[i]!);
        if (used[i]! <= block.least) wasLeast = true;
        used[i]! += units;
        if (used[i]! < block.least) block.least = used[i]!;
      }
      if (wasLeast && units > 0) sumUp(block);
      const next = blocks[last + 1];
      if (i < block.count || !next || next.at[0]! >= to) break;
      block = next;
      last++;
      i = 0;
    }
    // Levels that became the same are one again, so that giving back leaves nothing behind.
    const isNext = i >= blocks[last]!.count;
    if (!isNext || last + 1 < blocks.length) this.join(isNext ? last + 1 : last, isNext ? 0 : i, to);
    this.join(first, place, from);
    if (last < blocks.length) this.halve(last);
    if (first < last) this.halve(first);
  }

  /** Takes the step that begins at a minute away where it changes nothing. */
  private join(b: number, i: number, minute: number): void {
    const { blocks } = this;
    const block = blocks[b]!;
    const { at, used } = block;
    if (at[i] !== minute) return;
    const before = i > 0 ? used[i - 1]! : b > 0 ? blocks[b - 1]!.used[blocks[b - 1]!.count - 1]! : NaN;
    if (!(Math.abs(used[i]! - before) <= UNITS_TOLERANCE / 4)) return;
    block.count--;
    for (let j = i; j < block.count; j++) {
      at[j] = at[j + 1]!;
      used[j] = used[j + 1]!;
    }
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

/** Makes a step begin at a minute within the one at a place. */
function insert(block: Block, i: number, minute: number, level: number): void {
  const { at, used } = block;
  for (let j = block.count; j > i + 1; j--) {
    at[j] = at[j - 1]!;
    used[j] = used[j - 1]!;
  }
  at[i + 1] = minute;
  used[i + 1] = level;
  block.count++;
  if (level < block.least) block.least = level;
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
