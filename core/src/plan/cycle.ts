/** A circle in a graph of successors by index, in order, or undefined. Deep graphs do not exhaust the call stack. */
export function findCycle(next: readonly (readonly number[])[]): number[] | undefined {
  const NEW = 0;
  const OPEN = 1;
  const DONE = 2;
  const state = new Uint8Array(next.length);
  const place = new Int32Array(next.length);
  const path: number[] = [];
  for (let root = 0; root < next.length; root++) {
    if (state[root] !== NEW) continue;
    path.push(root);
    state[root] = OPEN;
    while (path.length > 0) {
      const node = path.at(-1)!;
      const child = next[node]![place[node]!++];
      if (child === undefined) {
        state[node] = DONE;
        path.pop();
      } else if (state[child] === OPEN) return path.slice(path.indexOf(child));
      else if (state[child] === NEW) {
        state[child] = OPEN;
        path.push(child);
      }
    }
  }
  return undefined;
}

/** The nodes in an order that puts each before its successors. The graph has no circle. */
export function topological(next: readonly (readonly number[])[]): number[] {
  const waiting = new Int32Array(next.length);
  for (const children of next) for (const child of children) waiting[child]!++;
  const order: number[] = [];
  for (let i = 0; i < next.length; i++) if (waiting[i] === 0) order.push(i);
  for (let at = 0; at < order.length; at++)
    for (const child of next[order[at]!]!) if (--waiting[child]! === 0) order.push(child);
  return order;
}
