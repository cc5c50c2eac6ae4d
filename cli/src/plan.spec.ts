// The command as a person runs it: files in, files out, exit codes.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { PlanProblem, Promises, Schedule, Why } from '@kalvet/core';
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

  it('promises dates, and says what holds a job and what would help', () => {
    const problem = foundryProblem(4, 2);
    const { schedule } = plan(problem, '--iterations', '20');
    const files = [at('problem.json'), at('schedule.json')] as const;
    const table = kalvet('promise', ...files, '--runs', '40');
    expect([table.status, table.stderr]).toEqual([0, '']);
    expect(table.stdout).toMatch(
      /^job +planned +one chance in two by +nine in ten by +due +on time\nP0 +2027-03-\d\d \d\d:\d\d/,
    );
    expect(table.stdout.trimEnd().split('\n').length).toBe(1 + 4 + 2);
    const promises = JSON.parse(
      kalvet('promise', ...files, '--runs', '40', '--seed', '3', '--json').stdout,
    ) as Promises;
    expect(promises.runs).toBe(40);
    for (const { id, planned, p50, p90, due, onTime } of promises.jobs) {
      const ends = schedule.tasks.filter((task) => task.id.startsWith(`${id}.`)).map(({ end }) => end);
      expect(planned).toBe(Math.max(...ends));
      expect(p50).toBeLessThanOrEqual(p90);
      expect(onTime! >= 0.9).toBe(p90 <= due!);
    }
    const why = kalvet('why', ...files, 'P2');
    expect(why.status).toBe(0);
    expect(why.stdout).toMatch(/^P2 ends 2027-\d\d-\d\d \d\d:\d\d, due 2027-\d\d-\d\d 00:00/);
    expect(why.stdout).toContain('P2.pack');
    const told = JSON.parse(kalvet('why', ...files, 'P2', '--json').stdout) as Why;
    expect(told.chain[0]).toEqual(jasmine.objectContaining({ task: 'P2.pack', end: told.finish }));
  });

  it('refuses files that do not belong together, and jobs that there are not', () => {
    plan(foundryProblem(2, 2), '--iterations', '0');
    writeFileSync(at('other.json'), JSON.stringify(foundryProblem(3, 2)));
    writeFileSync(at('odd.json'), '{"format": "kalvet-schedule/1"}');
    for (const [args, says] of [
      [['promise', at('other.json'), at('schedule.json')], 'is no schedule of this problem: P2'],
      [['promise', at('problem.json'), at('odd.json')], 'is no schedule (kalvet-schedule/1)'],
      [['promise', at('schedule.json'), at('schedule.json')], 'is no valid problem'],
      [['promise', at('problem.json'), at('schedule.json'), '--runs', '0'], '--runs must be a whole number above 0'],
      [['promise', at('problem.json')], 'takes a problem file and its schedule file'],
      [['why', at('problem.json'), at('schedule.json'), 'X'], 'has no job "X"'],
      [['why', at('problem.json'), at('schedule.json')], 'and a job'],
    ] as const) {
      const { status, stderr, stdout } = kalvet(...args);
      expect([status, stdout]).withContext(args.join(' ')).toEqual([2, '']);
      expect(stderr).toContain(says);
      expect(stderr.trimEnd().split('\n').length).toBe(1);
    }
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
