import type { Instant } from '../units/instant.ts';

/** The air of a room at a moment. */
export interface ClimateReading {
  readonly at: Instant;
  readonly celsius: number;
  /** Relative, 0 to 100. */
  readonly humidityPercent: number;
}
