/** Density of pattern wax in g/cm³, the figure behind every wax-to-bronze factor where nobody said another wax. */
export const PATTERN_WAX_DENSITY = 0.93;

/** The code of the wax that a cast is made of where nobody said another. */
export const PATTERN_WAX = 'pattern';

/** A wax of the shop; density in g/cm³ (general data sheets), and whether casts are made of it. */
export interface Wax {
  readonly code: string;
  readonly label: string;
  readonly short: string;
  readonly densityGPerCm3: number;
  readonly cast: boolean;
}

export const WAXES: readonly Wax[] = [
  { code: PATTERN_WAX, label: 'pattern wax', short: 'pattern', densityGPerCm3: PATTERN_WAX_DENSITY, cast: true },
  { code: 'sprue', label: 'sprue wax', short: 'sprue', densityGPerCm3: 0.97, cast: false },
  { code: 'micro', label: 'microcrystalline', short: 'microcrystalline', densityGPerCm3: 0.92, cast: true },
  { code: 'beeswax', label: 'beeswax', short: 'beeswax', densityGPerCm3: 0.96, cast: true },
];

/** The density of a wax by its code; pattern wax where nobody said which. */
export const waxDensityOf = (code: string | undefined): number =>
  WAXES.find((wax) => wax.code === code)?.densityGPerCm3 ?? PATTERN_WAX_DENSITY;
