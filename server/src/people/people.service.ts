import type { AddPerson, ChangePerson, Id, Person } from '@kalvet/core';
import { METRIC } from '@kalvet/core';
import { Op } from 'sequelize';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';

/** Puts somebody on the list of people who work here. Only the very first needs nobody's word to pass rules. */
export async function addPerson(ctx: Context, given: AddPerson): Promise<{ id: Id }> {
  ctx.may('add person', ['person', given.id]);
  const known = await ctx.rows<Person>('people', {}, { lock: true });
  if (given.mayOverride && known.length > 0) ctx.may('override', ['person', given.id]);
  if (known.some(({ active, name, shortName }) => active && (name === given.name || shortName === given.shortName)))
    throw invalid({ name: 'somebody of this name or short name is already on the list' });
  await ctx.insert<Person>('people', [{ ...given, active: true, units: METRIC, version: 1 }]);
  ctx.concern('person', given.id);
  ctx.event = { verb: 'add person', text: `${given.name} works here` };
  return { id: given.id };
}

/** Changes somebody's name, units or what they may decide, or takes them off the list; what they did stays theirs. */
export async function changePerson(ctx: Context, id: Id, { version, ...patch }: ChangePerson): Promise<{ id: Id }> {
  ctx.may('change person', ['person', id]);
  const person = await ctx.claim<Person>('people', id, version, 'person', patch);
  if (patch.mayOverride === true && !person.mayOverride) ctx.may('override', ['person', id]);
  if (patch.name !== undefined || patch.active === true) {
    const name = patch.name ?? person.name;
    const same = await ctx.rows<Person>('people', {
      active: true,
      id: { [Op.ne]: id },
      [Op.or]: [{ name }, { shortName: person.shortName }],
    });
    if (same.length > 0) throw invalid({ name: 'somebody of this name or short name is already on the list' });
  }
  await ctx.update('people', person, patch as Partial<Person>);
  ctx.concern('person', id);
  ctx.event = { verb: 'change person', text: `${person.name}: changed` };
  return { id };
}
