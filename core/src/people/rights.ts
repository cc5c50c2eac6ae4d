import type { Room } from '../records/common.ts';
import type { Verb } from '../records/history.ts';
import { VERBS } from '../records/history.ts';
import type { Person } from '../records/people.ts';
import type { Gate, Keeping, PageRead, PassableRule, Right, Role, Sight } from '../records/rights.ts';
import { KEEPING, ROLE_NAMES, ROLES, SIGHTS } from '../records/rights.ts';

const MANAGER: readonly Role[] = ['manager'];
const OFFICE: readonly Role[] = ['manager', 'office'];
const LEADS: readonly Role[] = ['manager', 'lead', 'pour lead'];
/** Who thinks about the plan; taking it over is the manager's. */
const PLANNERS: readonly Role[] = ['manager', 'office', 'lead', 'pour lead'];
const POUR: readonly Role[] = ['manager', 'pour lead'];
/** Who takes metal in and counts it. */
const METAL: readonly Role[] = ['manager', 'office', 'pour lead'];
const BENCH: readonly Role[] = ['manager', 'lead', 'pour lead', 'hand'];
const STAFF: readonly Role[] = ['manager', 'office', 'lead', 'pour lead', 'hand'];
const LOOKS: readonly Role[] = [...STAFF, 'visitor'];

/** Who may do what: the one table. A verb that is not in it does not compile. */
export const MAY_DO: Readonly<Record<Right, readonly Role[]>> = {
  'set up work': OFFICE,
  'change work': OFFICE,
  'remove work': OFFICE,
  'change piece': OFFICE,
  hold: ['manager', 'office', 'lead', 'pour lead'],
  release: ['manager', 'office', 'lead', 'pour lead'],
  cancel: OFFICE,
  'model again': OFFICE,
  'start step': BENCH,
  'record step': BENCH,
  'insert step': LEADS,
  'lose cast': BENCH,
  'plan load': BENCH,
  'record load': BENCH,
  'abandon load': LEADS,
  'plan heat': POUR,
  'change heat': POUR,
  'confirm crew': POUR,
  pour: POUR,
  'finish heat': POUR,
  'abandon heat': POUR,
  'read heat': BENCH,
  'light furnace': BENCH,
  'shell out': BENCH,
  'set in pit': BENCH,
  'save lot': METAL,
  'count metal': METAL,
  'save crucible': POUR,
  'look at crucible': POUR,
  'save instrument': POUR,
  'take back': BENCH,
  'add person': MANAGER,
  'change person': MANAGER,
  'change settings': MANAGER,
  'pin step': LEADS,
  'save client': OFFICE,
  'save order': OFFICE,
  'open item': BENCH,
  'close item': BENCH,
  // The planner's own.
  'take plan': [],
  'keep records': MANAGER,
  decide: LEADS,
  'change staffing': MANAGER,
  'keep draft': PLANNERS,
  'take draft': MANAGER,
  'drop draft': PLANNERS,
  'renew address': STAFF,
  'save visit': OFFICE,
  'attach file': STAFF,
  'change file': STAFF,
  'put file away': STAFF,
  // Who knows the work decides how it is cut and weighed: the office, and who leads a bench.
  'save model': PLANNERS,
  'put model away': PLANNERS,
  'estimate section': PLANNERS,
  'set way up': PLANNERS,
  'set silhouette': PLANNERS,
  'read climate': BENCH,
  'import climate': LEADS,
  'save drying place': LEADS,
  'hang trees': BENCH,
  'look at coat': BENCH,
  'save coat plan': LEADS,
  'save tank': LEADS,
  'check tank': BENCH,
  // A tank that was out of order, and the coats that are in doubt with it: whoever leads the room answers for them.
  'decide tank': LEADS,
  'save supply': BENCH,
  'set shape': BENCH,
  'light load': BENCH,
  'read kiln': BENCH,
  'import kiln': BENCH,
  'save profile': LEADS,
  'measure tree': BENCH,
  'change coats': LEADS,
  // The clock of the drying's own.
  'air moved': [],
  'see audit': MANAGER,
  'see people': MANAGER,
  'reset password': MANAGER,
  'pair tablet': MANAGER,
};

/** Who may pass which rule, with a reason. */
export const MAY_PASS: Readonly<Record<PassableRule, readonly Role[]>> = {
  order: ['manager', 'lead'],
  'min wait': ['manager', 'lead'],
  skip: ['manager', 'lead'],
  crew: POUR,
  crucible: POUR,
  ready: POUR,
  pot: POUR,
  lot: POUR,
  unlikely: STAFF,
};

