/** Density of pattern wax in g/cm³, the figure behind every wax-to-bronze factor unless the shop enters its own. */
export const PATTERN_WAX_DENSITY = 0.93;

/** Wax kinds a shop chooses from at a pull; densities in g/cm³ (mid-range of general data sheets). */
export const WAXES = [
  { code: 'pattern', label: 'pattern wax', densityGPerCm3: PATTERN_WAX_DENSITY },
  { code: 'sprue', label: 'sprue wax', densityGPerCm3: 0.97 },
  { code: 'micro', label: 'microcrystalline', densityGPerCm3: 0.92 },
  { code: 'beeswax', label: 'beeswax', densityGPerCm3: 0.96 },
] as const;
