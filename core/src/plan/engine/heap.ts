/** A heap of numbers in the order that `before` says: the first one is taken first. */
export class Heap {
  private readonly items: number[] = [];
  constructor(private readonly before: (a: number, b: number) => boolean) {}

  get size(): number {
    return this.items.length;
  }

  clear(): void {
    this.items.length = 0;
  }

  push(item: number): void {
    const { items } = this;
    let i = items.push(item) - 1;
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (!this.before(items[i]!, items[up]!)) break;
      [items[i], items[up]] = [items[up]!, items[i]!];
      i = up;
    }
  }

  pop(): number | undefined {
    const { items } = this;
    const first = items[0];
    const last = items.pop();
    if (items.length === 0 || last === undefined) return first;
    items[0] = last;
    for (let i = 0; ;) {
      let least = i;
      for (const child of [2 * i + 1, 2 * i + 2])
        if (child < items.length && this.before(items[child]!, items[least]!)) least = child;
      if (least === i) return first;
      [items[i], items[least]] = [items[least]!, items[i]!];
      i = least;
    }
  }
}
