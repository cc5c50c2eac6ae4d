/** A pouring cup: a frustum, wide above. */
export interface Cup {
  readonly topRadiusMm: number;
  readonly bottomRadiusMm: number;
  readonly heightMm: number;
}

/** A pouring cup that the shop makes or buys. */
export interface NamedCup extends Cup {
  readonly name: string;
}

/** The cups of a shop that has entered none: 95, 296 and 659 cm³. */
export const DEFAULT_CUPS: readonly NamedCup[] = [
  { name: 'small', topRadiusMm: 30, bottomRadiusMm: 14, heightMm: 60 },
  { name: 'middle', topRadiusMm: 45, bottomRadiusMm: 20, heightMm: 85 },
  { name: 'large', topRadiusMm: 60, bottomRadiusMm: 25, heightMm: 110 },
];

/** The bars of a shop that has entered none, by their codes: squares and rounds, 6 to 25 mm. */
export const DEFAULT_BAR_STOCK: readonly string[] = ['S', 'R'].flatMap((shape) =>
  [6, 8, 10, 12, 15, 20, 25].map((mm) => `${shape}${mm}`),
);