/** Whose role answers for a decision; beside them those it was given to by name. */
export const MAY_ANSWER: Readonly<Record<Gate, readonly Role[]>> = {
  'wax approval': ['manager', 'lead'],
  'leak test': LEADS,
  'crew and cover': POUR,
  'final inspection': ['manager', 'lead'],
};

/** Who sees what not everybody sees. */
export const MAY_SEE: Readonly<Record<Sight, readonly Role[]>> = {
  clients: OFFICE,
  recipes: ['manager', 'lead', 'hand'],
  money: OFFICE,
};

/** Who reads which page. */
export const MAY_READ: Readonly<Record<PageRead, readonly Role[]>> = {
  shop: ROLES,
  floor: LOOKS,
  rail: LOOKS,
  day: STAFF,
  plan: STAFF,
  coats: STAFF,
  tanks: STAFF,
  kiln: STAFF,
  pour: STAFF,
  metal: STAFF,
  quality: STAFF,
  instruments: STAFF,
  practice: STAFF,
  orders: OFFICE,
  works: LOOKS,
  pieces: LOOKS,
  steps: STAFF,
  heats: STAFF,
  loads: STAFF,
  planning: MANAGER,
  find: LOOKS,
  changes: LOOKS,
  standing: LOOKS,
  backups: MANAGER,
  people: MANAGER,
  audit: MANAGER,
  feeds: STAFF,
  files: LOOKS,
  attachments: LOOKS,
  models: STAFF,
  drafts: PLANNERS,
};

/** Verbs that are done in one room: leads and hands do them in the rooms of their own. */
const IN_A_ROOM: ReadonlySet<Right> = new Set<Right>([
  'start step',
  'record step',
  'insert step',
  'decide',
  'lose cast',
  'plan load',
  'record load',
  'abandon load',
  'pin step',
  'open item',
  'close item',
  'read climate',
  'import climate',
  'save drying place',
  'hang trees',
  'look at coat',
  'save coat plan',
  'change coats',
  'save tank',
  'check tank',
  'decide tank',
  'save supply',
  'set shape',
  'light load',
  'read kiln',
  'import kiln',
  'save profile',
  'measure tree',
]);
const EVERYWHERE: ReadonlySet<Role> = new Set<Role>(['manager', 'office']);

/** What is known of somebody's rights. */
export type Rights = Pick<Person, 'roles' | 'rooms' | 'gates'>;

const some = (person: Pick<Person, 'roles'> | null | undefined, roles: readonly Role[]): boolean =>
  person?.roles.some((role) => roles.includes(role)) ?? false;

/**
 * Whether somebody may do something at all, or in a room where one is given. Who has no rooms of their own works in all of
 * them; a pour lead's room is the pour.
 */
export function mayDo(person: Rights | null | undefined, right: Right, room?: Room | null): boolean {
  const may = MAY_DO[right];
  if (!person || !some(person, may)) return false;
  if (!room || !IN_A_ROOM.has(right)) return true;
  return person.roles.some(
    (role) =>
      may.includes(role) &&
      (EVERYWHERE.has(role) || (role === 'pour lead' ? room === 'pour' || room === 'burnout' : worksIn(person, room))),
  );
}

const worksIn = ({ rooms }: Pick<Person, 'rooms'>, room: Room): boolean => rooms.length === 0 || rooms.includes(room);

/** Whether somebody may pass a rule. A rule that nobody may pass is not in the table. */
export const mayPass = (person: Rights | null | undefined, rule: string): boolean =>
  some(person, MAY_PASS[rule as PassableRule] ?? []);

/** Whether somebody answers for a decision: by what they are, or because it was given to them by name. */
export const mayAnswer = (person: Rights | null | undefined, gate: Gate): boolean =>
  person !== null && person !== undefined && (some(person, MAY_ANSWER[gate]) || person.gates.includes(gate));

export const maySee = (person: Rights | null | undefined, sight: Sight): boolean => some(person, MAY_SEE[sight]);

export const mayRead = (person: Rights | null | undefined, page: PageRead): boolean => some(person, MAY_READ[page]);

/** Everything somebody sees beside what all see, in one order: who sees the same shares kept pages. */
export const sightsOf = (person: Rights | null | undefined): Sight[] => SIGHTS.filter((sight) => maySee(person, sight));

/** `production manager or pour lead`: who may, where one may not. */
export function whoMay(roles: readonly Role[]): string {
  const names = roles.map((role) => ROLE_NAMES[role]);
  const last = names.at(-1);
  return last === undefined
    ? 'nobody'
    : names.length === 1
      ? `a ${last}`
      : `a ${names.slice(0, -1).join(', ')} or ${last}`;
}

/** Every right there is, for whoever shows or walks the table. */
export const RIGHTS: readonly Right[] = [...(VERBS as readonly Verb[]), ...(KEEPING as readonly Keeping[])];
