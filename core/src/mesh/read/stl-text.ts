import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import { Welder } from '../weld.ts';
import { Growing, TOO_MANY, checkCoordinates } from './collect.ts';
import { LIMITS } from '../limits.ts';
import type { FileMesh } from './file.ts';
import { Words } from './words.ts';

/**
 * Reads a text STL file, of one or several solids. Normals are not looked at; indentation, capitals and a space after
 * "end" do not matter.
 * @throws MeshFault naming the line where it is no STL, or where it ends too soon
 */
export function readTextStl(bytes: Uint8Array, watch?: Watch): FileMesh {
  const words = new Words(bytes);
  const welder = new Welder(bytes.length / 500);
  const triangles = new Growing(new Uint32Array(3072), 3 * LIMITS.triangles, TOO_MANY);
  let inSolid = false;
  let count = 0;
  while (words.next()) {
    const ends = words.is('end') && words.next();
    if (ends && words.is('solid')) {
      skipName(words);
      inSolid = false;
    } else if (words.is('solid')) {
      // The name may hold any word; on a file in one line it is told by what follows.
      skipName(words);
      inSolid = true;
    } else if (words.is('endsolid')) {
      skipName(words);
      inSolid = false;
    } else if (words.is('facet')) {
      if ((count++ & 0xffff) === 0) step(watch, words.at / bytes.length, 'reading triangles');
      const corners = readFacet(words, welder);
      for (let i = 1; i < corners.length - 1; i++) {
        triangles.room(3);
        triangles.array.set([corners[0]!, corners[i]!, corners[i + 1]!], triangles.length);
        triangles.length += 3;
      }
    } else throw new MeshFault(`line ${words.line} has "${words.text()}" where a facet or the end is expected`);
  }
  if (count === 0) throw new MeshFault('the file holds no triangle');
  if (inSolid) throw new MeshFault(`the file ends in line ${words.line} without "endsolid": it is cut off`);
  return {
    format: 'STL',
    positions: welder.positions.slice(0, 3 * welder.count),
    triangles: triangles.done(),
    up: 'z',
    warnings: [],
  };
}

/** Goes over a solid's name, which ends with its line or, where all is in one line, before the next facet. */
function skipName(words: Words): void {
  for (let back = words.at; words.nextOnLine(); back = words.at)
    if (words.is('facet')) {
      const after = words.at;
      if (words.nextOnLine() && words.is('normal')) {
        words.at = back;
        return;
      }
      words.at = after;
    }
}

function readFacet(words: Words, welder: Welder): number[] {
  const line = words.line;
  const corners: number[] = [];
  while (words.next()) {
    if (words.is('vertex')) {
      if (corners.length === LIMITS.corners) throw new MeshFault(`the facet in line ${line} does not end`);
      const [x, y, z] = [words.number(), words.number(), words.number()];
      checkCoordinates(x, y, z, () => `line ${words.line}`);
      corners.push(welder.add(x, y, z));
    } else if (words.is('endfacet') || (words.is('end') && words.next() && words.is('facet'))) {
      if (corners.length < 3) throw new MeshFault(`the facet in line ${line} has ${corners.length} corners`);
      return corners;
    } else if (words.is('facet') || words.is('endsolid') || words.is('solid'))
      throw new MeshFault(`the facet in line ${line} does not end`);
    // "normal", its numbers, "outer", "loop" and "endloop" say nothing that the corners do not.
  }
  throw new MeshFault(`the file ends in line ${words.line}, in the middle of a triangle: it is cut off`);
}
