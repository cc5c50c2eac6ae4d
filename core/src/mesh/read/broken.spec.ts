// Files that are broken, lie, or want to do harm: refused with a word on what is wrong, or read with a warning.
import { zipSync } from 'fflate';
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
import { ball, box, bytesOf, stlBytes } from '../../testing/shapes.ts';
import { MeshFault } from '../fault.ts';
import { readModel } from './read.ts';

const BOX = box(30, 20, 10);
const OBJECT = `<object id="1">${meshXml(BOX)}</object>`;
const ITEM = '<item objectid="1"/>';
const threeMf = (model: string) => packageOf({ [RELATED]: model });
const glb = (changes: Record<string, unknown>) => glbOf(gltfOf(BOX, changes));

function changed(bytes: Uint8Array, at: number, kind: 'Float32' | 'Uint32', value: number): Uint8Array {
  const copy = bytes.slice();
  new DataView(copy.buffer)[`set${kind}`](at, value, true);
  return copy;
}

/** Name, file, and what is said of it. */
const REFUSED: readonly (readonly [string, string | Uint8Array, RegExp])[] = [
  ['nothing.stl', '', /nothing\.stl: the file is empty/],
  ['short.stl', 'abc', /at least 84 bytes/],
  ['cut.stl', stlBytes(BOX).subarray(0, 600), /says 12 triangles and holds 10/],
  ['lying.stl', changed(stlBytes(BOX), 80, 'Uint32', 4e9), /says 4000000000 triangles and holds 12/],
  ['fewer.stl', changed(stlBytes(BOX), 80, 'Uint32', 3), /says 3 triangles and holds 12/],
  ['none.stl', stlBytes({ positions: new Float64Array(), triangles: new Uint32Array() }), /no triangle/],
  ['nan.stl', changed(stlBytes(BOX), 96, 'Float32', NaN), /triangle 1 has a coordinate that is not a number/],
  ['far.stl', changed(stlBytes(BOX), 96, 'Float32', 1e30), /triangle 1 has the coordinate 1.0000.*beyond/],
  ['word.stl', stlText(BOX).replace('vertex 30', 'vertex thirty'), /line \d+ has "thirty" where a number/],
  ['middle.stl', stlText(BOX).slice(0, 300), /in the middle of a triangle|does not end/],
  ['noend.stl', stlText(BOX).split('endsolid')[0]!, /without "endsolid"/],
  [
    'two.stl',
    'solid x\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nendloop\nendfacet\nendsolid',
    /2 corners/,
  ],
  ['beyond.obj', `${objText(BOX)}\nf 1 2 9`, /line 21 names the vertex 9, but the file has 8/],
  ['zero.obj', `${objText(BOX)}\nf 0 1 2`, /line 21 names the vertex 0/],
  ['before.obj', `v 0 0 0\nf -1 -2 -3`, /names the vertex -2/],
  ['flat.obj', 'v 1 2\n', /fewer than three numbers/],
  ['points.obj', 'v 1 2 3\nv 4 5 6\n', /point cloud/],
  ['letters.obj', `${objText(BOX)}\nf a b c`, /"a" where a vertex number/],
  ['head.ply', 'ply\nformat ascii 1.0\nelement vertex many\n', /line 3 of the head/],
  ['open.ply', 'ply\nformat ascii 1.0\n', /the head does not end/],
  [
    'lying.ply',
    String.fromCharCode(...plyBytes(BOX, 'ascii')).replace('face 12', 'face 2000000000'),
    /says 2000000000 of "face"/,
  ],
  [
    'index.ply',
    String.fromCharCode(...plyBytes(BOX, 'ascii')).replace('\n3 0 2 3', '\n3 0 2 8'),
    /names the vertex 8, but there are 8/,
  ],
  ['cut.ply', plyBytes(BOX, 'binary_big_endian').subarray(0, 400), /cut off/],
  ['zip.3mf', 'PK\x03\x04 and so on', /no package \(zip\)/],
  ['cut.3mf', threeMf(modelXml(OBJECT, ITEM)).subarray(0, 400), /cut off/],
  [
    'circle.3mf',
    threeMf(modelXml('<object id="1"><components><component objectid="1"/></components></object>', ITEM)),
    /contains itself/,
  ],
  ['lost.3mf', threeMf(modelXml(OBJECT, '<item objectid="5"/>')), /the object 5, which does not exist/],
  ['index.3mf', threeMf(modelXml(OBJECT.replace('v1="0"', 'v1="8"'), ITEM)), /names the vertex 8, but there are 8/],
  ['xml.3mf', threeMf('<model><resources></model>'), /no proper XML/],
  ['unit.3mf', threeMf(modelXml(OBJECT, ITEM, 'cubit')), /unit "cubit" is not known/],
  ['entity.3mf', threeMf(modelXml(OBJECT, ITEM, 'inch', '<!DOCTYPE x [<!ENTITY a "aa">]>')), /document type/],
  ['deep.3mf', threeMf(`<model>${'<a>'.repeat(2000)}`), /nested beyond all measure/],
  ['other.3mf', zipSync({ 'readme.txt': bytesOf('no model') }), /holds no model/],
  [
    'beam.3mf',
    threeMf(modelXml(OBJECT, ITEM).replace('<model ', '<model requiredextensions="beamlattice" ')),
    /needs the extension beamlattice/,
  ],
  ['cut.glb', glb({}).subarray(0, 500), /says \d+ bytes and has 500/],
  ['circle.glb', glb({ nodes: [{ mesh: 0, children: [0] }] }), /node 0 hangs on itself/],
  [
    'count.glb',
    glb({ accessors: [{ bufferView: 0, componentType: 5126, count: 1000, type: 'VEC3' }, {}] }),
    /more bytes than there are/,
  ],
  ['huge.glb', glb({ accessors: [{ componentType: 5126, count: 4e9, type: 'VEC3' }, {}] }), /no data/],
  ['beside.glb', glb({ buffers: [{ byteLength: 1, uri: 'secret.bin' }] }), /another file \(secret\.bin\)/],
  ['packed.glb', glb({ extensionsRequired: ['KHR_draco_mesh_compression'] }), /KHR_draco_mesh_compression/],
  ['list.gltf', '[1, 2]', /no glTF/],
  ['half.gltf', '{"asset":', /no JSON/],
  ['drawing.dwg', 'hello', /this kind of file is not read; models are STL, OBJ/],
];

