// Solids by distance: how deep a place lies in a figure put together from round bones, slabs and rings.

export type Place = readonly [number, number, number];
/** How deep a place lies, mm; below zero outside. */
export type Depth = (place: Place) => number;

/** A bone: round at both ends, of two thicknesses. */
export function bone(a: Place, b: Place, ra: number, rb = ra): Depth {
  const way = [b[0] - a[0], b[1] - a[1], b[2] - a[2]] as const;
  const square = way[0] ** 2 + way[1] ** 2 + way[2] ** 2;
  return ([x, y, z]) => {
    const [dx, dy, dz] = [x - a[0], y - a[1], z - a[2]];
    const along = square === 0 ? 0 : clamp((dx * way[0] + dy * way[1] + dz * way[2]) / square);
    return ra + (rb - ra) * along - Math.hypot(dx - way[0] * along, dy - way[1] * along, dz - way[2] * along);
  };
}

/** An egg with its half axes along x, y and z. Near its surface the depth is nearly right (I. Quílez, 2008). */
export const egg =
  ([cx, cy, cz]: Place, [rx, ry, rz]: Place): Depth =>
  ([x, y, z]) => {
    const [dx, dy, dz] = [(x - cx) / rx, (y - cy) / ry, (z - cz) / rz];
    const k = Math.hypot(dx, dy, dz);
    const slope = Math.hypot(dx / rx, dy / ry, dz / rz);
    return slope === 0 ? Math.min(rx, ry, rz) : (k * (1 - k)) / slope;
  };

/** A drum that lies along x, its edges rounded: half its length, its radius. */
export const drum =
  ([cx, cy, cz]: Place, half: number, radius: number, round: number): Depth =>
  ([x, y, z]) => {
    const [along, out] = [Math.abs(x - cx) - half + round, Math.hypot(y - cy, z - cz) - radius + round];
    return round - Math.hypot(Math.max(along, 0), Math.max(out, 0)) - Math.min(Math.max(along, out), 0);
  };

/** A slab with rounded edges: half sizes along x, y and z. */
export const slab =
  ([cx, cy, cz]: Place, [hx, hy, hz]: Place, round: number): Depth =>
  ([x, y, z]) => {
    const [dx, dy, dz] = [Math.abs(x - cx) - hx + round, Math.abs(y - cy) - hy + round, Math.abs(z - cz) - hz + round];
    const outside = Math.hypot(Math.max(dx, 0), Math.max(dy, 0), Math.max(dz, 0));
    return round - outside - Math.min(Math.max(dx, dy, dz), 0);
  };

/** A chain of bones. */
export function chain(...joints: readonly (readonly [x: number, y: number, z: number, r: number])[]): Depth {
  const bones = joints.slice(1).map((to, i) => {
    const from = joints[i]!;
    return bone([from[0], from[1], from[2]], [to[0], to[1], to[2]], from[3], to[3]);
  });
  return (place) => bones.reduce((most, each) => Math.max(most, each(place)), -Infinity);
}

/** Solids that flow into each other over so many millimetres (smooth maximum, polynomial). */
export const melted =
  (over: number, ...parts: readonly Depth[]): Depth =>
  (place) =>
    parts
      .map((part) => part(place))
      .reduce((a, b) => {
        const h = Math.max(over - Math.abs(a - b), 0) / over;
        return Math.max(a, b) + (h * h * over) / 4;
      });

/** What is in the first and not in the second. */
export const without =
  (solid: Depth, hole: Depth): Depth =>
  (place) =>
    Math.min(solid(place), -hole(place));

/** The marks of tools and fingers: a surface that goes in and out by so many millimetres over such lengths. */
export const worked =
  (solid: Depth, by: number, over: number): Depth =>
  (place) => {
    const [x, y, z] = place.map((each) => (each * 2 * Math.PI) / over) as unknown as Place;
    const wave =
      Math.sin(x + 1.7 * Math.sin(0.6 * y)) * Math.sin(1.1 * y + 0.8 * Math.sin(0.7 * z)) * Math.sin(0.9 * z + 1.3) +
      0.5 * Math.sin(2.3 * x + 0.9) * Math.sin(2.1 * z + Math.sin(1.9 * y));
    return solid(place) + by * wave;
  };

const clamp = (share: number): number => Math.min(1, Math.max(0, share));
