import { alloyOf } from '../../materials/alloys.ts';
import { COLD_AFTER_MIN } from '../../pour/light-up.ts';
import { meltMinutes } from '../../pour/melt-minutes.ts';
import type { PlanNote, Resource } from '../../records/plan.ts';
import type { Task } from '../compile.ts';
import { compile } from '../compile.ts';
import type { Batch, LoadNeed, PlanCalendar, PlanProblem, PlanResource } from '../problem.ts';
import { hoistOfHeat } from './hoist.ts';
import { throughBreaks } from './hours.ts';
import { earliestOf } from '../task-start.ts';
import { SKILL, skillsSaid } from './skills.ts';
import { withWatch } from './watch.ts';
import type { PlanSnapshot } from './snapshot.ts';

/** What fires ask of hands: to be tended, a crew at the pour, somebody there when the kiln is lit, or as long as it burns. */
interface Asked {
  readonly tended: boolean;
  readonly crew: boolean;
  readonly lit: boolean;
  readonly watched: boolean;
}

/** The most that is asked first; what a shop's hours leave no room for is let go, and said. */
const LESS_AND_LESS: readonly (Asked & { readonly says?: string })[] = [
  { tended: true, crew: true, lit: true, watched: true },
  {
    tended: true,
    crew: true,
    lit: true,
    watched: false,
    says: 'No day of the burnout is so long that somebody could stay at a whole firing: it is planned to burn in empty hours',
  },
  {
    tended: true,
    crew: false,
    lit: true,
    watched: false,
    says: 'No hours of the metal shop and the shell room hold a whole pour with the time before it: pours are planned without their crew',
  },
  {
    tended: false,
    crew: false,
    lit: true,
    watched: false,
    says: 'Nobody is in the metal shop for as long as a charge takes to melt: furnaces are planned to be lit in empty hours',
  },
  {
    tended: false,
    crew: false,
    lit: false,
    watched: false,
    says: 'Nobody works in the burnout while the kiln may be lit: it is planned to be lit in empty hours',
  },
];

/**
 * Melting and firing with the hands they take. A furnace is lit while somebody is there; between two heats pass the skimming,
 * the melting of the next charge, a wash after another alloy; a cold lining takes longer. A pour takes its crew out of the
 * metal shop and the shell room from some time before it. A kiln is lit while somebody of the burnout is there.
 */
export function withFires(problem: PlanProblem, snapshot: PlanSnapshot, notes: PlanNote[]): PlanProblem {
  for (const { says, ...asked } of LESS_AND_LESS) {
    const made = asking(problem, snapshot, asked);
    if (!canAllStart(made, snapshot)) continue;
    if (says !== undefined) notes.push({ cause: 'fire', text: `${says}.`, stepId: null, urgent: true });
    return made;
  }
  return problem;
}

/** Whether every load that is not begun or pinned finds some hour. */
function canAllStart(problem: PlanProblem, { resources }: PlanSnapshot): boolean {
  const fires = new Set(resources.filter(({ kind }) => kind !== 'people').map(({ id }) => id));
  const { tasks, resources: compiled } = compile(problem);
  // The first of a day is lit cold, whichever it is.
  const starts = (task: Task) =>
    earliestOf(task, task.earliest, task.duration, task.inLoad?.rule.first ?? 0) < Infinity;
  return tasks.every(
    (task) => task.fixed !== null || !task.batch || !fires.has(compiled[task.batch.resource]!.id) || starts(task),
  );
}

function asking(problem: PlanProblem, snapshot: PlanSnapshot, { tended, crew, lit, watched }: Asked): PlanProblem {
  const { resources, calendars } = snapshot;
  const peopleOf = (room: string) => resources.find((each) => each.kind === 'people' && each.room === room);
  const metalShop = peopleOf('chasing');
  const hours = calendars.find(({ id }) => id === metalShop?.calendarId);
  const own = hours && !hours.always ? problem.calendars.find(({ id }) => id === hours.id) : undefined;
  const tending = tended && own ? throughBreaks(own, `tending:${own.id}`) : undefined;
  const burnout = lit ? peopleOf('burnout') : undefined;
  const isKiln = new Set(resources.filter(({ kind }) => kind === 'kiln').map(({ id }) => id));
  const lighted: PlanProblem = {
    ...problem,
    calendars: tending ? [...problem.calendars, tending] : problem.calendars,
    resources: problem.resources.map((each) => {
      const own = resources.find(({ id }) => id === each.id);
      return own?.kind === 'crucible'
        ? furnace(each, problem, snapshot, tending, crew ? [metalShop, peopleOf('shell')] : [])
        : each;
    }),
    tasks: burnout
      ? problem.tasks.map((task) =>
          task.needs.some(({ resource }) => isKiln.has(resource))
            ? // Nobody is kept from other work while it burns, but somebody is in the room when it is lit.
              { ...task, needs: [...task.needs, { resource: burnout.id, units: 0 }] }
            : task,
        )
      : problem.tasks,
  };
  return withPreheat(watched && burnout ? withWatch(lighted, snapshot, burnout) : lighted, snapshot);
}

