/** Numbers from 0 to 1 that are the same at each run of a seed (D. Lehmer's generator). */
export function chance(seed: number): () => number {
  let state = (Math.abs(Math.floor(seed)) % 2_147_483_646) + 1;
  return () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
}

/** A normal deviate from two of them (G. Box and M. Muller). */
export const normal = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(Math.max(1e-12, random()))) * Math.cos(2 * Math.PI * random());
