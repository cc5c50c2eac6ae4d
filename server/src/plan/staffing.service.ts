import type { Id, Person, Resource, SaveStaffing, Staffing } from '@kalvet/core';
import { onDay, say } from '@kalvet/core';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';

/** Enters hands that are more or fewer in a room for a while, or takes the entry away. */
export async function saveStaffing(ctx: Context, given: SaveStaffing): Promise<{ id: Id }> {
  const { version, gone, ...fields } = given;
  const resource = await ctx.find<Resource>('resources', given.resourceId);
  if (!resource || resource.kind !== 'people') throw invalid({ resourceId: 'there are no such hands' });
  ctx.may('change staffing', resource.room);
  if (given.personId) {
    const person = await ctx.find<Person>('people', given.personId);
    if (!person?.active) throw invalid({ personId: 'nobody of that name works here' });
    if (given.more !== -1) throw invalid({ personId: 'is one: one hand fewer' });
  }
  if (version === 0) {
    if (await ctx.find('staffing', given.id)) throw invalid({ id: 'this is entered already' });
    await ctx.insert<Staffing>('staffing', [{ ...fields, version: 1 }]);
  } else {
    const before = await ctx.claim<Staffing>('staffing', given.id, version, 'entry', given);
    if (gone) await ctx.remove('staffing', [before.id]);
    else await ctx.update('staffing', before, fields);
  }
  const { more, from, to, why } = given;
  const hands = `${Math.abs(more)} ${more > 0 ? 'more' : 'fewer'}`;
  ctx.event = {
    verb: 'change staffing',
    text: say`${resource.name}: ${hands} from ${onDay(from)} to ${onDay(to)}${why ? ` (${why})` : ''}${gone ? ', taken away again' : ''}`,
  };
  return { id: given.id };
}
