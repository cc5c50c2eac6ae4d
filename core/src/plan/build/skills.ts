import type { Person, Skill } from '../../records/people.ts';
import { SKILLS } from '../../records/people.ts';
import type { Room } from '../../records/common.ts';
import type { Staffing } from '../../records/plan.ts';
import type { StepKind } from '../../route/step-kind.ts';
import type { Need, PlanResource } from '../problem.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** Those who have a skill, beside the hands of their room. */
export const SKILL = 'skill:';

/** Where each skill is wanted: its hours are that room's. */
const ROOM_OF: Readonly<Record<Skill, Room>> = { weld: 'chasing', pour: 'chasing', patina: 'patina' };

const skilled = (people: readonly Person[], skill: Skill): readonly Person[] =>
  people.filter(({ active, skills }) => active && skills?.includes(skill));

/** Skills that the shop has said of anybody: where it has of nobody, whoever is in the room can do all that is done there. */
export const skillsSaid = ({ people = [] }: Pick<PlanSnapshot, 'people'>): readonly Skill[] =>
  SKILLS.filter((skill) => skilled(people, skill).length > 0);

/** What a step needs of those who can do it, beside a hand of its room. */
export const skillNeed = (snapshot: PlanSnapshot, { skill }: Pick<StepKind, 'skill'>): Need[] =>
  skill !== undefined && skillsSaid(snapshot).includes(skill) ? [{ resource: SKILL + skill }] : [];

/** As many as have each skill, in the hours of the room where it is wanted. */
export function skillResources(snapshot: PlanSnapshot): PlanResource[] {
  const { people = [], resources } = snapshot;
  return skillsSaid(snapshot).flatMap((skill): PlanResource[] => {
    const room = resources.find((each) => each.kind === 'people' && each.room === ROOM_OF[skill]);
    if (!room) return [];
    return [{ id: SKILL + skill, capacity: skilled(people, skill).length, calendar: room.calendarId }];
  });
}

/** Who is off is missed in the room, and in each skill of theirs. */
export function withSkillsAway(staffing: readonly Staffing[], people: readonly Person[]): readonly Staffing[] {
  return staffing.flatMap((each) => {
    const person = people.find(({ id }) => id === each.personId);
    if (!person || each.more >= 0) return [each];
    const own = (person.skills ?? []).map((skill) => ({ ...each, resourceId: SKILL + skill, more: -1 }));
    return [each, ...own];
  });
}
