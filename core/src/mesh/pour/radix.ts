/**
 * The order of values from the highest to the lowest, as their places. Values are compared in steps of 2⁻³² of their
 * span, equal ones stay in order: a radix sort in three passes, many times quicker than comparing.
 */
export function orderDown(values: Float64Array): Uint32Array {
  const count = values.length;
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < count; i++) {
    if (values[i]! < low) low = values[i]!;
    if (values[i]! > high) high = values[i]!;
  }
  const keys = new Uint32Array(count);
  const scale = high > low ? 0xffffffff / (high - low) : 0;
  for (let i = 0; i < count; i++) keys[i] = (high - values[i]!) * scale;
  let from = Uint32Array.from({ length: count }, (_, i) => i);
  let to = new Uint32Array(count);
  for (const [shift, bits] of [
    [0, 11],
    [11, 11],
    [22, 10],
  ] as const) {
    const mask = (1 << bits) - 1;
    const starts = new Uint32Array((1 << bits) + 1);
    for (let i = 0; i < count; i++) starts[((keys[i]! >>> shift) & mask) + 1]!++;
    for (let b = 1; b < starts.length; b++) starts[b]! += starts[b - 1]!;
    for (let i = 0; i < count; i++) to[starts[(keys[from[i]!]! >>> shift) & mask]!++] = from[i]!;
    [from, to] = [to, from];
  }
  return from;
}
