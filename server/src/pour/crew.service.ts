import type { CrewPlace, Id } from '@kalvet/core';
import { CREW_ROLE_NAMES } from '@kalvet/core';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import type { ConfirmCrew } from './heat.schema.ts';
import { claimHeat, concernHeat, refuseWetCharge } from './heat.service.ts';

/** Who does what, in words: "Tomas Quill leads the pour (deputy Ines Marlow), …". */
const crewInWords = (crew: readonly CrewPlace[], names: ReadonlyMap<Id, string>): string =>
  crew
    .map(({ role, personId, deputyId }) => {
      const deputy = deputyId ? ` (deputy ${names.get(deputyId)})` : '';
      return `${names.get(personId)} ${CREW_ROLE_NAMES[role]}${deputy}`;
    })
    .join(', ');

/** @throws Problem where nobody or two lead, somebody stands in for themselves, or is not known here */
async function namesOfCrew(ctx: Context, crew: readonly CrewPlace[]): Promise<Map<Id, string>> {
  if (crew.filter(({ role }) => role === 'lead').length !== 1) throw invalid({ crew: 'name one who leads the pour' });
  if (crew.some(({ personId, deputyId }) => personId === deputyId))
    throw invalid({ crew: 'nobody stands in for themselves' });
  const holders = crew.filter(({ role }) => role === 'lead' || role === 'second').map(({ personId }) => personId);
  if (new Set(holders).size < holders.length) throw invalid({ crew: 'lead and second are two people' });
  const ids = crew.flatMap(({ personId, deputyId }) => [personId, ...(deputyId ? [deputyId] : [])]);
  const rows = await ctx.select<{ id: Id; name: string }>('SELECT id, name FROM person WHERE id IN (?)', [ids]);
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  if (ids.some((each) => !names.has(each))) throw invalid({ crew: 'names somebody who does not work here' });
  return names;
}

/** The gate before the melt: crew named, cover on, signs agreed. Kept with who said so; a wet charge is never passed. */
export async function confirmCrew(ctx: Context, id: Id, given: ConfirmCrew): Promise<{ id: Id }> {
  const { heat, pourings, index } = await claimHeat(ctx, id, given.version, given);
  const names = await namesOfCrew(ctx, given.crew);
  await refuseWetCharge(ctx, id);
  await ctx.update('heats', heat, {
    leadId: given.crew.find(({ role }) => role === 'lead')!.personId,
    crew: given.crew,
    signs: given.signs,
    coverConfirmedById: ctx.actor!.id,
    coverConfirmedAt: ctx.now,
    state: heat.state === 'planned' ? 'charged' : heat.state,
  });
  concernHeat(
    ctx,
    index,
    heat,
    pourings.map(({ treeId }) => treeId),
  );
  ctx.event = {
    verb: 'confirm crew',
    text: `Heat H-${heat.number}: crew and cover confirmed by ${ctx.actor!.name}, signs ${given.signs}: ${crewInWords(given.crew, names)}`,
    room: 'pour',
  };
  return { id };
}
