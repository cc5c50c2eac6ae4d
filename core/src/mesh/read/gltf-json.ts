/** What is read of a glTF file: its geometry. Everything else in it is passed over. */
export interface Gltf {
  readonly scene?: number;
  readonly scenes?: readonly { readonly nodes?: readonly number[] }[];
  readonly nodes?: readonly GltfNode[];
  readonly meshes?: readonly { readonly primitives?: readonly GltfPrimitive[] }[];
  readonly accessors?: readonly GltfAccessor[];
  readonly bufferViews?: readonly GltfView[];
  readonly buffers?: readonly { readonly byteLength?: number; readonly uri?: string }[];
  readonly extensionsRequired?: readonly string[];
}

export interface GltfNode {
  readonly children?: readonly number[];
  readonly mesh?: number;
  readonly skin?: number;
  readonly matrix?: readonly number[];
  readonly translation?: readonly number[];
  readonly rotation?: readonly number[];
  readonly scale?: readonly number[];
  readonly extensions?: Readonly<Record<string, unknown>>;
}

export interface GltfPrimitive {
  readonly attributes?: Readonly<Record<string, number>>;
  readonly indices?: number;
  readonly mode?: number;
  readonly targets?: readonly unknown[];
  readonly extensions?: Readonly<Record<string, unknown>>;
}

export interface GltfView {
  readonly buffer?: number;
  readonly byteOffset?: number;
  readonly byteLength?: number;
  readonly byteStride?: number;
  readonly extensions?: Readonly<Record<string, unknown>>;
}

export interface GltfAccessor {
  readonly bufferView?: number;
  readonly byteOffset?: number;
  readonly componentType?: number;
  readonly normalized?: boolean;
  readonly count?: number;
  readonly type?: string;
  readonly sparse?: {
    readonly count?: number;
    readonly indices?: { readonly bufferView?: number; readonly byteOffset?: number; readonly componentType?: number };
    readonly values?: { readonly bufferView?: number; readonly byteOffset?: number };
  };
}

/** Kinds of numbers of an accessor: bytes, how one is read, and what is 1 where it is normalised. */
export const COMPONENTS: Readonly<
  Record<number, { bytes: number; most: number; read: (view: DataView, at: number) => number }>
> = {
  5120: { bytes: 1, most: 127, read: (view, at) => view.getInt8(at) },
  5121: { bytes: 1, most: 255, read: (view, at) => view.getUint8(at) },
  5122: { bytes: 2, most: 32767, read: (view, at) => view.getInt16(at, true) },
  5123: { bytes: 2, most: 65535, read: (view, at) => view.getUint16(at, true) },
  5125: { bytes: 4, most: 4294967295, read: (view, at) => view.getUint32(at, true) },
  5126: { bytes: 4, most: 1, read: (view, at) => view.getFloat32(at, true) },
};
