import type { Id, Room } from '../../records/common.ts';
import type { PlanNote } from '../../records/plan.ts';
import type { Step } from '../../records/step.ts';
import { isClosed } from '../../records/step.ts';
import type { Priority } from '../../records/work.ts';
import { chainOf } from '../../route/chain.ts';
import { stepLabel } from '../../route/labels.ts';
import type { Link } from '../../route/links.ts';
import { linksOf } from '../../route/links.ts';
import { openPouringOf } from '../../route/shop-index.ts';
import { kg } from '../../units/quantity.ts';
import { say } from '../../units/words.ts';
import { PLANNED_AHEAD_MINUTES } from '../../units/instant.ts';
import { longestOpen } from '../openings.ts';
import type { PlanCalendar, PlanJob, PlanLink, PlanProblem, PlanResource, PlanTask } from '../problem.ts';
import { LAST_MINUTE } from '../problem.ts';
import { withFires } from './fires.ts';
import { settleFixed } from './fixed.ts';
import { dropImpossibleMaxima } from './maxima.ts';
import { hoistResources } from './hoist.ts';
import { knockOutAfter, knockOutWithin } from './knock-out.ts';
import { inParts } from './parts.ts';
import type { BuiltPlan, PlanSnapshot } from './snapshot.ts';
import { skillResources, withSkillsAway } from './skills.ts';
import { AWAY, AWAY_JOB, withStaffing } from './staffing.ts';
import { wearOf } from './wear.ts';
import { undecidedOf } from './undecided.ts';
import { endOfWorkingDays } from './working-days.ts';
import { DONE_BEFORE, URGENT_JOB, mouldJob, mouldResource, treeJob } from './snapshot.ts';
import { MouldTurns, dueMinute, heldUntil, jobOf, plannedSteps, pourKgOf, taskOf } from './tasks.ts';

/**
 * What a load or heat less is worth, in minutes of one piece's lateness: fuel and a day's hands. Against trees and pieces that
 * only come out later (a thousandth a minute each) a firing waits two days for one tree more, and a pour a week; ready work
 * is not left to age for longer.
 */
const KILN_LOAD_COST = 3;

const HEAT_COST = 12;

/** What a minute of a piece's lateness, or of its way, counts for beside another's. */
const WEIGHT: Readonly<Record<Priority, number>> = { first: 4, usual: 1, last: 0.25 };

/** Rooms whose hands are called to a pour. */
const CREW_ROOMS: readonly Room[] = ['chasing', 'shell'];

/**
 * The plan problem of a shop as it stands. Done steps are not in it, only their ends, as the earliest of what follows; but
 * where a maximum wait after one still runs, the step is there as a task of no length fixed at its end. What runs is fixed
 * now with what is left of it. Maxima that are broken, or cannot be kept from where things stand, and pins that cannot be
 * kept, are left out, weigh as urgent, and are noted: so there always is a problem that can be met.
 */