/** Kilns in use, for a load or for a soak. No resource of the shop: nobody asks for it by name. */
export const KILNS_IN_USE = 'kilns in use';
/** What a heat takes of a kiln: so little that all heats of a day soak together, and so much that no load fits beside. */
const SOAK_UNITS = 1 / 16;

/** A kiln in which shells soak before a heat fires no load meanwhile. */
function withPreheat(problem: PlanProblem, { settings, resources }: PlanSnapshot): PlanProblem {
  const kilns = resources.filter(({ kind, id }) => kind === 'kiln' && problem.resources.some((each) => each.id === id));
  if (settings.preheatMinutes === 0 || kilns.length === 0) return problem;
  const crucibles = new Set(resources.filter(({ kind }) => kind === 'crucible').map(({ id }) => id));
  const isKiln = new Set(kilns.map(({ id }) => id));
  const holding = (each: PlanResource, units: number, before: number): PlanResource => ({
    ...each,
    batch: { ...each.batch, needs: [...(each.batch?.needs ?? []), { resource: KILNS_IN_USE, units, before }] },
  });
  return {
    ...problem,
    resources: [
      ...problem.resources.map((each) => {
        if (isKiln.has(each.id)) return holding(each, 1, 0);
        return crucibles.has(each.id) ? holding(each, SOAK_UNITS, settings.preheatMinutes) : each;
      }),
      { id: KILNS_IN_USE, capacity: kilns.reduce((sum, { count }) => sum + count, 0) },
    ],
  };
}

function furnace(
  given: PlanResource,
  { tasks }: PlanProblem,
  snapshot: PlanSnapshot,
  tending: PlanCalendar | undefined,
  [metalShop, shellRoom]: readonly (Resource | undefined)[],
): PlanResource {
  const { settings } = snapshot;
  const { furnaceKw, furnaceEfficiency, meltLoss, pigReserveKg, liningMinutes, alloyChangeMinutes } = settings;
  const alloys = new Set(
    tasks.flatMap(({ needs }) => needs.flatMap((need) => (need.resource === given.id && need.key ? [need.key] : []))),
  );
  const perKg = Math.max(
    0,
    ...[...alloys].map(
      (alloy) => meltMinutes(1, alloyOf(alloy), { powerKw: furnaceKw, efficiency: furnaceEfficiency }).value,
    ),
  );
  const charged = perKg / (1 - meltLoss);
  const needs: LoadNeed[] = [
    { room: metalShop, hands: settings.pourMetalHands },
    { room: shellRoom, hands: settings.pourShellHands },
  ].flatMap(({ room, hands }) =>
    room && hands > 0
      ? [{ resource: room.id, units: Math.min(hands, room.count), before: settings.crewBeforeMinutes }]
      : [],
  );
  if (needs.length > 0 && skillsSaid(snapshot).includes('pour'))
    needs.push({ resource: `${SKILL}pour`, units: 1, before: settings.crewBeforeMinutes });
  if (metalShop) needs.push(...hoistOfHeat(snapshot));
  const batch: Batch = {
    ...given.batch,
    setup: (given.batch?.setup ?? 0) + Math.ceil(charged * pigReserveKg),
    setupPerUnit: charged,
    change: alloyChangeMinutes,
    firstSetup: liningMinutes,
    coldAfter: COLD_AFTER_MIN,
    ...(tending ? { setupIn: tending.id } : {}),
    ...(needs.length > 0 ? { needs } : {}),
  };
  return { ...given, batch };
}
