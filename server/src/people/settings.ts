import type { ShopSettings } from '@kalvet/core';
import { DEFAULT_SETTINGS } from '@kalvet/core';
import { IANAZone } from 'luxon';
import type { Transaction } from 'sequelize';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import type { Store } from '../write/store.ts';

/** Said once for each, not at every reading. */
const said = new Set<string>();

/**
 * A setting as it is kept, or the default where nobody entered one, and where somebody's hand in the database left what no
 * form takes: a shop goes on with a default rather than not at all.
 */
function sound(name: string, own: unknown, usual: unknown): unknown {
  if (own === undefined || own === null) return usual;
  const fits =
    typeof own === typeof usual &&
    Array.isArray(own) === Array.isArray(usual) &&
    (typeof own !== 'number' || (Number.isFinite(own) && own >= 0)) &&
    (name !== 'timeZone' || IANAZone.isValidZone(own as string));
  if (fits) return own;
  if (!said.has(name))
    console.error(
      `kalvet: the setting ${name} is ${JSON.stringify(own)?.slice(0, 80)}; ${JSON.stringify(usual)} is used.`,
    );
  said.add(name);
  return usual;
}

/** The shop's settings: its own where it has entered any, else the defaults. */
export async function settingsOf(store: Store, tx?: Transaction): Promise<ShopSettings> {
  const rows = (await store.models.settings.findAll({ raw: true, transaction: tx ?? null })) as unknown as Row[];
  const own = new Map(
    rows.map((row) => {
      const { name, value } = fromRow<{ name: string; value: unknown }>('settings', row);
      return [name, value];
    }),
  );
  return Object.fromEntries(
    Object.entries(DEFAULT_SETTINGS).map(([name, value]) => [name, sound(name, own.get(name), value)]),
  ) as unknown as ShopSettings;
}