export function buildProblem(snapshot: PlanSnapshot): BuiltPlan {
  const { index, startDay } = snapshot;
  const now = snapshot.minuteOf(snapshot.now);
  const notes: PlanNote[] = [];
  const steps = plannedSteps(snapshot);
  const open = new Map(steps.map((step) => [step.id, step]));
  const moulds = new MouldTurns(index);
  const tasks = new Map<Id, PlanTask>(steps.map((step) => [step.id, begin(snapshot, step, moulds, now)]));
  const urgent = new Set<Id>();
  const links: PlanLink[] = [];
  const before: PlanTask[] = [];

  for (const link of linksOf(index)) {
    const task = tasks.get(link.to.id);
    if (!task) continue;
    if (open.has(link.from.id)) links.push(linkBetween(snapshot, link));
    else if (isClosed(link.from) && link.from.endedAt !== null)
      followDone(snapshot, link, now, { tasks, links, before, urgent, notes });
  }
  links.push(...asideFirst(snapshot, open));
  const undecided = undecidedOf(snapshot, now);
  for (const id of undecided.steps) {
    const task = tasks.get(id);
    if (task && task.fixedStart === undefined)
      tasks.set(id, { ...task, earliest: Math.max(task.earliest ?? 0, undecided.decided) });
  }
  const wear = wearOf(snapshot, tasks, now);
  for (const task of wear.tasks) tasks.set(task.id, task);
  for (const step of steps) {
    if (index.kind(step).through === 'heat') noteTooHeavy(snapshot, step, notes);
    fitIntoHours(snapshot, step, tasks, notes);
  }
  const staffed = withStaffing(
    [...resourcesOf(snapshot, [...tasks.values()]), ...skillResources(snapshot), ...hoistResources(snapshot)],
    withSkillsAway(snapshot.staffing ?? [], snapshot.people ?? []),
    startDay,
  );
  const problem: PlanProblem = {
    format: 'kalvet-plan/1',
    start: `${startDay}T00:00:00`,
    calendars: snapshot.calendars.map(asPlanCalendar),
    resources: [...staffed.resources, ...wear.resources],
    jobs: [
      ...jobsOf(snapshot, [...tasks.values(), ...before], now),
      ...(staffed.tasks.length > 0 ? [{ id: AWAY_JOB, weight: 0 }] : []),
    ],
    tasks: [...before, ...tasks.values(), ...staffed.tasks],
    links: dedupe([...links, ...wear.links]),
    objective: { tardiness: 1, flow: 0.001, loads: 1 },
  };
  const label = (id: Id) => (open.has(id) ? stepLabel(index, open.get(id)!) : id);
  const settled = settleFixed(withFires(problem, snapshot, notes), {
    label,
    running: (id) => open.get(id)?.state === 'running',
    givesWay: (id) => id.startsWith(AWAY),
  });
  const kept = dropImpossibleMaxima(settled.problem);
  for (const id of [...settled.urgent, ...kept.left.map(({ to }) => to)]) urgent.add(id);
  const weighed = { ...weighUrgent(kept.problem, urgent, now), ...previousOf(snapshot, kept.problem) };
  const crews = snapshot.resources.filter(({ kind, room }) => kind === 'people' && CREW_ROOMS.includes(room));
  return {
    problem: inParts(
      weighed,
      new Set(crews.map(({ id }) => id)),
      new Map((snapshot.previous ?? []).flatMap(({ stepId, parts }) => (parts ? [[stepId, parts]] : []))),
    ),
    notes: [...notes, ...settled.notes],
    left: kept.left,
    wear: wear.links,
    undecided,
  };
}

/**
 * What a step's move costs that was to start now. A piece of fifty steps that as a whole ends sooner gains twice what its
 * moving costs, so nothing waits for the sake of the old plan; pieces that change places for little gain do not.
 */
const MOVE_COST = 0.00001;

/** What the plan in use says of the tasks that are still to be done; the next days' work stays where it can. */
function previousOf(snapshot: PlanSnapshot, { tasks }: PlanProblem): Pick<PlanProblem, 'previous'> {
  const open = new Set(tasks.flatMap(({ id, fixedStart }) => (fixedStart === undefined ? [id] : [])));
  const starts = (snapshot.previous ?? [])
    .filter(({ stepId, start }) => open.has(stepId) && Math.abs(start) <= LAST_MINUTE)
    .map(({ stepId, start, load }) => ({ id: stepId, start, ...(load === null ? {} : { load }) }));
  return starts.length === 0
    ? {}
    : { previous: { starts, weight: MOVE_COST, frozen: endOfWorkingDays(snapshot, snapshot.settings.frozenDays) } };
}

/** A step's task with when it may start: now where it runs, at its pin or its heat's hour, else not before now. */
function begin(snapshot: PlanSnapshot, step: Step, moulds: MouldTurns, now: number): PlanTask {
  const task = taskOf(snapshot, step, moulds);
  if (step.state === 'running') {
    const gone = step.startedAt === null ? 0 : Math.max(0, now - snapshot.minuteOf(step.startedAt));
    return { ...task, duration: Math.max(1, task.duration - gone), fixedStart: now };
  }
  const ahead = (minute: number | undefined) =>
    minute !== undefined && minute - now <= PLANNED_AHEAD_MINUTES ? minute : undefined;
  const pin = step.pinAt === null ? undefined : ahead(snapshot.minuteOf(step.pinAt));
  if (pin !== undefined && step.pinKind === 'at' && pin >= now) return { ...task, fixedStart: pin };
  const heat = ahead(heatHour(snapshot, step));
  if (heat !== undefined && heat >= now) return { ...task, fixedStart: heat };
  const notBefore = Math.max(now, heldUntil(snapshot, step), step.pinKind === 'not before' ? (pin ?? 0) : 0);
  return { ...task, earliest: Math.min(notBefore, LAST_MINUTE) };
}

