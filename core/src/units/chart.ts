/** Limits of single values and their moving range, from a base period that somebody chose. */
export interface ChartLimits {
  readonly mean: number;
  /** Mean of the differences from one value to the next. */
  readonly meanRange: number;
  readonly low: number;
  readonly high: number;
  /** A difference beyond this is no chance. */
  readonly rangeLimit: number;
}

/** Signs that something has changed, by name (Western Electric). */
export const CHART_RULES = {
  beyond: 'beyond the limit',
  jump: 'a jump from one to the next',
  'two of three': 'two of three near the limit',
  'four of five': 'four of five on one side',
  eight: 'eight in a row on one side',
} as const;
export type ChartRule = keyof typeof CHART_RULES;
