import { DecodeUTF8, strFromU8 } from 'fflate';
import { MeshFault } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { LENGTH_UNITS } from '../length.ts';
import { LIMITS } from '../limits.ts';
import { TOO_MANY } from './collect.ts';
import type { FileMesh } from './file.ts';
import { UNPLACED, placed } from './matrix.ts';
import type { Placement } from './matrix.ts';
import { assemble } from './parts.ts';
import type { Part } from './parts.ts';
import { modelReader } from './three-mf-part.ts';
import type { ModelFile, Use } from './three-mf-part.ts';
import { throughZip } from './zip.ts';

const LONGEST_LIST = 1_000_000;
const MODEL_KIND = 'http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel';

/**
 * Reads a 3MF package: the objects of its build list, put together from their components, each where it is placed.
 * @throws MeshFault where the package, its XML or what its parts say of each other is wrong
 */
export function read3mf(bytes: Uint8Array, watch?: Watch): FileMesh {
  const { names, root } = rootOf(bytes);
  const files = new Map<string, ModelFile>();
  readFiles(bytes, [root], files, watch);
  const main = files.get(root);
  if (!main) throw new MeshFault(`the package names "${root}" as its model and does not hold it`);
  for (let missing = askedFor(files); missing.length > 0; missing = askedFor(files)) {
    const lost = missing.find((path) => !names.includes(path));
    if (lost !== undefined) throw new MeshFault(`the model asks for "${lost}", which the package does not hold`);
    readFiles(bytes, missing, files, watch);
  }
  const warnings = [...files.values()].flatMap((file) => file.warnings);
  const build = main.build.length > 0 ? main.build : rootsOf(main);
  if (main.build.length === 0) warnings.push('the build list is empty; all objects were taken');
  const placements = place(build, root, files, main.unit, warnings);
  if (placements.every(({ part }) => part.triangles.length === 0)) throw new MeshFault('the file holds no triangle');
  return { format: '3MF', ...assemble(placements), unit: main.unit, up: 'z', warnings };
}

/** The names in the package, and the one that its relations call the model. */
function rootOf(bytes: Uint8Array): { names: string[]; root: string } {
  let relations = '';
  const names = throughZip(bytes, (name) =>
    name.toLowerCase() === '_rels/.rels'
      ? (piece) => {
          relations += strFromU8(piece);
          if (relations.length > LONGEST_LIST) throw new MeshFault('the list of relations in the package is too long');
        }
      : undefined,
  );
  const link = [...relations.matchAll(/<(?:\w+:)?Relationship\s[^>]*>/g)].map(([tag]) => tag);
  const target = link.find((tag) => tag.includes(MODEL_KIND))?.match(/\bTarget\s*=\s*["']([^"']+)["']/)?.[1];
  const root = target?.replace(/^\//, '') ?? names.find((name) => /\.model$/i.test(name));
  if (root === undefined) throw new MeshFault('the package holds no model');
  return { names, root };
}

function readFiles(bytes: Uint8Array, wanted: string[], files: Map<string, ModelFile>, watch: Watch | undefined): void {
  throughZip(bytes, (name) => {
    if (!wanted.includes(name) || files.has(name)) return undefined;
    const reader = modelReader(name, watch);
    const decode = new DecodeUTF8((text) => reader.take(text));
    return (piece, last) => {
      decode.push(piece, last);
      if (last) files.set(name, reader.end());
    };
  });
}

const pathOf = (use: Use, here: string): string => use.path?.replace(/^\//, '') ?? here;

/** Files that are named by those that were read and were not read themselves. */
function askedFor(files: Map<string, ModelFile>): string[] {
  const missing = new Set<string>();
  for (const [here, { things, build }] of files)
    for (const use of [...build, ...[...things.values()].flatMap(({ uses }) => uses)])
      if (!files.has(pathOf(use, here))) missing.add(pathOf(use, here));
  return [...missing];
}

/** Objects that no other object is put together from. */
function rootsOf({ things }: ModelFile): Use[] {
  const used = new Set([...things.values()].flatMap(({ uses }) => uses.map(({ object }) => object)));
  return [...things.keys()].filter((id) => !used.has(id)).map((object) => ({ object, at: UNPLACED }));
}

/** Every mesh where it comes to stand, in the main file's unit. */
function place(
  build: readonly Use[],
  root: string,
  files: Map<string, ModelFile>,
  unit: ModelFile['unit'],
  warnings: string[],
): { part: Part; at: Placement }[] {
  const placements: { part: Part; at: Placement }[] = [];
  let visited = 0;
  let triangles = 0;
  let supports = 0;
  const visit = (use: Use, here: string, outer: Placement, above: readonly string[]): void => {
    const path = pathOf(use, here);
    const file = files.get(path);
    const thing = file?.things.get(use.object);
    const key = `${path}#${use.object}`;
    if (!file || !thing) throw new MeshFault(`the model names the object ${use.object}, which does not exist`);
    if (above.includes(key)) throw new MeshFault(`the object ${use.object} contains itself`);
    if (above.length > LIMITS.depth || ++visited > LIMITS.copies)
      throw new MeshFault('the model repeats its parts beyond all measure');
    if (!thing.isBody) {
      supports++;
      return;
    }
    const at = placed(outer, use.at);
    if (thing.part) {
      triangles += thing.part.triangles.length / 3;
      if (triangles > LIMITS.triangles) throw new MeshFault(TOO_MANY);
      const k = LENGTH_UNITS[file.unit] / LENGTH_UNITS[unit];
      placements.push({ part: thing.part, at: k === 1 ? at : placed(at, [k, 0, 0, 0, k, 0, 0, 0, k, 0, 0, 0]) });
    }
    for (const inner of thing.uses) visit(inner, path, at, [...above, key]);
  };
  for (const use of build) visit(use, root, UNPLACED, []);
  if (supports > 0) warnings.push(`${supports} supports were left out`);
  return placements;
}
