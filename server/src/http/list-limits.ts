import type Joi from 'joi';

/** How many places a list has at most, anywhere in a body, and how deep one goes. */
const MOST_PLACES = 5000;
const DEEPEST = 12;

/** How long the lists of a schema may be, by where they stand. */
interface Limit {
  readonly max?: number;
  readonly items?: Limit;
  readonly keys?: Readonly<Record<string, Limit>>;
}

interface Described {
  readonly rules?: readonly { readonly name: string; readonly args?: { readonly limit?: unknown } }[];
  readonly items?: readonly Described[];
  readonly keys?: Readonly<Record<string, Described>>;
}

function limitOf({ rules, items, keys }: Described): Limit | undefined {
  const limit = rules?.find(({ name }) => name === 'max')?.args?.limit;
  const inside = items?.[0] && limitOf(items[0]);
  const under = Object.entries(keys ?? {}).flatMap(([key, each]) => {
    const found = limitOf(each);
    return found ? [[key, found] as const] : [];
  });
  if (items === undefined && under.length === 0) return undefined;
  return {
    ...(items !== undefined && typeof limit === 'number' ? { max: limit } : {}),
    ...(inside ? { items: inside } : {}),
    ...(under.length > 0 ? { keys: Object.fromEntries(under) } : {}),
  };
}

const known = new WeakMap<Joi.Schema, Limit>();

/**
 * What is wrong with a body by its size alone: a list that is longer than its schema takes, or a body that no form makes.
 * Looked at before the schema, which looks at every item of a list before it counts them.
 */
export function tooMany(schema: Joi.Schema, body: unknown): Record<string, string> | undefined {
  let limit = known.get(schema);
  if (!limit) known.set(schema, (limit = limitOf(schema.describe() as Described) ?? {}));
  let places = 0;
  const look = (
    value: unknown,
    at: Limit | undefined,
    path: string,
    depth: number,
  ): Record<string, string> | undefined => {
    if (typeof value !== 'object' || value === null) return undefined;
    if (depth > DEEPEST) return { [path.slice(0, 200)]: 'goes deeper than any form does' };
    const entries = Object.entries(value);
    if (Array.isArray(value) && at?.max !== undefined && value.length > at.max)
      return { [path]: `takes at most ${at.max}` };
    places += entries.length;
    if (places > MOST_PLACES) return { body: 'holds more than any form does' };
    for (const [key, each] of entries) {
      const under = Array.isArray(value) ? at?.items : at?.keys?.[key];
      const found = look(each, under, path ? `${path}.${key}` : key, depth + 1);
      if (found) return found;
    }
    return undefined;
  };
  return look(body, limit, '', 0);
}
