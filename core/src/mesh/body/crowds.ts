import { listUnder } from '../../units/lists.ts';
import type { Edges } from './edges.ts';
import { nextHalf } from './edges.ts';
import type { Shells } from './shells.ts';

/** What becomes of shells that meet at edges of three or more triangles. */
export interface Settled {
  /** The shell that each shell belongs to after those that close only together were joined. */
  readonly joined: Int32Array;
  /** 1 where a whole shell was turned over to fit its neighbours. */
  readonly turnedShell: Uint8Array;
  /** 1 for sheets that bound nothing: inner walls without thickness, fins. */
  readonly sheet: Uint8Array;
  /** Half-edges at crowded edges that stay without a partner. */
  readonly unmatched: readonly number[];
}

/**
 * Settles edges where three or more triangles meet: each such edge must be run through as often one way as the other.
 * Shells that are balanced by themselves stay by themselves (two bodies that touch along an edge); others are turned
 * over, or set aside as sheets, the smallest first, as long as that balances more edges; the rest are joined.
 * @param area the area of each shell; @param openShell 1 for shells with open edges of their own
 */
export function settleCrowds(
  triangles: Uint32Array,
  edges: Edges,
  shells: Shells,
  area: Float64Array,
  openShell: Uint8Array,
): Settled {
  const { crowds, crowdStarts } = edges;
  const joined = Int32Array.from({ length: shells.count }, (_, i) => i);
  const turnedShell = new Uint8Array(shells.count);
  const sheet = new Uint8Array(shells.count);
  const edgeCount = crowdStarts.length - 1;
  if (edgeCount === 0) return { joined, turnedShell, sheet, unmatched: [] };

  /** For each crowded edge, what each shell adds: +1 for a half-edge from the lower vertex, −1 for one from the higher. */
  const adds: Map<number, number>[] = [];
  const edgesOf = new Map<number, number[]>();
  for (let e = 0; e < edgeCount; e++) {
    const sums = new Map<number, number>();
    for (let i = crowdStarts[e]!; i < crowdStarts[e + 1]!; i++) {
      const half = crowds[i]!;
      const t = (half / 3) | 0;
      const up = triangles[half]! < triangles[nextHalf(half)]! ? 1 : -1;
      const shell = shells.of[t]!;
      sums.set(shell, (sums.get(shell) ?? 0) + (shells.turned[t] ? -up : up));
    }
    for (const [shell, sum] of sums) {
      if (sum === 0) sums.delete(shell);
      else listUnder(edgesOf, shell, e);
    }
    adds.push(sums);
  }
  const balance = Int32Array.from(adds, (sums) => [...sums.values()].reduce((total, each) => total + each, 0));
  /** How much the imbalance around a shell falls when what it adds is multiplied by 1 + `change`. */
  const gain = (shell: number, change: number) =>
    edgesOf.get(shell)!.reduce((sum, e) => {
      const after = balance[e]! + change * adds[e]!.get(shell)!;
      return sum + Math.abs(balance[e]!) - Math.abs(after);
    }, 0);
  const apply = (shell: number, change: number) => {
    for (const e of edgesOf.get(shell)!) {
      const add = adds[e]!.get(shell)!;
      balance[e]! += change * add;
      adds[e]!.set(shell, add * (1 + change));
    }
  };
  const unsettled = [...edgesOf.keys()].sort((a, b) => area[a]! - area[b]!);
  // Turning first, sheets next: each only ever lowers the imbalance, so this ends.
  for (let again = true; again;) {
    again = false;
    for (const shell of unsettled)
      if (!sheet[shell] && gain(shell, -2) > 0) {
        apply(shell, -2);
        turnedShell[shell] = turnedShell[shell]! ^ 1;
        again = true;
      }
    const aside = unsettled.filter((shell) => !sheet[shell] && gain(shell, -1) > 0);
    const first = aside.find((shell) => openShell[shell]) ?? aside[0];
    if (!again && first !== undefined) {
      apply(first, -1);
      sheet[first] = 1;
      again = true;
    }
  }
  const root = (shell: number): number => {
    while (joined[shell] !== shell) shell = joined[shell] = joined[joined[shell]!]!;
    return shell;
  };
  const unmatched: number[] = [];
  adds.forEach((sums, e) => {
    const here = [...sums.keys()].filter((shell) => !sheet[shell]);
    for (const shell of here) joined[root(shell)] = root(here[0]!);
    for (let left = Math.abs(balance[e]!), i = crowdStarts[e]!; left > 0 && i < crowdStarts[e + 1]!; i++) {
      const half = crowds[i]!;
      const t = (half / 3) | 0;
      const shell = shells.of[t]!;
      if (sheet[shell]) continue;
      const up = (triangles[half]! < triangles[nextHalf(half)]! ? 1 : -1) * (shells.turned[t] ? -1 : 1);
      if ((turnedShell[shell] ? -up : up) !== Math.sign(balance[e]!)) continue;
      unmatched.push(half);
      left--;
    }
  });
  for (let shell = 0; shell < shells.count; shell++) joined[shell] = root(shell);
  return { joined, turnedShell, sheet, unmatched };
}
