import type { Id, Person } from '@kalvet/core';
import type { Row } from '../db/tables.ts';
import { fromRow } from '../db/tables.ts';
import type { Store } from '../write/store.ts';

/** Somebody by their id, still here or not. */
export async function personOf(store: Store, id: Id): Promise<Person | undefined> {
  const row = await store.models.people.findByPk(id, { raw: true });
  return row ? fromRow<Person>('people', row as unknown as Row) : undefined;
}

/** Everybody who ever worked here, by name. */
export async function people(store: Store): Promise<Person[]> {
  const rows = await store.models.people.findAll({ raw: true, order: [['name', 'ASC']] });
  return (rows as unknown as Row[]).map((row) => fromRow<Person>('people', row));
}
