import { DEFAULT_ALLOY_ID, alloyOf, formatFigure } from '@kalvet/core';
import type { ModelReport, Weighed } from '@kalvet/core/weigh/index';
import { argumentsOf, numberIn } from './arguments.ts';
import { ask, modelFile, printJson, printRows, printWarnings, unitIn } from './model.ts';

const OPTIONS = {
  unit: { type: 'string' },
  scale: { type: 'string' },
  height: { type: 'string' },
  wall: { type: 'string', multiple: true },
  alloy: { type: 'string' },
  thickness: { type: 'boolean' },
  json: { type: 'boolean' },
} as const;

/** `kalvet measure`: what a model weighs in wax and metal, solid and hollow. @returns the exit code */
export async function measure(args: string[]): Promise<number> {
  const { values, positionals } = argumentsOf(args, OPTIONS);
  const unit = unitIn(values.unit);
  const scale = numberIn('scale', values.scale, { above: true });
  const heightMm = numberIn('height', values.height, { above: true });
  const wallsMm = (values.wall ?? []).map((text) => numberIn('wall', text, { above: true })!);
  const report = await ask('measure', {
    ...(await modelFile('measure', positionals)),
    ...(unit === undefined ? {} : { unit }),
    ...(scale === undefined ? {} : { scale }),
    ...(heightMm === undefined ? {} : { heightMm }),
    wallsMm,
    thickness: values.thickness === true,
    alloyId: values.alloy ?? DEFAULT_ALLOY_ID,
  });
  if (values.json) printJson(report);
  else print(report);
  return 0;
}

function print(report: ModelReport): void {
  const { bboxMm, warnings } = report;
  const sides = bboxMm.max.map((high, k) => (high - bboxMm.min[k]!).toFixed(1)).join(' × ');
  const scaled = report.scale === 1 ? '' : `, × ${Number(report.scale.toPrecision(6))}`;
  printRows([
    [report.file, `${report.format}, ${report.unit}${scaled}`],
    ['size', `${sides} mm`],
    [
      'volume',
      report.volumeCm3 === null ? 'none: encloses nothing' : `${amount(report.volumeCm3, report.volumeErrorCm3)} cm³`,
    ],
    ['surface', `${report.areaCm2.toFixed(1)} cm²`],
    ['triangles', `${report.triangles}, ${report.vertices} vertices`],
    ['closed', report.watertight ? 'yes' : `no: ${report.openEdges} open and ${report.nonManifoldEdges} crowded edges`],
    ['shells', `${report.shells}${report.cavities > 0 ? `, ${report.cavities} of them hollows` : ''}`],
    ...(report.maxInscribedRadiusMm === undefined
      ? []
      : [['thickest metal', `${(2 * report.maxInscribedRadiusMm).toFixed(1)} mm`]]),
    ...(report.thicknessMm
      ? [
          [
            'thinnest, typical',
            `${report.thicknessMm.thinnest.toFixed(1)}, ${report.thicknessMm.typical.toFixed(1)} mm`,
          ],
        ]
      : []),
  ]);
  if (report.solid) {
    const alloy = alloyOf(report.alloy);
    process.stdout.write('\n');
    printRows([
      ['', 'volume', 'wax', `${alloy.name} ${alloy.id}`, 'cast from such a wax'],
      ...report.hollow.map((each) => row(`wall ${each.wallMm} mm`, each)),
      row('solid', report.solid),
    ]);
    process.stdout.write(
      `\nWax and metal are for a body of exactly these dimensions. For a bronze of this size the original is made\n× ${report.originalScale.value.toFixed(4)} (${report.originalScale.inWords}).\n`,
    );
  }
  printWarnings(warnings);
}

const row = (name: string, { volumeCm3, errorCm3, figures }: Weighed): string[] => [
  name,
  `${amount(volumeCm3, errorCm3)} cm³`,
  ...[figures.wax, figures.metal, figures.castFromWax].map((figure) => formatFigure(figure, decimals(figure.value))),
];

/** Grams where there are few, tens of grams above. */
const decimals = (kg: number): number => (kg < 0.1 ? 4 : kg < 10 ? 3 : 2);

/** A volume with as many decimals as its error leaves. */
const amount = (value: number, error: number): string =>
  `${value.toFixed(1)}${error > 0.00005 * value ? ` ± ${error.toFixed(1)}` : ''}`;
