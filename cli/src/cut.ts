import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import {
  CURVE_WALLS_MM,
  DEFAULT_ALLOY_ID,
  DEFAULT_SETTINGS,
  castFromWax,
  alloyOf,
  formatFigure,
  inWords,
  waxFromCurve,
} from '@kalvet/core';
import type { ModelAnswers } from '@kalvet/core/weigh/index';
import { write3mf } from '@kalvet/core/weigh/index';
import { argumentsOf, numberIn } from './arguments.ts';
import { directionIn, numbersIn } from './directions.ts';
import { Wrong } from './files.ts';
import { ask, modelFile, printJson, printRows, unitIn } from './model.ts';

const OPTIONS = {
  unit: { type: 'string' },
  scale: { type: 'string' },
  plane: { type: 'string', multiple: true },
  suggest: { type: 'boolean' },
  wall: { type: 'string' },
  alloy: { type: 'string' },
  out: { type: 'string', short: 'o' },
  json: { type: 'boolean' },
} as const;

const USUAL_WALL_MM = 5;

/** `kalvet cut`: the parts that planes cut a model into, weighed and held against the usual limits. @returns the exit code */
export async function cut(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const unit = unitIn(values.unit);
  const scale = numberIn('scale', values.scale, { above: true });
  const wallMm = numberIn('wall', values.wall, { above: true }) ?? USUAL_WALL_MM;
  const alloyId = values.alloy ?? DEFAULT_ALLOY_ID;
  if ((values.plane === undefined) === (values.suggest !== true)) throw new Wrong('give --plane, or --suggest');
  const source = {
    ...(await modelFile('cut', positionals)),
    ...(unit === undefined ? {} : { unit }),
    ...(scale === undefined ? {} : { scale }),
    ...{ wallMm, alloyId, fits: DEFAULT_SETTINGS },
  };
  const planes = values.suggest ? await ask('suggest', source) : (values.plane ?? []).map(planeIn);
  const parts = planes.length === 0 ? [] : await ask('cut', { ...source, planes, wallsMm: CURVE_WALLS_MM });
  if (values.out !== undefined) {
    const meshes = parts.map(({ mesh }, i) => ({
      ...mesh,
      name: nameOf(i),
      positions: Float64Array.from(mesh.positions),
    }));
    await writeFile(join(values.out), write3mf(meshes));
  }
  if (values.json) printJson({ planes, parts: parts.map(({ mesh: _, ...part }) => part) });
  else print(planes, parts, { wallMm, alloyId });
  return 0;
}

/** A plane written as its direction and its place along it: `0,0,1,120`. */
function planeIn(text: string): { normal: readonly [number, number, number]; offsetMm: number } {
  const numbers = numbersIn('plane', text, 4, '0,0,1,120: a direction and a place along it in mm');
  return { normal: directionIn('plane', numbers.slice(0, 3), text), offsetMm: numbers[3]! };
}

const nameOf = (i: number): string => `part ${String.fromCharCode(65 + i)}`;

function print(
  planes: ModelAnswers['suggest'],
  parts: ModelAnswers['cut'],
  { wallMm, alloyId }: { wallMm: number; alloyId: string },
): void {
  for (const { normal, offsetMm } of planes)
    process.stdout.write(
      `cut square to ${normal.map((each) => Number(each.toFixed(3))).join(', ')} at ${offsetMm.toFixed(1)} mm\n`,
    );
  if (planes.length === 0) process.stdout.write('it fits whole: no cut is needed\n');
  if (parts.length === 0) return;
  process.stdout.write('\n');
  printRows([
    ['', 'size mm', 'surface', 'seam', `wax, wall ${wallMm} mm`, 'bronze'],
    ...parts.map(({ sizeMm, areaCm2, seamM, curve }, i) => {
      const wax = waxFromCurve(curve, wallMm);
      return [
        nameOf(i),
        sizeMm.map((size) => size.toFixed(0)).join(' × '),
        `${areaCm2.toFixed(0)} cm²`,
        `${seamM.toFixed(2)} m`,
        formatFigure(wax, 3),
        formatFigure(castFromWax(wax.value, alloyOf(alloyId)), 2),
      ];
    }),
  ]);
  parts.forEach(({ findings }, i) => {
    for (const { share, says } of findings) if (share > 1) process.stdout.write(`! ${nameOf(i)}: ${inWords(says)}\n`);
  });
}
