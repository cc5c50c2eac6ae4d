import type { Task } from './compile.ts';
import { startByNeeds } from './load-rules.ts';
import { earliestStart } from './openings.ts';

/**
 * The first minute at or after one where a task may start by its own hours, and by what any load that it is in asks for: its
 * least setup, and the hours of what the load holds. Infinity where there is none.
 * @param longer minutes of setup beyond the least
 */
export function earliestOf(task: Task, minute: number, duration: number, longer = 0): number {
  const { open, spans, inLoad } = task;
  if (inLoad === null) return earliestStart(open, spans, minute, duration);
  const { rule, from } = inLoad;
  const lead = inLoad.lead + longer;
  for (let start = minute; ;) {
    const own = earliestStart(open, spans, Math.max(start, lead > 0 ? from + lead : start), duration);
    if (own === Infinity) return Infinity;
    const setUp = lead > 0 && rule.open !== null ? earliestStart(rule.open, 'unbroken', own - lead, lead) + lead : own;
    const next = startByNeeds(rule, setUp, setUp + duration, spans === 'unbroken');
    if (next === own || next === Infinity) return next;
    start = next;
  }
}