describe('broken and hostile models', () => {
  it('are refused with a word on what is wrong, the name first', () => {
    for (const [name, file, says] of REFUSED) {
      const bytes = typeof file === 'string' ? bytesOf(file) : file;
      expect(() => readModel(bytes, `/tmp/${name}`))
        .withContext(name)
        .toThrowMatching(
          (error: Error) =>
            error instanceof MeshFault && says.test(error.message) && error.message.startsWith(`${name}: `),
        );
    }
  });

  it('that repeat their parts without end are refused before memory is asked for', () => {
    const doubling = Array.from(
      { length: 60 },
      (_, i) =>
        `<object id="${i + 2}"><components><component objectid="${i + 1}"/><component objectid="${i + 1}"/></components></object>`,
    );
    const bytes = threeMf(modelXml(OBJECT + doubling.join(''), '<item objectid="61"/>'));
    expect(() => readModel(bytes, 'many.3mf')).toThrowError(MeshFault, /repeats its parts beyond all measure/);
    const nodes = [{ mesh: 0 }, ...Array.from({ length: 60 }, (_, i) => ({ children: [i, i] }))];
    expect(() => readModel(glb({ nodes, scenes: [{ nodes: [60] }] }), 'many.glb')).toThrowError(
      MeshFault,
      /repeats its nodes/,
    );
    // Five hundred times the same bytes, each time as something new.
    const places = ball(10, 64, 32);
    const accessor = { bufferView: 0, componentType: 5120, count: places.positions.length, type: 'VEC3' };
    const primitives = Array.from({ length: 500 }, (_, i) => ({ attributes: { POSITION: i } }));
    const same = glbOf(gltfOf(places, { accessors: primitives.map(() => accessor), meshes: [{ primitives }] }));
    expect(() => readModel(same, 'same.glb')).toThrowError(MeshFault, /repeats its data beyond all measure/);
  });

  it('that grow when they are unpacked are refused by what they say, and where that is a lie as soon as it shows', () => {
    const bomb = packageOf({ [RELATED]: new Uint8Array(100_000_000).fill(32) });
    expect(bomb.length).toBeLessThan(200_000);
    expect(() => readModel(bomb, 'bomb.3mf')).toThrowError(MeshFault, /grows out of all proportion/);
    // The directory's entry of the model: its unpacked size stands 24 bytes after the entry's mark.
    const view = new DataView(bomb.buffer, bomb.byteOffset);
    for (let at = 0; at + 46 < bomb.length; at++)
      if (view.getUint32(at, true) === 0x02014b50 && view.getUint32(at + 24, true) === 100_000_000)
        view.setUint32(at + 24, 1000, true);
    expect(() => readModel(bomb, 'liar.3mf')).toThrowError(MeshFault, /larger than the package says/);
  });

  it('with a bit turned inside the package are found by its check sum', () => {
    const bytes = packageOf({ [RELATED]: modelXml(OBJECT, ITEM) }, 0);
    const at = String.fromCharCode(...bytes).indexOf('x="30"') + 3;
    bytes[at] = '9'.charCodeAt(0);
    expect(() => readModel(bytes, 'bit.3mf')).toThrowError(MeshFault, /is damaged/);
  });

  it('cut anywhere or with bytes changed are read or refused, never anything else', () => {
    const files: [string, Uint8Array][] = [
      ['a.stl', stlBytes(BOX)],
      ['b.stl', bytesOf(stlText(BOX))],
      ['a.obj', bytesOf(objText(BOX, (v) => `${v + 1}/2/3`))],
      ['a.ply', plyBytes(BOX, 'ascii', true)],
      ['b.ply', plyBytes(BOX, 'binary_little_endian', true)],
      ['a.3mf', threeMf(modelXml(OBJECT, ITEM))],
      ['b.3mf', packageOf({ [RELATED]: modelXml(OBJECT, ITEM) }, 0)],
      ['a.glb', glb({})],
      ['a.gltf', bytesOf(JSON.stringify(gltfOf(BOX).json))],
    ];
    // A fixed sequence (Numerical Recipes' generator): what fails once fails again.
    let seed = 7;
    const chance = (below: number) => {
      seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
      return seed % below;
    };
    let refused = 0;
    for (const [name, whole] of files)
      for (let round = 0; round < 250; round++) {
        const bytes = round % 3 === 0 ? whole.slice(0, chance(whole.length)) : whole.slice();
        for (let i = chance(4); bytes.length > 0 && i >= 0; i--) bytes[chance(bytes.length)] = chance(256);
        try {
          const mesh = readModel(bytes, name);
          expect(mesh.triangles.length).toBeGreaterThan(0);
          expect(mesh.triangles.every((vertex) => vertex < mesh.positions.length / 3)).toBeTrue();
          expect(mesh.positions.every((value) => Number.isFinite(value))).toBeTrue();
        } catch (error) {
          if (!(error instanceof MeshFault))
            throw new Error(`${name}, round ${round}: ${String(error)}`, { cause: error });
          refused++;
        }
      }
    expect(refused).toBeGreaterThan(800);
  });
});
