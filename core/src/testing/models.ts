// From a shape to a body or a field in one step, for the specs of the measuring engine.
import type { Examined } from '../mesh/body/body.ts';
import { examine } from '../mesh/body/examine.ts';
import type { Sizing } from '../mesh/body/model.ts';
import { sizeModel } from '../mesh/body/model.ts';
import { SolidField } from '../mesh/field/solid-field.ts';
import { readModel } from '../mesh/read/read.ts';
import type { Kernel } from '../mesh/solid/kernel.ts';
import { loadKernel } from '../mesh/solid/kernel.ts';
import { weldIndexed } from '../mesh/weld.ts';
import type { Shape } from './shapes.ts';
import { stlBytes } from './shapes.ts';

/** A shape as it comes out of an STL file: in single precision, welded again. */
export const fromStl = (shape: Shape, sizing: Sizing = { unit: 'mm' }): Examined =>
  examine(sizeModel(readModel(stlBytes(shape), 'shape.stl'), 'shape.stl', sizing));

/** A shape with its own exact numbers, as one triangle soup or with its vertices as they are. */
export function exact({ positions, triangles }: Shape): Examined {
  const mesh = weldIndexed(positions, triangles.slice());
  return examine(sizeModel({ format: 'OBJ', ...mesh, up: 'z', warnings: [] }, 'shape', { unit: 'mm' }));
}

export const fieldOf = (shape: Shape): SolidField => new SolidField(exact(shape).body);

/** The geometry kernel: in a browser its program is served beside the specs. */
export const testKernel = (): Promise<Kernel> => loadKernel('document' in globalThis ? '/manifold.wasm' : undefined);
