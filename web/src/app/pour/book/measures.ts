/** What a share is called, and how it is read off heats together. */
export const MEASURES = [
  { key: 'lossShare', label: 'Burnt and skimmed', unit: '%' },
  { key: 'yieldShare', label: 'Yield', unit: '%' },
  { key: 'kwhPerKg', label: 'Energy', unit: 'kWh/kg' },
  { key: 'returnsShare', label: 'Returns in the charge', unit: '%' },
] as const;
export type Measure = (typeof MEASURES)[number];
