// The command as a person runs it: files in, files out, exit codes.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { PlanProblem, Schedule } from '@kalvet/core';
import { checkSchedule } from '@kalvet/core';
import { foundryProblem } from '../../core/src/testing/foundry-problem.ts';

const BIN = join(import.meta.dirname, '../kalvet.mjs');

describe('kalvet plan', () => {
  let folder: string;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'kalvet-cli-'))));
  afterEach(() => rmSync(folder, { recursive: true }));

  const at = (name: string) => join(folder, name);
  const kalvet = (...args: string[]) => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], { encoding: 'utf8', cwd: folder });
    return { status, stdout, stderr: stderr.replace(/kalvet: building cli …\n/, '') };
  };
  const plan = (document: unknown, ...args: string[]) => {
    writeFileSync(at('problem.json'), typeof document === 'string' ? document : JSON.stringify(document));
    const ran = kalvet('plan', at('problem.json'), '-o', at('schedule.json'), ...args);
    return { ...ran, schedule: JSON.parse(readFileSync(at('schedule.json'), 'utf8')) as Schedule };
  };

  it('writes a schedule that keeps every rule, the same one for the same seed', () => {
    const problem = foundryProblem(4, 2);
    const one = plan(problem, '--iterations', '2', '--seed', '3');
    expect(one.status).toBe(0);
    expect(one.schedule.tasks.length).toBe(problem.tasks.length);
    expect(checkSchedule(problem, one.schedule)).toEqual([]);
    expect(plan(problem, '--iterations', '2', '--seed', '3').schedule).toEqual(one.schedule);
  });

  it('ends with 1 where there can be no schedule, with 2 where the problem is wrong, and writes why', () => {
    const problem = foundryProblem(1);
    const shut: PlanProblem = { ...problem, calendars: problem.calendars.map(({ id }) => ({ id })) };
    const none = plan(shut);
    expect([none.status, none.schedule.status]).toEqual([1, 'infeasible']);
    expect(none.schedule.messages[0]!.text).toContain('nothing is ever open');
    const wrong = plan({ ...problem, jobs: [] });
    expect([wrong.status, wrong.schedule.status]).toEqual([2, 'invalid']);
    expect(wrong.schedule.messages[0]!.path).toBe('tasks[0].job');
    const broken = plan('{ "format": ');
    expect([broken.status, broken.schedule.status]).toEqual([2, 'invalid']);
    expect(broken.stderr).toContain('is not JSON');
  });

  it('says in one line what is wrong with the command', () => {
    for (const [args, says] of [
      [['plan'], 'plan takes one problem file'],
      [['plan', at('none.json')], 'there is no such file'],
      [['plan', at('x.json'), '--seconds', 'soon'], '--seconds must be a number from 0'],
      [['plan', at('x.json'), '--colour'], "Unknown option '--colour'"],
      [['paint'], 'no command "paint"'],
    ] as const) {
      const { status, stderr } = kalvet(...args);
      expect(status).withContext(args.join(' ')).toBe(2);
      expect(stderr).toContain(says);
    }
  });
});
