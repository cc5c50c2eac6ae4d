import { MeshFault } from './fault.ts';

/** Units in which a model's coordinates may be written, in mm. Source: SI; the international inch and foot. */
export const LENGTH_UNITS = { micron: 0.001, mm: 1, cm: 10, m: 1000, in: 25.4, ft: 304.8 } as const;
export type LengthUnit = keyof typeof LENGTH_UNITS;

/** The units a person is asked to choose from. */
export const ASKED_UNITS = ['mm', 'cm', 'm', 'in'] as const satisfies readonly LengthUnit[];

const IN_WORDS: Readonly<Record<LengthUnit, string>> = {
  micron: 'micrometres',
  mm: 'millimetres',
  cm: 'centimetres',
  m: 'metres',
  in: 'inches',
  ft: 'feet',
};
export const unitInWords = (unit: LengthUnit): string => IN_WORDS[unit];

/** Pieces leave an art foundry between a hand's breadth and a few metres; a guess is made for that span, in mm. */
const LIKELY_MM = { least: 60, most: 4000 };

/** The likeliest unit of a model whose longest side measures so many of them. A guess, to be asked about, never used unasked. */
export function guessUnit(longest: number): (typeof ASKED_UNITS)[number] {
  const likely = (['mm', 'm', 'cm'] as const).find((unit) => {
    const mm = longest * LENGTH_UNITS[unit];
    return mm >= LIKELY_MM.least && mm <= LIKELY_MM.most;
  });
  return likely ?? (longest > LIKELY_MM.most ? 'mm' : 'm');
}

/** Three sizes as they are said: `0.42 × 0.18 × 0.15`. */
export const sizesInWords = (sizes: readonly number[]): string =>
  sizes.map((size) => String(Number(size.toPrecision(3)))).join(' × ');

/** The question that a file without a unit leaves open. */
export function unitAsked(sizes: readonly number[], name: string): MeshFault {
  const guess = guessUnit(Math.max(...sizes));
  return new MeshFault(
    `${name} does not say its unit: ${sizesInWords(sizes)}, ${IN_WORDS[guess]}? Give the unit (${ASKED_UNITS.join(', ')}); the guess is ${guess}`,
  );
}
