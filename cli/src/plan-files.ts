import type { PlanProblem, Schedule } from '@kalvet/core';
import { checkSchedule, dateOf, dayNumber, validateProblem } from '@kalvet/core';
import { Wrong, readJson } from './files.ts';

const DAY_MIN = 1440;

/** Reads a problem. @throws Wrong naming the first fault in it */
export async function readProblem(path: string): Promise<PlanProblem> {
  const { problem, messages } = validateProblem(await readJson(path));
  if (problem) return problem;
  const [first] = messages;
  const more = messages.length > 1 ? ` (and ${messages.length - 1} more)` : '';
  throw new Wrong(`${path} is no valid problem: ${first!.path ? `${first!.path} ` : ''}${first!.text}${more}`);
}

/** Reads a problem's schedule. @throws Wrong where it is none, or does not keep the problem's rules */
export async function readSchedule(path: string, problem: PlanProblem): Promise<Schedule> {
  const document = (await readJson(path)) as Partial<Schedule> | null;
  const isSchedule =
    typeof document === 'object' &&
    document?.format === 'kalvet-schedule/1' &&
    Array.isArray(document.tasks) &&
    document.tasks.every((task) => typeof task?.id === 'string' && typeof task.start === 'number');
  if (!isSchedule) throw new Wrong(`${path} is no schedule (kalvet-schedule/1)`);
  if (document.status !== 'feasible')
    throw new Wrong(`${path} is a schedule that is ${document.status}: there is nothing in it`);
  const broken = checkSchedule(problem, document as Schedule);
  if (broken.length === 0) return document as Schedule;
  const [first] = broken;
  const more = broken.length > 1 ? ` (and ${broken.length - 1} more)` : '';
  throw new Wrong(`${path} is no schedule of this problem: ${(first!.ids ?? []).join(', ')} ${first!.text}${more}`);
}

/** A minute as the wall clock shows it: 2027-03-01 08:00. */
export function wallClock({ start }: PlanProblem, minute: number): string {
  const day = Math.floor(minute / DAY_MIN);
  const rest = Math.round(minute - day * DAY_MIN);
  const two = (value: number) => String(value).padStart(2, '0');
  return `${dateOf(dayNumber(start.slice(0, 10))! + day)} ${two(Math.floor(rest / 60))}:${two(rest % 60)}`;
}

/** Minutes in words that a person reads at a glance: 3 d 4 h, 2 h 30 min. */
export function spanInWords(minutes: number): string {
  const size = Math.abs(Math.round(minutes));
  const [days, hours, rest] = [Math.floor(size / DAY_MIN), Math.floor((size % DAY_MIN) / 60), size % 60];
  const parts = [
    ...(days > 0 ? [`${days} d`] : []),
    ...(hours > 0 ? [`${hours} h`] : []),
    ...(rest > 0 && days === 0 ? [`${rest} min`] : []),
  ];
  return `${minutes < 0 ? '−' : ''}${parts.join(' ') || '0 min'}`;
}
