// Files of every format as tools write them, the odd ones too. One box of 30 × 20 × 10 goes into all of them.
import {
  RELATED,
  glbOf,
  gltfOf,
  meshXml,
  modelXml,
  objText,
  packageOf,
  plyBytes,
  stlText,
} from '../../testing/model-files.ts';
import type { Shape } from '../../testing/shapes.ts';
import { box, bytesOf, stlBytes, together } from '../../testing/shapes.ts';
import { boxOf } from '../body/box.ts';
import { sumUp } from '../body/sums.ts';
import type { FileMesh } from './file.ts';
import { readModel } from './read.ts';

const BOX = box(30, 20, 10);
const volumeOf = ({ positions, triangles }: Shape): number =>
  sumUp(
    positions,
    triangles,
    1,
    () => 0,
    () => false,
  )[0]!.volume;

/** Twelve triangles on eight vertices, which enclose 30 · 20 · 10, facing outward. */
function expectBox(mesh: FileMesh, volume = 6000): void {
  expect([mesh.triangles.length / 3, mesh.positions.length / 3]).toEqual([12, 8]);
  expect(volumeOf(mesh)).toBeCloseTo(volume, 3);
}

describe('reading STL', () => {
  it('reads bytes whatever the head says, and text in any dress', () => {
    expectBox(readModel(stlBytes(BOX), 'a.stl'));
    expectBox(readModel(stlBytes(BOX, 'solid facet normal'), 'a.stl'));
    const text = stlText(BOX, 'facet of a vertex');
    for (const dress of [
      text,
      text.toUpperCase(),
      text.replaceAll('\n', '\r\n'),
      text.replaceAll('\n', '\r'),
      text.replaceAll('\n', ' '),
      `\u00ef\u00bb\u00bf${text}`,
      text.replace(/ +/g, '\t'),
    ])
      expectBox(readModel(bytesOf(dress), 'a.STL'));
  });

  it('takes several solids, polygons, exponents, and welds −0 to 0', () => {
    const two = stlText(BOX) + stlText(box(1, 1, 1, [50, 0, 0]), 'y');
    expect(readModel(bytesOf(two), 'a.stl').triangles.length / 3).toBe(24);
    expectBox(
      readModel(bytesOf(stlText(BOX).replaceAll('30 ', '3.0E+01 ').replaceAll('vertex 0 ', 'vertex -0.0 ')), 'a.stl'),
    );
    const square =
      'solid\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 2 0 0\nvertex 2 2 0\nvertex 0 2 0\nendloop\nendfacet\nendsolid';
    expect(readModel(bytesOf(square), 'a.stl').triangles.length / 3).toBe(2);
  });

  it('does not mind capitals, tabs, line ends of another system, or "end facet" in two words', () => {
    const odd = stlText(BOX)
      .replaceAll('endloop', 'endLoop')
      .replaceAll('endfacet', 'END Facet')
      .replaceAll('endsolid', 'End Solid')
      .replaceAll(' ', '\t')
      .replaceAll('\n', '\r\n');
    expectBox(readModel(bytesOf(odd), 'a.stl'));
    expectBox(readModel(bytesOf(odd.replaceAll('END\tFacet', 'ENDFACET')), 'a.stl'));
  });

  it('refuses numbers with a decimal comma, which might be lists, and a file without any surface', () => {
    expect(() => readModel(bytesOf(stlText(BOX).replaceAll('30 ', '30,5 ')), 'a.stl')).toThrowError(
      /^a\.stl: line \d+ has "30,5": numbers with a decimal comma are not read/,
    );
    const line = 'facet normal 0 0 0\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 2 0 0\nendloop\nendfacet\n';
    expect(() => readModel(bytesOf(`solid\n${line.repeat(4)}endsolid`), 'a.stl')).toThrowError(/no surface to measure/);
    expect(() => readModel(bytesOf('v 0 0 0\nv 1 1 1\nf 1 2 2'), 'a.obj')).toThrowError(/no surface to measure/);
  });

  it('leaves out a few bytes after the last triangle, and says so', () => {
    const bytes = new Uint8Array([...stlBytes(BOX), 1, 2, 3]);
    const mesh = readModel(bytes, 'a.stl');
    expectBox(mesh);
    expect(mesh.warnings).toEqual(['3 bytes after the last triangle were left out']);
  });
});

