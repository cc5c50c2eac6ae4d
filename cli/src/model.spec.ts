// The commands on models as a person runs them: a file in, a table or JSON out, exit codes.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { SizeChain } from '@kalvet/core';
import type { ModelAnswers, ModelReport, TrapsReport } from '@kalvet/core/weigh/index';
import { box, moved, stlBytes, together } from '../../core/src/testing/shapes.ts';

const BIN = join(import.meta.dirname, '../kalvet.mjs');

describe('kalvet’s commands on models', () => {
  let folder: string;
  beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'kalvet-model-'))));
  afterEach(() => rmSync(folder, { recursive: true }));

  const kalvet = (...args: string[]) => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], { encoding: 'utf8', cwd: folder });
    return { status, stdout, stderr: stderr.replace(/kalvet: building cli …\n/, '') };
  };
  const file = (name: string, bytes: Uint8Array) => (writeFileSync(join(folder, name), bytes), name);

  it('measures to JSON with every promised field, walls in the order asked', () => {
    const name = file('block.stl', stlBytes(box(10, 8, 6, [1, 2, 3])));
    const { status, stdout, stderr } = kalvet(
      'measure',
      name,
      '--unit',
      'cm',
      '--scale',
      '2',
      '--wall',
      '10',
      '--wall',
      '5',
      '--json',
    );
    expect([status, stderr]).toEqual([0, '']);
    const report = JSON.parse(stdout) as ModelReport;
    // 10 × 8 × 6 cm, twice as large: 200 × 160 × 120 mm.
    expect(report).toEqual(
      jasmine.objectContaining({
        triangles: 12,
        vertices: 8,
        openEdges: 0,
        nonManifoldEdges: 0,
        shells: 1,
        watertight: true,
        insideOut: false,
        warnings: [],
      }),
    );
    expect(report.volumeCm3).toBeCloseTo(3840, 6);
    expect(report.areaCm2).toBeCloseTo(2 * (320 + 192 + 240), 6);
    expect(report.bboxMm).toEqual({ min: [20, 40, 60], max: [220, 200, 180] });
    expect(report.centroidMm.map((value) => Number(value.toFixed(6)))).toEqual([120, 120, 120]);
    expect(report.maxInscribedRadiusMm).toBeCloseTo(60, 3);
    expect(report.hollow.map(({ wallMm }) => wallMm)).toEqual([10, 5]);
    const [ten] = report.hollow;
    expect(Math.abs(ten!.volumeCm3 - (3840 - 18 * 14 * 10))).toBeLessThan(ten!.errorCm3);
    expect(ten!.waxKg).toBeCloseTo(ten!.volumeCm3 * 0.93e-3, 9);
    expect(ten!.metalKg).toBeCloseTo(ten!.volumeCm3 * 8.36e-3, 9);
  });

  it('prints a table, warnings last', () => {
    const open = stlBytes(box(100, 80, 60)).slice(0, 84 + 50 * 11);
    new DataView(open.buffer).setUint32(80, 11, true);
    const { status, stdout } = kalvet(
      'measure',
      file('open.stl', open),
      '--unit',
      'mm',
      '--wall',
      '5',
      '--alloy',
      'C90500',
      '--thickness',
    );
    expect(status).toBe(0);
    expect(stdout).toMatch(/size +100\.0 × 80\.0 × 60\.0 mm\n/);
    expect(stdout).toMatch(/closed +no: 3 open and 0 crowded edges/);
    expect(stdout).toMatch(/wall 5 mm +\d+\.\d ± \d+\.\d cm³ +0\.\d+ ± /);
    expect(stdout).toContain('tin bronze 88-10-2 C90500');
    expect(stdout.trimEnd().split('\n').at(-1)).toMatch(/^! the model is open: 1 hole closed/);
  });

  it('finds traps in the file’s own axes, and the best way up', () => {
    const towers = together(box(100, 40, 20), box(20, 40, 90), moved(box(20, 40, 60), [80, 0, 0]));
    const name = file('towers.stl', stlBytes(towers));
    const found = JSON.parse(kalvet('traps', name, '--unit', 'mm', '--json').stdout) as TrapsReport;
    expect(found.traps.map(({ z, prominenceMm }) => [Math.round(z), Math.round(prominenceMm)])).toEqual([
      [90, 90],
      [60, 40],
    ]);
    expect(found.heightMm).toBeCloseTo(90, 3);
    const best = JSON.parse(kalvet('traps', name, '--unit', 'mm', '--best', '--json').stdout) as TrapsReport;
    expect([best.traps.length, best.up.length]).toEqual([1, 3]);
    const table = kalvet('traps', name, '--unit', 'mm', '--up', '0,0,-1');
    expect(table.stdout).toMatch(/^up 0\.000, 0\.000, -1\.000: 90\.0 mm of metal, air is trapped at 1 place\n/);
  });

  it('ends with 2 and one line that says what is wrong', () => {
    const good = file('block.stl', stlBytes(box(100, 80, 60)));
    const cut = file('cut.stl', stlBytes(box(100, 80, 60)).subarray(0, 400));
    for (const [args, says] of [
      [['measure', good], /block\.stl does not say its unit: 100 × 80 × 60, millimetres\?.*guess is mm/],
      [['traps', good], /does not say its unit/],
      [['measure', cut, '--unit', 'mm'], /cut\.stl: the file says 12 triangles and holds 6/],
      [['measure', 'none.stl'], /none\.stl: there is no such file/],
      [['measure', good, '--unit', 'ell'], /--unit must be one of .*mm, cm, m, in/],
      [['measure', good, '--unit', 'mm', '--wall', '0'], /--wall must be a number above 0/],
      [['measure', good, '--unit', 'mm', '--alloy', 'X'], /no alloy X; there are C87300/],
      [['measure', good, '--unit', 'mm', '--scale', '2', '--height', '9'], /not both/],
      [['traps', good, '--unit', 'mm', '--up', '0,0,0'], /--up must be a direction/],
      [['traps', good, '--unit', 'mm', '--prominence', '2'], /share of the height/],
      [['measure'], /measure takes one model file/],
    ] as const) {
      const { status, stderr, stdout } = kalvet(...args);
      expect([status, stdout]).withContext(args.join(' ')).toEqual([2, '']);
      expect(stderr).toMatch(says);
      expect(stderr.trimEnd().split('\n').length).withContext(stderr).toBe(1);
    }
  });

  it('cuts into parts that add up, and writes them as one file', () => {
    const name = file('bar.stl', stlBytes(box(200, 40, 40)));
    const { status, stdout } = kalvet(
      'cut',
      name,
      '--unit',
      'mm',
      '--plane',
      '1,0,0,50',
      '--wall',
      '4',
      '--json',
      '-o',
      'parts.3mf',
    );
    expect(status).toBe(0);
    const { parts } = JSON.parse(stdout) as { parts: ModelAnswers['cut'] };
    expect(parts.map(({ sizeMm }) => sizeMm)).toEqual([
      [150, 40, 40],
      [50, 40, 40],
    ]);
    // Round a cut of 40 × 40.
    expect(parts[0]!.seamM).toBeCloseTo(0.16, 9);
    // 200 × 40 × 40 less the hollow of 192 × 32 × 32.
    const wax = parts.reduce((sum, { curve }) => sum + curve.find(({ wallMm }) => wallMm === 4)!.volumeCm3, 0);
    expect(wax / (320 - 196.608)).toBeCloseTo(1, 2);
    const again = kalvet('measure', 'parts.3mf', '--json');
    expect((JSON.parse(again.stdout) as ModelReport).volumeCm3).toBeCloseTo(320, 3);
    expect(kalvet('cut', name, '--unit', 'mm', '--suggest').stdout).toContain('no cut is needed');
  });

  it('tells thin and solid metal, and the sizes from original to bronze', () => {
    const plate = file('plate.stl', stlBytes(together(box(80, 2, 80), box(60, 60, 60, [200, 0, 0]))));
    const { stdout } = kalvet('thickness', plate, '--unit', 'mm', '--wall', '5', '--json');
    const { thin, thick } = JSON.parse(stdout) as Pick<ModelAnswers['thickness'], 'thin' | 'thick'>;
    expect([thin.length, thick.length, Math.round(thin[0]!.mm)]).toEqual([1, 0, 2]);
    const sizes = kalvet('scale', plate, '--unit', 'mm', '--bronze', '400', '--json');
    const { original, wax, toWax } = JSON.parse(sizes.stdout) as SizeChain;
    // Silicon bronze 1.7, wax 1.1, condensation silicone 0.45 %: up is z, 80 mm in the file.
    expect([Math.round(original.value * 10) / 10, Math.round(wax.value * 10) / 10]).toEqual([413.3, 406.9]);
    expect(toWax).toBeCloseTo(406.9 / 80, 3);
    for (const [args, words] of [
      [['scale', plate], /does not say its unit: give --unit \(the guess is mm\)/],
      [['scale', plate, '--unit', 'mm', '--rubber', 'jelly'], /--rubber must be one of silicone-addition/],
      [['cut', plate, '--unit', 'mm'], /give --plane, or --suggest/],
      [['cut', plate, '--unit', 'mm', '--plane', '0,0,1'], /--plane must be like 0,0,1,120/],
      [['thickness', plate, '--unit', 'mm', '--wall', '-1'], /--wall/],
    ] as const) {
      const { status, stderr } = kalvet(...args);
      expect(status).withContext(args.join(' ')).toBe(2);
      expect(stderr).toMatch(words);
    }
  });
});
