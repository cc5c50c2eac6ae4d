import type { ShopSettings } from '@kalvet/core';
import { DEFAULT_SETTINGS } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import type { Store } from '../write/store.ts';

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
    Object.entries(DEFAULT_SETTINGS).map(([name, value]) => [name, own.get(name) ?? value]),
  ) as unknown as ShopSettings;
}
