import { SaxesParser } from 'saxes';
import type { SaxesTagPlain } from 'saxes';
import { MeshFault, step } from '../fault.ts';
import type { Watch } from '../fault.ts';
import type { LengthUnit } from '../length.ts';
import { LIMITS } from '../limits.ts';
import { Collector } from './collect.ts';
import { UNPLACED } from './matrix.ts';
import type { Placement } from './matrix.ts';
import type { Part } from './parts.ts';

const UNITS: Readonly<Record<string, LengthUnit>> = {
  micron: 'micron',
  millimeter: 'mm',
  centimeter: 'cm',
  meter: 'm',
  inch: 'in',
  foot: 'ft',
};

/** A use of an object: which one, in which file of the package, and where. */
export interface Use {
  readonly object: string;
  /** Another file of the package; none for the same file. */
  readonly path?: string;
  readonly at: Placement;
}

/** An object is a mesh, or is put together from others. */
export interface Thing {
  readonly part?: Part;
  readonly uses: readonly Use[];
  /** Supports and the like are printed and are no part of the body. */
  readonly isBody: boolean;
}

/** One model file of a 3MF package. */
export interface ModelFile {
  unit: LengthUnit;
  readonly things: Map<string, Thing>;
  readonly build: Use[];
  readonly warnings: string[];
}

/** Extensions without which the shape would be another one. */
const SHAPES = ['beamlattice', 'volumetric', 'implicit', 'displacement', 'boolean', 'slice', 'securecontent', 'sc'];

/**
 * Reads one model file of a 3MF package as its text comes in. The XML is read by a parser that knows no entities but
 * the five of XML; a document type, where others could be declared, is refused.
 */
export function modelReader(name: string, watch?: Watch): { take(text: string): void; end(): ModelFile } {
  const file: ModelFile = { unit: 'mm', things: new Map(), build: [], warnings: [] };
  const parser = new SaxesParser({ xmlns: false, position: false });
  let mesh: Collector | undefined;
  let uses: Use[] = [];
  let object: { id: string; isBody: boolean } | undefined;
  let seenModel = false;
  let seen = 0;
  let depth = 0;
  const wrong = (text: string) => new MeshFault(`${name}: ${text}`);

  const number = (tag: SaxesTagPlain, key: string): number => {
    const text = tag.attributes[key];
    const value = text === undefined || text.trim() === '' ? NaN : Number(text);
    if (Number.isNaN(value))
      throw wrong(
        text === undefined
          ? `a ${local(tag.name)} without ${key}`
          : `"${text.slice(0, 40)}" is no number for the ${key} of a ${local(tag.name)}`,
      );
    return value;
  };
  const index = (tag: SaxesTagPlain, key: string): number => {
    const value = number(tag, key);
    if (!Number.isInteger(value) || value < 0 || value > 0xfffffffe)
      throw wrong(`a triangle names the vertex ${tag.attributes[key]}`);
    return value;
  };
  const use = (tag: SaxesTagPlain): Use => {
    const id = tag.attributes['objectid'];
    if (!id) throw wrong(`a ${local(tag.name)} without objectid`);
    const path = Object.entries(tag.attributes).find(([key]) => local(key) === 'path')?.[1];
    return { object: id, at: placement(tag.attributes['transform'], wrong), ...(path ? { path } : {}) };
  };

  const open = (tag: SaxesTagPlain): void => {
    if (++depth > LIMITS.depth) throw wrong('its elements are nested beyond all measure');
    if ((++seen & 0x3ffff) === 0) step(watch, 0.5, 'reading triangles');
    switch (local(tag.name)) {
      case 'vertex':
        mesh?.vertex(number(tag, 'x'), number(tag, 'y'), number(tag, 'z'), () => `vertex ${mesh!.vertexCount + 1}`);
        break;
      case 'triangle':
        mesh?.triangle(index(tag, 'v1'), index(tag, 'v2'), index(tag, 'v3'));
        break;
      case 'mesh':
        if (object) mesh = new Collector();
        break;
      case 'component':
        uses.push(use(tag));
        break;
      case 'item':
        file.build.push(use(tag));
        break;
      case 'object': {
        const id = tag.attributes['id'];
        if (!id) throw wrong('an object without id');
        const type = tag.attributes['type'] ?? 'model';
        object = { id, isBody: type === 'model' || type === 'surface' };
        uses = [];
        mesh = undefined;
        break;
      }
      case 'model': {
        seenModel = true;
        const unit = tag.attributes['unit'] ?? 'millimeter';
        if (!Object.hasOwn(UNITS, unit)) throw wrong(`the unit "${unit.slice(0, 40)}" is not known`);
        file.unit = UNITS[unit]!;
        const asks = (tag.attributes['requiredextensions'] ?? '').split(/\s+/).filter((each) => SHAPES.includes(each));
        if (asks.length > 0) throw wrong(`its shape needs the extension ${asks.join(', ')}, which is not read`);
        break;
      }
    }
  };
  const close = (tagName: string): void => {
    depth--;
    if (local(tagName) !== 'object' || !object) return;
    if (file.things.has(object.id)) throw wrong(`two objects have the id ${object.id}`);
    file.things.set(object.id, { uses, isBody: object.isBody, ...(mesh ? { part: partOf(mesh, object.id) } : {}) });
    object = undefined;
    mesh = undefined;
  };
  const partOf = (done: Collector, id: string): Part => {
    const [positions, triangles] = [done.positions.done(), done.triangles.done()];
    const beyond = triangles.findIndex((vertex) => vertex >= positions.length / 3);
    if (beyond >= 0)
      throw wrong(
        `object ${id}: a triangle names the vertex ${triangles[beyond]}, but there are ${positions.length / 3}`,
      );
    return { positions, triangles };
  };

  parser.on('opentag', open);
  parser.on('closetag', (tag) => close(tag.name));
  parser.on('doctype', () => {
    throw wrong('it declares a document type, which no model needs and which can be a trap');
  });
  parser.on('error', (error) => {
    throw wrong(`it is no proper XML: ${error.message.split('\n')[0]}`);
  });
  return {
    take: (text) => void parser.write(text),
    end() {
      parser.close();
      if (!seenModel) throw wrong('there is no model in it');
      return file;
    },
  };
}

/** A name without its prefix. */
const local = (name: string): string => name.slice(name.indexOf(':') + 1);

function placement(text: string | undefined, wrong: (text: string) => MeshFault): Placement {
  if (text === undefined || text.trim() === '') return UNPLACED;
  const numbers = text.trim().split(/\s+/).map(Number);
  // Twelve numbers by rows, for a row vector: the same order as by columns for a column vector.
  if (numbers.length !== 12 || numbers.some((value) => !Number.isFinite(value)))
    throw wrong(`"${text.slice(0, 60)}" is no placement of twelve numbers`);
  return numbers;
}