describe('reading OBJ', () => {
  it('reads indices with texture and normal, from the end, of vertices further down, over several lines', () => {
    expectBox(readModel(bytesOf(objText(BOX)), 'a.obj'));
    expectBox(readModel(bytesOf(objText(BOX, (v) => `${v + 1}/1/1`)), 'a.obj'));
    expectBox(readModel(bytesOf(objText(BOX, (v) => `${v - 8}//2`)), 'a.obj'));
    const lines = objText(BOX).split('\n');
    expectBox(readModel(bytesOf([...lines.slice(8), ...lines.slice(0, 8)].join('\n')), 'a.obj'));
    expectBox(readModel(bytesOf(objText(BOX).replaceAll(/^f (\d) /gm, 'f $1 \\\r\n ')), 'a.obj'));
    const dressed = `# made by hand\nmtllib x.mtl\no box\n${objText(BOX).replaceAll(/^(v .*)$/gm, '$1 0.5 0.5 0.5')}\nl 1 2\ns off # end`;
    expectBox(readModel(bytesOf(dressed), 'a.obj'));
  });

  it('cuts polygons inside their outline, dented ones too', () => {
    // An arrow head in a plane: its area is 10 · 10 / 2 − 10 · 4 / 2 = 30; a fan from the first corner would leave it.
    const arrow = 'v 5 4 0\nv 10 0 0\nv 5 10 0\nv 0 0 0\n';
    const area = (faces: string) => {
      const mesh = readModel(bytesOf(arrow + faces), 'a.obj');
      return sumUp(
        mesh.positions,
        mesh.triangles,
        1,
        () => 0,
        () => false,
      )[0]!.area;
    };
    for (const face of ['f 1 2 3 4', 'f 2 3 4 1', 'f 4 3 2 1']) expect(area(face)).toBeCloseTo(30, 9);
    // A letter U of seven squares in an upright plane, turned either way: ear clipping in its own plane.
    const u = 'v 0 0 0\nv 0 3 0\nv 0 3 3\nv 0 2 3\nv 0 2 1\nv 0 1 1\nv 0 1 3\nv 0 0 3\n';
    for (const face of ['f 1 2 3 4 5 6 7 8', 'f 8 7 6 5 4 3 2 1']) {
      const mesh = readModel(bytesOf(u + face), 'a.obj');
      expect(
        sumUp(
          mesh.positions,
          mesh.triangles,
          1,
          () => 0,
          () => false,
        )[0]!.area,
      ).toBeCloseTo(7, 9);
    }
  });
});

describe('reading PLY', () => {
  for (const kind of ['ascii', 'binary_little_endian', 'binary_big_endian'] as const)
    it(`reads ${kind}, with further properties and elements too`, () => {
      expectBox(readModel(plyBytes(BOX, kind), 'a.ply'));
      expectBox(readModel(plyBytes(BOX, kind, true), 'a.ply'));
    });

  it('reads a head with CR LF, and a file with another name', () => {
    const text = String.fromCharCode(...plyBytes(BOX, 'ascii')).replaceAll('\n', '\r\n');
    expectBox(readModel(bytesOf(text), 'scan.dat'));
  });
});

