import type { Id } from '../records/common.ts';
import type { CrewPlace } from '../records/pour.ts';
import { CREW_ROLE_NAMES } from '../records/pour.ts';
import type { Text } from '../units/words.ts';

/** What is wrong with a crew: nobody or two lead, somebody stands in for themselves or holds both ends, or is not known. */
export function wrongCrew(crew: readonly CrewPlace[], people: ReadonlyMap<Id, string>): Record<string, Text> {
  if (crew.filter(({ role }) => role === 'lead').length !== 1) return { crew: 'name one who leads the pour' };
  if (crew.some(({ personId, deputyId }) => personId === deputyId)) return { crew: 'nobody stands in for themselves' };
  const holders = crew.filter(({ role }) => role === 'lead' || role === 'second').map(({ personId }) => personId);
  if (new Set(holders).size < holders.length) return { crew: 'lead and second are two people' };
  const ids = crew.flatMap(({ personId, deputyId }) => [personId, ...(deputyId ? [deputyId] : [])]);
  return ids.every((id) => people.has(id)) ? {} : { crew: 'names somebody who does not work here' };
}

/** Who does what: "Tomas Quill leads the pour (deputy Ines Marlow), …". */
export const crewInWords = (crew: readonly CrewPlace[], people: ReadonlyMap<Id, string>): string =>
  crew
    .map(({ role, personId, deputyId }) => {
      const deputy = deputyId ? ` (deputy ${people.get(deputyId)})` : '';
      return `${people.get(personId)} ${CREW_ROLE_NAMES[role]}${deputy}`;
    })
    .join(', ');
