import type { Direction } from '@kalvet/core/mesh/index';
import type { TrapsReport } from '@kalvet/core/weigh/index';
import { argumentsOf, numberIn } from './arguments.ts';
import { directionIn as direction, numbersIn } from './directions.ts';
import { Wrong } from './files.ts';
import { ask, modelFile, printJson, printRows, printWarnings, unitIn } from './model.ts';

const OPTIONS = {
  unit: { type: 'string' },
  up: { type: 'string' },
  prominence: { type: 'string' },
  best: { type: 'boolean' },
  json: { type: 'boolean' },
} as const;

/** `kalvet traps`: where air is trapped in a way up, or the way up with the fewest traps. @returns the exit code */
export async function traps(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const unit = unitIn(values.unit);
  const up = directionIn(values.up);
  const prominence = numberIn('prominence', values.prominence);
  if (prominence !== undefined && prominence > 1) throw new Wrong('--prominence is a share of the height, from 0 to 1');
  if (up && values.best) throw new Wrong('give --up or --best, not both');
  const report = await ask('traps', {
    ...(await modelFile('traps', positionals)),
    ...(unit === undefined ? {} : { unit }),
    ...(up === undefined ? {} : { up }),
    ...(prominence === undefined ? {} : { prominence }),
    best: values.best === true,
  });
  if (values.json) printJson(report);
  else print(report);
  return 0;
}

/** A direction written as three numbers with commas. */
function directionIn(text: string | undefined): Direction | undefined {
  if (text === undefined) return undefined;
  const numbers = numbersIn('up', text, 3, '0,0,1, a direction');
  return direction('up', numbers, text);
}

function print(report: TrapsReport): void {
  const place = (name: string, { x, y, z, prominenceMm }: TrapsReport['traps'][number]) => [
    name,
    x.toFixed(1),
    y.toFixed(1),
    z.toFixed(1),
    prominenceMm.toFixed(1),
  ];
  process.stdout.write(
    `up ${report.up.map((each) => each.toFixed(3)).join(', ')}: ${report.heightMm.toFixed(1)} mm of metal, air is trapped at ${report.traps.length} ${report.traps.length === 1 ? 'place' : 'places'}\n\n`,
  );
  printRows([
    ['', 'x mm', 'y mm', 'z mm', 'stands out by mm'],
    ...report.traps.map((each) => place('vent', each)),
    ...report.lowest.map((each) => place('lowest', each)),
  ]);
  printWarnings(report.warnings);
}
