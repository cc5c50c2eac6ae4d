import { contours } from 'd3-contour';
import { MeshFault } from '../fault.ts';
import type { Pixels } from './render.ts';

/** The square that a silhouette is drawn in, and the letters that it may have. */
export const SILHOUETTE_BOX = 32;
const MOST_LETTERS = 900;
/** Where a pixel counts as metal. */
const HALF = 127.5;
/** A hole or a separate part smaller than this share of the whole is left out. */
const SMALL = 0.004;

type Point = readonly [number, number];

/**
 * The outline of a picture as a path for small drawings (SVG), in a square of 32: as many corners as fit its letters.
 * @param pixels a picture of a model; only how much of each pixel is metal is looked at
 * @throws MeshFault where there is no metal on it
 */
export function silhouetteOf({ width, height, data }: Pixels): string {
  const metal = Array.from({ length: width * height }, (_, i) => data[4 * i + 3]!);
  const [found] = contours().size([width, height]).thresholds([HALF])(metal);
  const rings = (found?.coordinates ?? []).flat() as unknown as Point[][];
  const whole = rings.reduce((sum, ring) => sum + Math.abs(areaOf(ring)), 0);
  const large = rings.filter((ring) => Math.abs(areaOf(ring)) > SMALL * whole);
  if (large.length === 0) throw new MeshFault('there is nothing on the picture to take an outline of');
  const xs = large.flat().map(([x]) => x);
  const ys = large.flat().map(([, y]) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  const [wide, high] = [Math.max(...xs) - left, Math.max(...ys) - top];
  const scale = (SILHOUETTE_BOX - 2) / Math.max(wide, high);
  const placed = large.map((ring) =>
    ring.map(([x, y]): Point => [
      SILHOUETTE_BOX / 2 + (x - left - wide / 2) * scale,
      SILHOUETTE_BOX / 2 + (y - top - high / 2) * scale,
    ]),
  );
  // Coarser and coarser, until it is short enough.
  for (let near = 0.12; ; near *= 1.4) {
    const path = placed.map((ring) => pathOf(simplified(ring, near))).join('');
    if (path.length <= MOST_LETTERS) return path;
  }
}

const areaOf = (ring: readonly Point[]): number =>
  ring.reduce((sum, [x, y], i) => {
    const [nx, ny] = ring[(i + 1) % ring.length]!;
    return sum + (x * ny - nx * y) / 2;
  }, 0);

const said = (value: number): string => String(Math.round(value * 10) / 10);

const pathOf = (ring: readonly Point[]): string =>
  ring.length < 3 ? '' : `M${ring.map(([x, y]) => `${said(x)} ${said(y)}`).join('L')}z`;

/** A closed line with fewer corners, nowhere farther than `near` from the given one (D. Douglas and T. Peucker, 1973). */
function simplified(ring: readonly Point[], near: number): Point[] {
  // Cut at the two corners that lie farthest apart from the first, so that both halves are open lines.
  const far = ring.reduce((best, point, i) => (away(point, ring[0]!) > away(ring[best]!, ring[0]!) ? i : best), 0);
  const halves = [ring.slice(0, far + 1), [...ring.slice(far), ring[0]!]];
  return halves.flatMap((half) => line(half, near).slice(0, -1));
}

const away = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

function line(points: readonly Point[], near: number): Point[] {
  const [first, last] = [points[0]!, points.at(-1)!];
  let [worst, at] = [0, -1];
  for (let i = 1; i < points.length - 1; i++) {
    const off = offLine(points[i]!, first, last);
    if (off > worst) [worst, at] = [off, i];
  }
  if (worst <= near) return [first, last];
  return [...line(points.slice(0, at + 1), near).slice(0, -1), ...line(points.slice(at), near)];
}

function offLine(p: Point, a: Point, b: Point): number {
  const length = away(a, b);
  if (length === 0) return away(p, a);
  return Math.abs((b[0] - a[0]) * (a[1] - p[1]) - (a[0] - p[0]) * (b[1] - a[1])) / length;
}
