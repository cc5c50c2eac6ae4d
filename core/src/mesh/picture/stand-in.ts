import { MeshoptSimplifier } from 'meshoptimizer';
import type { Closed } from '../solid/kernel.ts';

/** Triangles that a picture can be turned with smoothly where no graphics card helps. */
export const STAND_IN_TRIANGLES = 60_000;
/** How far the stand-in may lie off, as a share of the model's size; it is only looked at while turning. */
const OFF = 0.02;

/**
 * A coarser mesh over the same vertices, to be shown while a model is turned (M. Garland and P. Heckbert, 1997, as kept in
 * meshoptimizer). @returns its triangles; all of them where there are few anyway
 */
export async function standIn({ positions, triangles }: Closed, most = STAND_IN_TRIANGLES): Promise<Uint32Array> {
  if (triangles.length / 3 <= most) return triangles;
  await MeshoptSimplifier.ready;
  const [coarse] = MeshoptSimplifier.simplify(triangles, Float32Array.from(positions), 3, most * 3, OFF);
  return coarse.length > 0 ? coarse : triangles;
}
