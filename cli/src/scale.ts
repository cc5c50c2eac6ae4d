import { DEFAULT_ALLOY_ID, RUBBERS, alloyOf, chainOfShrinkages, formatFigure, sizeChain } from '@kalvet/core';
import { LENGTH_UNITS } from '@kalvet/core/mesh/length';
import { argumentsOf, numberIn } from './arguments.ts';
import { Wrong } from './files.ts';
import { ask, modelFile, printJson, printRows, unitIn } from './model.ts';

const OPTIONS = {
  unit: { type: 'string' },
  bronze: { type: 'string' },
  axis: { type: 'string' },
  rubber: { type: 'string' },
  alloy: { type: 'string' },
  direct: { type: 'boolean' },
  json: { type: 'boolean' },
} as const;

const AXES = ['x', 'y', 'z'] as const;

/** `kalvet scale`: how large original, wax and bronze are, from the bronze that is wanted or the model as it is. */
export async function scale(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const file = await modelFile('scale', positionals);
  const asked = await ask('ask', file);
  const unit = unitIn(values.unit) ?? asked.unit;
  if (!unit) throw new Wrong(`${file.name} does not say its unit: give --unit (the guess is ${asked.guess})`);
  const axis = AXES.find((each) => each === (values.axis ?? asked.up));
  if (!axis) throw new Wrong(`--axis must be one of ${AXES.join(', ')}, not "${values.axis}"`);
  const rubber = RUBBERS.find(({ code }) => code === (values.rubber ?? 'silicone-condensation'));
  if (!rubber)
    throw new Wrong(`--rubber must be one of ${RUBBERS.map(({ code }) => code).join(', ')}, not "${values.rubber}"`);
  const modelMm = asked.sides[AXES.indexOf(axis)]! * LENGTH_UNITS[unit];
  const alloy = alloyOf(values.alloy ?? DEFAULT_ALLOY_ID);
  const chain = sizeChain(
    modelMm,
    { bronzeMm: numberIn('bronze', values.bronze, { above: true }) ?? null },
    chainOfShrinkages(alloy, { rubber: rubber.code, method: values.direct ? 'direct' : 'shell' }),
  );
  if (values.json) printJson({ axis, unit, modelMm, ...chain });
  else
    printRows([
      ['', 'along ' + axis, 'of the model'],
      ['original', formatFigure(chain.original, 1), `× ${chain.toOriginal.toFixed(4)}`],
      ['wax', formatFigure(chain.wax, 1), `× ${chain.toWax.toFixed(4)}`],
      ['bronze', formatFigure(chain.bronze, 1), `× ${(chain.bronze.value / modelMm).toFixed(4)}`],
    ]);
  return 0;
}
