import { MeshFault } from '../fault.ts';
import { LIMITS } from '../limits.ts';
import { fromBase64 } from './base64.ts';
import { TOO_MANY } from './collect.ts';
import { COMPONENTS } from './gltf-json.ts';
import type { Gltf, GltfAccessor } from './gltf-json.ts';

/** Reads the numbers of a glTF file's accessors. Every offset and count is held against what is there before it is used. */
export class GltfData {
  private readonly buffers: (Uint8Array | undefined)[] = [];
  private readonly known = new Map<number, Float64Array | Uint32Array>();
  private spent = 0;

  /** @param inner the bytes that come with a GLB file; none with a plain glTF */
  constructor(
    private readonly json: Gltf,
    private readonly inner: Uint8Array | undefined,
    private readonly fileBytes: number,
  ) {}

  /** Three numbers a vertex. @throws MeshFault where the accessor is no list of places */
  positions(index: number): Float64Array {
    const known = this.known.get(index);
    if (known instanceof Float64Array) return known;
    const accessor = this.accessor(index);
    if (accessor.type !== 'VEC3') throw new MeshFault(`accessor ${index} holds ${accessor.type}, not places`);
    return this.numbers(index, accessor, 3, new Float64Array(3 * this.count(index, accessor)));
  }

  /** One number a corner. @throws MeshFault where the accessor is no list of whole numbers */
  indices(index: number): Uint32Array {
    const known = this.known.get(index);
    if (known instanceof Uint32Array) return known;
    const accessor = this.accessor(index);
    if (accessor.type !== 'SCALAR' || ![5121, 5123, 5125].includes(accessor.componentType ?? 0))
      throw new MeshFault(`accessor ${index} holds no vertex numbers`);
    return this.numbers(index, accessor, 1, new Uint32Array(this.count(index, accessor)));
  }

  private accessor(index: number): GltfAccessor {
    const accessor = this.json.accessors?.[index];
    if (!accessor || typeof accessor !== 'object') throw new MeshFault(`the file has no accessor ${index}`);
    return accessor;
  }

  private count(index: number, { count, bufferView, sparse }: GltfAccessor): number {
    if (!Number.isInteger(count) || count! < 0) throw new MeshFault(`accessor ${index} has the count ${count}`);
    // Without data of its own it is all zeros, of which a lying count could ask for any number.
    if (bufferView === undefined && !sparse && count! > 0) throw new MeshFault(`accessor ${index} has no data`);
    if (count! > 3 * LIMITS.triangles) throw new MeshFault(TOO_MANY);
    // Each number takes at least a byte; many accessors over the same bytes are a trap.
    this.spent += 3 * count!;
    if (this.spent > 6 * this.fileBytes + 1e6) throw new MeshFault('the file repeats its data beyond all measure');
    return count!;
  }

  private numbers<A extends Float64Array | Uint32Array>(
    index: number,
    accessor: GltfAccessor,
    width: number,
    into: A,
  ): A {
    const kind = COMPONENTS[accessor.componentType ?? 0];
    if (!kind) throw new MeshFault(`accessor ${index} has numbers of the unknown kind ${accessor.componentType}`);
    const what = `accessor ${index}`;
    const scale = accessor.normalized ? 1 / kind.most : 1;
    const size = kind.bytes * width;
    const count = into.length / width;
    this.known.set(index, into);
    if (accessor.bufferView !== undefined) {
      const { view, stride } = this.slice(what, accessor.bufferView, accessor.byteOffset, size, count);
      for (let i = 0; i < count; i++)
        for (let k = 0; k < width; k++) into[i * width + k] = kind.read(view, i * stride + k * kind.bytes) * scale;
    }
    const { sparse } = accessor;
    if (!sparse) return into;
    const changes = sparse.count ?? -1;
    const order = COMPONENTS[sparse.indices?.componentType ?? 0];
    if (!Number.isInteger(changes) || changes < 0 || changes > count || !order)
      throw new MeshFault(`${what} has a wrong list of changes`);
    const from = this.slice(what, sparse.indices?.bufferView, sparse.indices?.byteOffset, order.bytes, changes);
    const values = this.slice(what, sparse.values?.bufferView, sparse.values?.byteOffset, size, changes);
    for (let i = 0; i < changes; i++) {
      const at = order.read(from.view, i * from.stride);
      if (at >= count) throw new MeshFault(`${what} has a wrong list of changes`);
      for (let k = 0; k < width; k++)
        into[at * width + k] = kind.read(values.view, i * values.stride + k * kind.bytes) * scale;
    }
    return into;
  }

  /** The bytes of so many elements, checked against the view and the buffer they lie in. */
  private slice(what: string, viewIndex: number | undefined, byteOffset = 0, size: number, count: number) {
    const view = this.json.bufferViews?.[viewIndex ?? -1];
    if (!view) throw new MeshFault(`${what} names the view ${viewIndex}, which does not exist`);
    if (view.extensions?.['EXT_meshopt_compression'])
      throw new MeshFault('the triangles are packed (EXT_meshopt_compression): save the file without packing');
    const buffer = this.buffer(view.buffer ?? -1);
    const offset = view.byteOffset ?? 0;
    const length = view.byteLength ?? 0;
    const stride = view.byteStride ?? size;
    const whole = [offset, length, stride, byteOffset].every((each) => Number.isInteger(each) && each >= 0);
    if (!whole || (count > 0 && stride < size)) throw new MeshFault(`${what} has an offset or length that cannot be`);
    const need = count === 0 ? 0 : byteOffset + (count - 1) * stride + size;
    if (need > length || offset + length > buffer.length)
      throw new MeshFault(`${what} asks for more bytes than there are: the file is cut off or wrong`);
    return { view: new DataView(buffer.buffer, buffer.byteOffset + offset + byteOffset), stride };
  }

  private buffer(index: number): Uint8Array {
    return (this.buffers[index] ??= this.load(index));
  }

  private load(index: number): Uint8Array {
    const buffer = this.json.buffers?.[index];
    if (!buffer) throw new MeshFault(`the file names the buffer ${index}, which does not exist`);
    if (buffer.uri === undefined) {
      if (index === 0 && this.inner) return this.inner;
      throw new MeshFault('the file has no data of its own: it is cut off');
    }
    const data = /^data:[^,]*?;base64,/.exec(String(buffer.uri).slice(0, 200));
    if (!data)
      throw new MeshFault(
        `its triangles lie in another file (${String(buffer.uri).slice(0, 60)}): save it as one GLB file`,
      );
    return fromBase64(buffer.uri.slice(data[0].length));
  }
}
