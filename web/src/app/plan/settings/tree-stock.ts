import type { NamedCup } from '@kalvet/core';
import { barStockOf } from '@kalvet/core';

/** A cup as it is typed: across instead of radii. */
export interface CupRow {
  readonly name: string;
  readonly topMm: number | null;
  readonly bottomMm: number | null;
  readonly heightMm: number | null;
}

export const cupRow = ({ name, topRadiusMm, bottomRadiusMm, heightMm }: NamedCup): CupRow => ({
  name,
  topMm: topRadiusMm * 2,
  bottomMm: bottomRadiusMm * 2,
  heightMm,
});

/** As it is kept; what is left empty is refused by the server, by name. */
export const cupOf = ({ name, topMm, bottomMm, heightMm }: CupRow): NamedCup =>
  ({
    name: name.trim(),
    topRadiusMm: topMm === null ? null : topMm / 2,
    bottomRadiusMm: bottomMm === null ? null : bottomMm / 2,
    heightMm,
  }) as NamedCup;

/** The sizes of one shape, as they are typed: `6, 8, 10`. */
export const sizesInWords = (stock: readonly string[], shape: 'S' | 'R'): string =>
  stock
    .filter((code) => code.startsWith(shape))
    .map((code) => Number(code.slice(1)))
    .sort((a, b) => a - b)
    .join(', ');

/** The codes of the sizes that are typed; one that is no bar stays as it is typed, for the server to name. */
export const stockOfSizes = (text: string, shape: 'S' | 'R'): string[] => [
  ...new Set(
    text
      .split(/[,;\s]+/)
      .filter((size) => size !== '' && size !== 'mm')
      .map((size) => `${shape}${size}`),
  ),
];

/** What is wrong with the sizes that are typed. */
export function wrongSizes(text: string, shape: 'S' | 'R'): string | undefined {
  const bad = stockOfSizes(text, shape).find((code) => !barStockOf(code));
  return bad && `${bad.slice(1)} is no size: whole millimetres from 3 to 60, with commas`;
}
