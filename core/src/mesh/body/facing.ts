/** What a shell is in the body. */
export type Part = 'body' | 'cavity' | 'swallowed';

export interface Facing {
  readonly part: readonly Part[];
  /** Whether a shell is to be turned over. */
  readonly turn: readonly boolean[];
  /** Shells in no other that faced inward. */
  readonly insideOut: readonly number[];
  /** Shells inside another that face the same way as it does: read as swallowed by it, not as hollows. */
  readonly sameWay: readonly number[];
}

/**
 * Decides what each closed shell bounds. One that lies in no other bounds a body, whichever way it faces. Going inward,
 * a shell that faces the other way than the outermost one around it bounds a cavity, or inside a cavity a body again;
 * one that faces the same way where there is metal already adds none.
 * @param volume the signed volume of each shell as it faces; @param inside the shells that hold each
 */
export function faceShells(volume: readonly number[], inside: readonly ReadonlySet<number>[]): Facing {
  const count = volume.length;
  const order = Array.from({ length: count }, (_, i) => i).sort((a, b) => inside[a]!.size - inside[b]!.size);
  const part: Part[] = new Array<Part>(count).fill('body');
  const turn: boolean[] = new Array<boolean>(count).fill(false);
  const insideOut: number[] = [];
  const sameWay: number[] = [];
  /** How often metal lies just inside each shell, and whether its family came turned over as a whole. */
  const layers = new Array<number>(count).fill(0);
  const mirrored = new Array<boolean>(count).fill(false);
  for (const shell of order) {
    const outward = volume[shell]! > 0;
    // The innermost of those that hold it is the one that itself lies in the most.
    const holder = [...inside[shell]!].sort((a, b) => inside[b]!.size - inside[a]!.size)[0];
    if (holder === undefined) {
      layers[shell] = 1;
      mirrored[shell] = turn[shell] = !outward;
      if (!outward) insideOut.push(shell);
      continue;
    }
    mirrored[shell] = mirrored[holder]!;
    const faces = outward !== mirrored[shell] ? 1 : -1;
    const around = layers[holder]!;
    layers[shell] = around + faces;
    turn[shell] = mirrored[shell]!;
    if (around > 0 && layers[shell] === 0) part[shell] = 'cavity';
    else if (around > 0) {
      part[shell] = 'swallowed';
      if (faces > 0) sameWay.push(shell);
    } else if (faces < 0) {
      // In a hollow, facing inward: a loose body that is inside out.
      layers[shell] = 1;
      turn[shell] = !turn[shell];
      insideOut.push(shell);
    }
  }
  return { part, turn, insideOut, sameWay };
}
