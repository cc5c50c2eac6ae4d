import { step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { Examined, Findings } from './body.ts';
import { boundSolid } from './bound.ts';
import type { Box } from './box.ts';
import { boxOf } from './box.ts';
import { withoutDoubles } from './doubles.ts';
import { matchEdges } from './edges.ts';
import type { Model } from './model.ts';
import { weldNear } from './near-weld.ts';
import { takeShells } from './take-shells.ts';
import { counted, lengthInWords } from './words.ts';

/**
 * Finds out what a model's triangles bound: counts faults, turns triangles the right way, closes holes, and tells
 * bodies, cavities and sheets apart. Everything that was not taken as the file has it is said in the warnings.
 * @throws Cancelled
 */
export function examine(model: Model, watch?: Watch): Examined {
  const { positions } = model;
  const warnings = [...model.warnings];
  step(watch, 0, 'matching edges');
  const near = weldNear(positions, model.triangles, matchEdges(model.triangles, positions.length / 3), model.grainMm);
  const { triangles: welded, edges: counts } = near;
  if (near.toleranceMm > 0)
    warnings.push(
      `${counted(near.weldedVertices, 'vertex', 'vertices')} on open edges within ${lengthInWords(near.toleranceMm)} were taken for one`,
    );
  const doubles = withoutDoubles(welded, counts);
  if (doubles.dropped > 0) warnings.push(`${counted(doubles.dropped, 'double triangle')} left out`);
  const { triangles } = doubles;
  const edges = doubles.dropped > 0 ? matchEdges(triangles, positions.length / 3) : counts;
  step(watch, 0.3, 'gathering shells');
  const shells = takeShells(positions, triangles, edges, warnings);
  step(watch, 0.6, 'adding up');
  const solid = boundSolid(model, triangles, shells, warnings, watch);
  const findings: Findings = {
    triangles: model.triangles.length / 3,
    vertices: usedVertices(welded, positions.length / 3),
    openEdges: counts.open,
    nonManifoldEdges: counts.nonManifold,
    shells: shells.count,
    cavities: solid.facing.part.filter((part) => part === 'cavity').length,
    insideOutShells: solid.facing.insideOut.length,
    watertight: counts.open === 0 && counts.nonManifold === 0,
    boxMm: moved(boxOf(positions), model.originMm),
    weldToleranceMm: near.toleranceMm,
    warnings,
  };
  return { findings, body: solid.body, ...(solid.overlapping ? { overlapping: solid.overlapping } : {}) };
}

function usedVertices(triangles: Uint32Array, count: number): number {
  const used = new Uint8Array(count);
  for (let i = 0; i < triangles.length; i++) used[triangles[i]!] = 1;
  let sum = 0;
  for (let i = 0; i < count; i++) sum += used[i]!;
  return sum;
}

const moved = ({ min, max }: Box, by: readonly [number, number, number]): Box => ({
  min: [min[0] + by[0], min[1] + by[1], min[2] + by[2]],
  max: [max[0] + by[0], max[1] + by[1], max[2] + by[2]],
});
