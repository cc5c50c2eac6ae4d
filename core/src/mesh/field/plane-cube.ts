/** Slopes below this count as this: the closed form divides by them. */
const LEAST = 1e-4;

/**
 * The share of a cube that lies on one side of a plane: all points x of [−h, h]³ with g·x > −s·h, g of length 1.
 * Closed form by R. Scardovelli and S. Zaleski (2000), after ordering the slopes.
 * @param s the depth of the cube's middle over the plane, in half edges; @returns 0 to 1
 */
export function shareAbove(gx: number, gy: number, gz: number, s: number): number {
  const a = Math.max(LEAST, Math.abs(gx));
  const b = Math.max(LEAST, Math.abs(gy));
  const c = Math.max(LEAST, Math.abs(gz));
  const sum = a + b + c;
  // In the unit cube the points below a·x + b·y + c·z = alpha.
  const alpha = (s + sum) / 2;
  if (alpha <= 0) return 0;
  if (alpha >= sum) return 1;
  // The smaller side is worked out: there less cancels.
  return 2 * alpha > sum ? 1 - corner(a, b, c, sum - alpha) : corner(a, b, c, alpha);
}

function corner(a: number, b: number, c: number, alpha: number): number {
  const cube = (value: number) => (value > 0 ? value * value * value : 0);
  return (
    (cube(alpha) -
      cube(alpha - a) -
      cube(alpha - b) -
      cube(alpha - c) +
      cube(alpha - a - b) +
      cube(alpha - b - c) +
      cube(alpha - c - a)) /
    (6 * a * b * c)
  );
}
