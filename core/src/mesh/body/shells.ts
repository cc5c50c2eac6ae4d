import type { Edges } from './edges.ts';

/** Surfaces that hang together by edges of two triangles, each turned one way throughout. */
export interface Shells {
  readonly count: number;
  /** The shell of each triangle; −1 for a triangle with two corners in one. */
  readonly of: Int32Array;
  /** 1 where a triangle was turned over so that its shell faces one way. */
  readonly turned: Uint8Array;
  readonly turnedCount: number;
  /** Shells that cannot face one way (a band with a twist). */
  readonly twisted: number;
}

/**
 * Gathers triangles into shells and turns over the fewer, so that neighbours face the same way: two triangles do where
 * their common edge is run through in opposite directions.
 */
export function gatherShells(triangles: Uint32Array, edges: Edges): Shells {
  const count = triangles.length / 3;
  const of = new Int32Array(count).fill(-1);
  const turned = new Uint8Array(count);
  const queue = new Int32Array(count);
  const { other } = edges;
  let shells = 0;
  let turnedCount = 0;
  let twisted = 0;
  for (let seed = 0; seed < count; seed++) {
    if (of[seed]! >= 0 || collapsed(triangles, seed)) continue;
    let [head, tail, turns, isTwisted] = [0, 0, 0, false];
    queue[tail++] = seed;
    of[seed] = shells;
    while (head < tail) {
      const triangle = queue[head++]!;
      for (let half = 3 * triangle; half < 3 * triangle + 3; half++) {
        const across = other[half]!;
        if (across < 0) continue;
        const neighbour = (across / 3) | 0;
        const sameWay = triangles[half] === triangles[across] ? 1 : 0;
        const wanted = turned[triangle]! ^ sameWay;
        if (of[neighbour]! < 0) {
          of[neighbour] = shells;
          turned[neighbour] = wanted;
          turns += wanted;
          queue[tail++] = neighbour;
        } else if (turned[neighbour] !== wanted) isTwisted = true;
      }
    }
    if (turns > tail / 2) {
      for (let i = 0; i < tail; i++) turned[queue[i]!]! ^= 1;
      turns = tail - turns;
    }
    turnedCount += turns;
    if (isTwisted) twisted++;
    shells++;
  }
  return { count: shells, of, turned, turnedCount, twisted };
}

const collapsed = (triangles: Uint32Array, t: number): boolean =>
  triangles[3 * t] === triangles[3 * t + 1] ||
  triangles[3 * t + 1] === triangles[3 * t + 2] ||
  triangles[3 * t + 2] === triangles[3 * t];
