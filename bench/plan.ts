// Planning 400 pieces: the problem by itself, and the whole shop from its records.
import { checkSchedule, planProblem } from '@kalvet/core';
import { foundryProblem } from '../core/src/testing/foundry-problem.ts';
import { line, timed } from './measure.ts';
import type { Line } from './measure.ts';

const PIECES = 400;

export async function plan(): Promise<Line[]> {
  const lines: Line[] = [];
  for (const pieces of [40, PIECES]) {
    const problem = foundryProblem(pieces, 1, { coats: 9 });
    let status = '';
    const ms = await timed(async () => {
      const schedule = planProblem(problem);
      status = schedule.status;
      if (checkSchedule(problem, schedule).length > 0) throw new Error('the check found faults');
    });
    if (status !== 'feasible') throw new Error(`no plan for ${pieces} pieces: ${status}`);
    lines.push(
      line(
        `Planning ${pieces} pieces, ${problem.tasks.length} tasks, checked`,
        ms / 1000,
        's',
        pieces === PIECES ? 5 : undefined,
      ),
    );
  }
  return lines;
}
