import { strToU8, zipSync } from 'fflate';
import type { Closed } from '../solid/kernel.ts';

/** A part of a 3MF file: a mesh in mm and its name. */
export interface NamedMesh extends Closed {
  readonly name: string;
  readonly originMm?: readonly [number, number, number];
}

const TYPES = `<?xml version="1.0" encoding="UTF-8"?>
<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>`;
const RELATIONS = `<?xml version="1.0" encoding="UTF-8"?>
<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Target="/3D/3dmodel.model" Id="model" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>`;

/** A 3MF file of parts, one object each, in millimetres (3MF Core Specification). */
export function write3mf(parts: readonly NamedMesh[]): Uint8Array {
  const objects = parts.map((part, i) => objectOf(part, i + 1)).join('');
  const items = parts.map((_, i) => `<item objectid="${i + 1}"/>`).join('');
  const model = `<?xml version="1.0" encoding="UTF-8"?>
<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02"><resources>${objects}</resources><build>${items}</build></model>`;
  return zipSync({
    '[Content_Types].xml': strToU8(TYPES),
    '_rels/.rels': strToU8(RELATIONS),
    '3D/3dmodel.model': strToU8(model),
  });
}

function objectOf({ name, positions, triangles, originMm = [0, 0, 0] }: NamedMesh, id: number): string {
  const vertices: string[] = [];
  for (let i = 0; i < positions.length; i += 3)
    vertices.push(
      `<vertex x="${positions[i]! + originMm[0]}" y="${positions[i + 1]! + originMm[1]}" z="${positions[i + 2]! + originMm[2]}"/>`,
    );
  const faces: string[] = [];
  for (let i = 0; i < triangles.length; i += 3)
    faces.push(`<triangle v1="${triangles[i]}" v2="${triangles[i + 1]}" v3="${triangles[i + 2]}"/>`);
  return `<object id="${id}" type="model" name="${escaped(name)}"><mesh><vertices>${vertices.join('')}</vertices><triangles>${faces.join('')}</triangles></mesh></object>`;
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (letter) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[letter]!);