describe('reading 3MF', () => {
  const object = (id: number, inside: string, type = 'model') => `<object id="${id}" type="${type}">${inside}</object>`;

  it('puts components together, places them, turns mirrored ones over, and knows the unit', () => {
    const objects =
      object(1, meshXml(BOX)) +
      object(
        2,
        '<components><component objectid="1"/><component objectid="1" transform="-1 0 0 0 1 0 0 0 1 -5 0 0"/></components>',
      );
    const bytes = packageOf({
      [RELATED]: modelXml(objects, '<item objectid="2" transform="2 0 0 0 2 0 0 0 2 0 0 100"/>', 'inch'),
    });
    const mesh = readModel(bytes, 'a.3mf');
    expect([mesh.unit, mesh.triangles.length / 3]).toEqual(['in', 24]);
    // Two boxes, both twice as large, the second mirrored to x from −35 to −5 before that.
    expect(volumeOf(mesh)).toBeCloseTo(2 * 8 * 6000, 6);
    expect(boxOf(mesh.positions)).toEqual({ min: [-70, 0, 100], max: [60, 40, 120] });
  });

  it('reads parts that lie in other files of the package, prefixes, stored files, and leaves supports out', () => {
    const part = modelXml(object(7, meshXml(BOX)), '', 'centimeter');
    const main = modelXml(
      object(1, '<components><component p:path="/3D/part.model" objectid="7"/></components>') +
        object(2, meshXml(BOX), 'support'),
      '<item objectid="1"/><item objectid="2"/>',
    );
    const mesh = readModel(packageOf({ [RELATED]: main, '3D/part.model': part }, 0), 'a.3mf');
    // Centimetres in a file that counts in millimetres.
    expectBox(mesh, 6_000_000);
    expect(mesh.warnings).toEqual(['1 supports were left out']);
    const prefixed = modelXml(object(1, meshXml(BOX)), '<item objectid="1"/>').replaceAll(/<(\/?)(?=[a-z])/g, '<$1m:');
    expectBox(readModel(packageOf({ [RELATED]: prefixed }), 'a.3mf'));
  });
});

describe('reading glTF', () => {
  it('places meshes by matrix and by shift, turn and scale, and counts in metres with Y up', () => {
    const nodes = [
      { children: [1, 2] },
      { mesh: 0, matrix: [2, 0, 0, 0, 0, 2, 0, 0, 0, 0, 2, 0, 100, 0, 0, 1] },
      // A quarter turn about z takes x to y; the scale mirrors.
      { mesh: 0, rotation: [0, 0, Math.SQRT1_2, Math.SQRT1_2], scale: [-1, 1, 1] },
    ];
    const mesh = readModel(glbOf(gltfOf(BOX, { nodes })), 'a.glb');
    expect([mesh.unit, mesh.up, mesh.triangles.length / 3]).toEqual(['m', 'y', 24]);
    expect(volumeOf(mesh)).toBeCloseTo(9 * 6000, 3);
    const { min, max } = boxOf(mesh.positions);
    [-20, -30, 0].forEach((value, k) => expect(min[k]).toBeCloseTo(value, 5));
    [160, 40, 20].forEach((value, k) => expect(max[k]).toBeCloseTo(value, 5));
  });

  it('reads data written inside the file, sparse changes, strips and fans', () => {
    const { json, data } = gltfOf(BOX);
    const uri = `data:application/octet-stream;base64,${(globalThis as unknown as { btoa(text: string): string }).btoa(String.fromCharCode(...data))}`;
    const inside = JSON.stringify({ ...json, buffers: [{ byteLength: data.length, uri }] });
    expectBox(readModel(bytesOf(inside), 'a.gltf'));

    // The last vertex, 30 20 10, is moved to 30 20 40.
    const change = new Uint8Array(16);
    change[0] = 7;
    new Float32Array(change.buffer, 4).set([30, 20, 40]);
    const both = new Uint8Array([...data, ...change]);
    const sparse = {
      count: 1,
      indices: { bufferView: 2, componentType: 5121 },
      values: { bufferView: 2, byteOffset: 4 },
    };
    const accessors = json['accessors'] as object[];
    const moved = {
      ...json,
      accessors: [{ ...accessors[0], sparse }, accessors[1]],
      bufferViews: [...(json['bufferViews'] as object[]), { buffer: 0, byteOffset: data.length, byteLength: 16 }],
      buffers: [{ byteLength: both.length }],
    };
    expect(boxOf(readModel(glbOf({ json: moved, data: both }), 'a.glb').positions).max).toEqual([30, 20, 40]);

    const open = together({ positions: BOX.positions, triangles: Uint32Array.of(0, 2, 1, 3, 5, 7) });
    const drawn = (mode: number) =>
      readModel(
        glbOf(gltfOf(open, { meshes: [{ primitives: [{ attributes: { POSITION: 0 }, indices: 1, mode }] }] })),
        'a.glb',
      );
    expect([...drawn(5).triangles].length).toBe(12);
    expect([...drawn(6).triangles].length).toBe(12);
  });
});
