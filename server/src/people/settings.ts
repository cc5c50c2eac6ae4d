import type { ShopSettings } from '@kalvet/core';
import { DEFAULT_SETTINGS } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import type { Transaction } from 'sequelize';
import type { Store } from '../write/context.ts';

/** The shop's settings: its own where it has entered any, else the defaults. */
export async function settingsOf(store: Store, tx?: Transaction): Promise<ShopSettings> {
  const rows = await store.db.query<{ name: string; value: unknown }>('SELECT name, value FROM setting', {
    type: QueryTypes.SELECT,
    transaction: tx ?? null,
  });
  const own = Object.fromEntries(
    rows.map(({ name, value }) => [name, typeof value === 'string' ? parsed(value) : value]),
  );
  return Object.fromEntries(
    Object.entries(DEFAULT_SETTINGS).map(([name, value]) => [name, own[name] ?? value]),
  ) as unknown as ShopSettings;
}

/** JSON columns come back parsed or as text, by the driver's version; a plain word that is no JSON is itself. */
function parsed(value: string): unknown {
  try {
    return JSON.parse(value);
  } catch {
    return value;
  }
}
