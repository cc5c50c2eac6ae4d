import type { Id, Person } from '@kalvet/core';
import { fromRow } from '../db/tables.ts';
import type { Context, Store } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { AddPerson, ChangePerson } from './people.schema.ts';

export async function people(store: Store): Promise<Person[]> {
  const rows = await store.models.people.findAll({ raw: true, order: [['name', 'ASC']] });
  return (rows as unknown as Record<string, unknown>[]).map((row) => fromRow<Person>('people', row));
}

export async function personOf(store: Store, id: Id): Promise<Person | undefined> {
  const row = await store.models.people.findByPk(id, { raw: true });
  return row ? fromRow<Person>('people', row as unknown as Record<string, unknown>) : undefined;
}

/** Puts somebody on the list of people who work here. */
export async function addPerson(ctx: Context, given: AddPerson): Promise<{ id: Id }> {
  const same = await ctx.select('SELECT id FROM person WHERE active AND (name = ? OR shortName = ?) FOR UPDATE', [
    given.name,
    given.shortName,
  ]);
  if (same.length > 0) throw invalid({ name: 'somebody of this name or short name is already on the list' });
  await ctx.insert<Person>('people', [{ ...given, active: true, version: 1 }]);
  ctx.concern('person', given.id);
  ctx.event = { verb: 'add person', text: `${given.name} works here` };
  return { id: given.id };
}

/** Changes somebody's name or what they may decide, or takes them off the list; what they did stays theirs. */
export async function changePerson(ctx: Context, id: Id, { version, ...patch }: ChangePerson): Promise<{ id: Id }> {
  const person = await ctx.claim<Person>('people', id, version, 'person', patch);
  await ctx.update('people', person, patch as Partial<Person>);
  ctx.concern('person', id);
  ctx.event = { verb: 'change person', text: `${person.name}: changed` };
  return { id };
}