/** When the heat that a tree is planned in will be poured. */
function heatHour({ index, minuteOf }: PlanSnapshot, step: Step): number | undefined {
  if (index.kind(step).through !== 'heat') return undefined;
  const at = index.heat.get(openPouringOf(index, step.carrierId)?.heatId ?? '')?.plannedFor;
  return at ? minuteOf(at) : undefined;
}

/** A link between two open steps; how long a casting cools comes from the metal that will be in it. */
function linkBetween(snapshot: PlanSnapshot, { from, to, minLag, maxLag }: Link): PlanLink {
  const kind = snapshot.index.kind(from);
  const isOwn = snapshot.index.kind(to).comesAfter !== undefined;
  const isBlock = from.carrier === 'tree' && snapshot.index.tree.get(from.carrierId)?.method === 'block';
  const site = { sequence: from.sequence, isSeal: false, coatMinutes: null, deep: false, metalKg: 0, isBlock };
  const cooling =
    kind.through === 'heat' && kind.waits && !isOwn
      ? kind.waits({ min: minLag, max: maxLag }, { ...site, metalKg: pourKgOf(snapshot, from.carrierId) }).min
      : minLag;
  const cooled = Math.ceil(Math.max(minLag, cooling));
  const isPour = kind.through === 'heat' && !isOwn;
  const least = isPour ? Math.ceil(knockOutAfter(snapshot, cooled)) : cooled;
  const most = isPour ? knockOutWithin(snapshot, cooled) : maxLag;
  return {
    from: from.id,
    to: to.id,
    minLag: least,
    ...(most === null ? {} : { maxLag: Math.max(Math.floor(most), least) }),
  };
}

interface Growing {
  readonly tasks: Map<Id, PlanTask>;
  readonly links: PlanLink[];
  readonly before: PlanTask[];
  readonly urgent: Set<Id>;
  readonly notes: PlanNote[];
}

/** What is done beside the way is planned before what comes after it: the early look, and the next morning the knock-out. */
function asideFirst({ index }: PlanSnapshot, open: ReadonlyMap<Id, Step>): PlanLink[] {
  return [...open.values()].flatMap((step) => {
    if (!index.kind(step).aside) return [];
    const chain = chainOf(index, step.carrierId);
    const next = chain.slice(chain.indexOf(step) + 1).find(({ id }) => open.has(id));
    return next ? [{ from: step.id, to: next.id }] : [];
  });
}

/** What follows a done step: not before its wait has passed, and within its maximum where that still runs. */
function followDone(snapshot: PlanSnapshot, { from, to, minLag, maxLag }: Link, now: number, grown: Growing): void {
  const { index } = snapshot;
  const end = Math.ceil(snapshot.minuteOf(from.endedAt!));
  const task = grown.tasks.get(to.id)!;
  const isPoured = index.kind(from).through === 'heat' && index.kind(to).comesAfter === undefined;
  const least = isPoured ? knockOutAfter(snapshot, minLag) : minLag;
  if (task.fixedStart === undefined)
    grown.tasks.set(to.id, {
      ...task,
      earliest: Math.min(LAST_MINUTE, Math.max(task.earliest ?? 0, end + Math.ceil(least))),
    });
  if (maxLag === null || to.state === 'running') return;
  if (end + maxLag < now) {
    grown.urgent.add(to.id);
    grown.notes.push({
      cause: 'too old',
      text: `${stepLabel(index, to)}: longer after ${index.kind(from).name.toLowerCase()} than it should be`,
      stepId: to.id,
      urgent: true,
    });
    return;
  }
  const id = `${DONE_BEFORE}${from.id}`;
  if (!grown.before.some((each) => each.id === id))
    grown.before.push({ id, job: jobOf(index, to), duration: 0, spans: 'through', needs: [], fixedStart: end });
  grown.links.push({ from: id, to: to.id, minLag: Math.ceil(minLag), maxLag: Math.max(maxLag, Math.ceil(minLag)) });
}

function noteTooHeavy(snapshot: PlanSnapshot, step: Step, notes: PlanNote[]): void {
  const pourKg = pourKgOf(snapshot, step.carrierId);
  const { crucibleUsableKg } = snapshot.settings;
  if (pourKg > crucibleUsableKg)
    notes.push({
      cause: 'heavy',
      text: say`${stepLabel(snapshot.index, step)}: ${kg(pourKg, 0)} is more than the crucible gives (${kg(crucibleUsableKg, 0)})`,
      stepId: step.id,
      urgent: true,
    });
}

