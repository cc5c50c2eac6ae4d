import type { Body, Examined } from '../body/body.ts';
import { sumUp } from '../body/sums.ts';
import { MeshFault } from '../fault.ts';
import type { Kernel } from './kernel.ts';

/**
 * The examined model with its overlapping shells united, so that no metal counts twice. Where the kernel cannot take a
 * shell the sums stay as they are and the warning says so.
 */
export function uniteShells(examined: Examined, kernel: Kernel): Examined {
  const { body, overlapping, findings } = examined;
  if (!overlapping) return examined;
  const said = (text: string): Examined['findings'] => ({ ...findings, warnings: [...findings.warnings, text] });
  let united;
  try {
    united = kernel.unite(body.positions, overlapping);
  } catch (error) {
    if (!(error instanceof MeshFault)) throw error;
    return { body, findings: said('shells overlap and could not be united: where they do the metal counts twice') };
  }
  const [sums] = sumUp(
    united.positions,
    united.triangles,
    1,
    () => 0,
    () => false,
  );
  const { volume, area, moment } = sums!;
  const fresh: Body = {
    ...body,
    ...united,
    capsFrom: united.triangles.length / 3,
    volumeMm3: volume,
    areaMm2: area,
    centroidMm: [0, 1, 2].map((k) => body.originMm[k]! + moment[k]! / volume) as [number, number, number],
  };
  return { body: fresh, findings: said('shells that overlap were united: where they do the metal counts once') };
}
