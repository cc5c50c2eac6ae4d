import type { Compiled, Task } from './compile.ts';
import type { LoadRule } from './load-rules.ts';
import { leastSetup } from './load-rules.ts';
import { earliestStart, endOf, shareOpen } from './openings.ts';
import type { PlanMessage } from './problem.ts';
import { UNITS_TOLERANCE } from './problem.ts';
import { shareOut } from './share-out.ts';

/** What no load that a task is in can be given: time and somebody to set up in, or what it holds. */
export function impossibleLoad(
  { id, inLoad, batch, duration, spans }: Task,
  { resources }: Compiled,
): { readonly text: string; readonly ids: readonly string[] } | undefined {
  if (!inLoad) return undefined;
  const { rule, lead } = inLoad;
  const { id: machine, batch: given } = resources[batch!.resource]!;
  const setUpIn = rule.open === null ? Infinity : shareOpen(rule.open).longest;
  if (lead > setUpIn)
    return {
      text: `${machine} is set up for ${id} in ${lead} min at least; ${given!.setupIn} is open for ${setUpIn} at most`,
      ids: [machine, given!.setupIn!],
    };
  for (const { resource, units, before, open } of rule.needs) {
    const { id: held, capacity, calendar } = resources[resource]!;
    const ids = [machine, held, ...(calendar === undefined ? [] : [calendar])];
    if (units > capacity + UNITS_TOLERANCE && before + duration > 0)
      return { text: `a load of ${machine} holds ${units} of ${held}, which has ${capacity}`, ids };
    const longest = shareOpen(open).longest;
    if (longest === 0) return { text: `${held}, which a load of ${machine} holds, is never open`, ids };
    if (spans === 'unbroken' && before + duration > longest)
      return {
        text: `a load of ${machine} with ${id} holds ${held} for ${before + duration} min without a break; at most ${longest} are open`,
        ids,
      };
  }
  return undefined;
}

/** A pinned load that cannot be set up: before the plan begins, in closed hours, or after the only machine's pinned load before it. */
export function pinnedSetup({ tasks, resources, loadRules }: Compiled): PlanMessage | undefined {
  for (const [resource, { id, batch }] of resources.entries()) {
    const rule = loadRules[resource];
    if (!rule?.isOrdered) continue;
    const pinned = tasks
      .filter((task) => task.batch?.resource === resource && task.fixed !== null)
      .map((task) => ({ task, start: task.fixed!, end: endOf(task.open, task.spans, task.fixed!, task.duration) }))
      .sort((a, b) => a.start - b.start || a.end - b.end);
    for (const [i, { task, start }] of pinned.entries()) {
      if (start < 0) continue;
      // Others that are not pinned can come between them, or share their loads: both only ask for more.
      const lead = leastSetup(rule, task.batch!.units);
      const sooner = rule.machines === 1 ? pinned.slice(0, i).filter((each) => each.start < start) : [];
      const from =
        sooner.length > 0
          ? Math.max(...sooner.map(({ end }) => end))
          : rule.isFirstSetUp
            ? task.inLoad!.from
            : -Infinity;
      const isOpen =
        rule.open === null || lead === 0 || earliestStart(rule.open, 'unbroken', start - lead, lead) === start - lead;
      if (start - lead >= from && isOpen) continue;
      const after = sooner.find(({ end }) => end === from && start - lead < from);
      return {
        ids: [...(after ? [after.task.id] : []), task.id, id, ...(isOpen ? [] : [batch!.setupIn!])],
        text: `${id} is set up for ${task.id} in ${lead} min at least, and ${task.id} is pinned at minute ${start}${
          after
            ? `, ${after.task.id} ends at ${from}`
            : isOpen
              ? ''
              : `, when ${batch!.setupIn} has not been open for so long`
        }`,
      };
    }
    const order = pinnedOrder(pinned, tasks, rule, resource);
    if (order)
      return {
        ids: [...order, id, ...(batch!.setupIn ? [batch!.setupIn] : [])],
        text: `${id} cannot be set up for all of ${order.join(', ')} where they are pinned`,
      };
  }
  return undefined;
}

/** Where all that a resource works on is pinned nothing else keeps it warm or on one key: then the whole setups count. */
function pinnedOrder(
  pinned: readonly { readonly task: Task; readonly start: number; readonly end: number }[],
  tasks: readonly Task[],
  rule: LoadRule,
  resource: number,
): string[] | undefined {
  // Of several machines each could take a part.
  if (rule.machines > 1 || tasks.some(({ batch, fixed }) => batch?.resource === resource && fixed === null))
    return undefined;
  const loads = new Map<string, { start: number; end: number; units: number; key: string | undefined }>();
  for (const { task, start, end } of pinned) {
    const name = JSON.stringify([start, task.batch!.key ?? null]);
    const load = loads.get(name) ?? { start, end, units: 0, key: task.batch!.key };
    // As few loads as their starts and keys allow, each as soon at its end as its first task.
    loads.set(name, { ...load, end: Math.min(load.end, end), units: load.units + task.batch!.units });
  }
  return shareOut(rule, [...loads.values()]).stuck === undefined ? undefined : pinned.map(({ task }) => task.id);
}