/** What must be done in one go and fits into no hours runs on past them: there is a plan all the same, and it says so. */
function fitIntoHours(
  { calendars, resources, index }: PlanSnapshot,
  step: Step,
  tasks: Map<Id, PlanTask>,
  notes: PlanNote[],
): void {
  const task = tasks.get(step.id)!;
  if (task.spans !== 'unbroken') return;
  const hours = task.needs.flatMap(({ resource }) => {
    const calendarId = resources.find(({ id }) => id === resource)?.calendarId;
    return calendars.filter(({ id, always }) => id === calendarId && !always);
  });
  if (hours.every(({ weekly, extra }) => extra.length > 0 || longestOpen(weekly) >= task.duration)) return;
  tasks.set(step.id, { ...task, spans: 'through' });
  notes.push({
    cause: 'hours',
    text: `${stepLabel(index, step)} takes ${task.duration} min in one go; no opening hours are so long`,
    stepId: step.id,
    urgent: true,
  });
}

const asPlanCalendar = ({ id, always, weekly, closed, extra }: PlanSnapshot['calendars'][number]): PlanCalendar =>
  always ? { id, always } : { id, weekly, closed, extra };

function resourcesOf({ resources, settings, index }: PlanSnapshot, tasks: readonly PlanTask[]): PlanResource[] {
  const used = new Set(tasks.flatMap(({ needs }) => needs.map(({ resource }) => resource)));
  return [
    ...resources.map(({ id, kind, count, calendarId, setupMinutes }): PlanResource => {
      if (kind === 'people') return { id, capacity: count, calendar: calendarId };
      const batch = { machines: count, setup: setupMinutes };
      return kind === 'kiln'
        ? { id, capacity: settings.kilnPlaces, calendar: calendarId, batch: { ...batch, loadCost: KILN_LOAD_COST } }
        : {
            id,
            capacity: settings.crucibleUsableKg,
            calendar: calendarId,
            batch: { ...batch, loadCost: HEAT_COST, maxTasks: settings.pitPlaces },
          };
    }),
    ...index.shop.moulds
      .map(({ id }) => mouldResource(id))
      .filter((id) => used.has(id))
      .map((id) => ({ id, capacity: 1 })),
  ];
}

function jobsOf({ index, startDay }: PlanSnapshot, tasks: readonly PlanTask[], now: number): PlanJob[] {
  const used = new Set(tasks.map(({ job }) => job));
  const jobs: PlanJob[] = index.shop.pieces
    .filter(({ id }) => used.has(id))
    .map((piece) => {
      const due = dueMinute(startDay, piece);
      return {
        id: piece.id,
        release: now,
        ...(piece.priority === 'usual' ? {} : { weight: WEIGHT[piece.priority] }),
        ...(due === undefined ? {} : { due: Math.max(0, Math.min(due, LAST_MINUTE)) }),
      };
    });
  const own = [
    // A shell that hangs about ages: a tree counts as much as a piece until it is knocked out, so that metal is poured
    // when it can be, although the metal shop has work for weeks.
    ...index.shop.trees.map(({ id }) => ({ id: treeJob(id) })),
    ...index.shop.moulds.map(({ id }) => ({ id: mouldJob(id), weight: 0 })),
  ];
  return [...jobs, ...own.filter(({ id }) => used.has(id)).map((each) => ({ ...each, release: now }))];
}

/** Two ways of saying the same (a section that is joined and chased next): the stricter lags of both. */
function dedupe(links: readonly PlanLink[]): PlanLink[] {
  const one = new Map<string, PlanLink>();
  for (const link of links) {
    const key = `${link.from} ${link.to}`;
    const other = one.get(key);
    const maxLag = Math.min(link.maxLag ?? Infinity, other?.maxLag ?? Infinity);
    const minLag = Math.max(link.minLag ?? 0, other?.minLag ?? 0);
    one.set(key, {
      from: link.from,
      to: link.to,
      minLag,
      ...(maxLag === Infinity ? {} : { maxLag: Math.max(minLag, maxLag) }),
    });
  }
  return [...one.values()];
}

/** Steps that could not be kept within their maximum are due at once. */
function weighUrgent(problem: PlanProblem, urgent: ReadonlySet<Id>, now: number): PlanProblem {
  if (urgent.size === 0) return problem;
  return {
    ...problem,
    jobs: [...problem.jobs, { id: URGENT_JOB, due: now, release: now, weight: 0 }],
    tasks: problem.tasks.map((task) => (urgent.has(task.id) ? { ...task, job: URGENT_JOB } : task)),
  };
}
