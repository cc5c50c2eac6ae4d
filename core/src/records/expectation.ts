import type { Quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';

/** What a reading is likely to be, by what is known before it is taken; in the reading's own unit. */
export interface Expectation {
  /** The reading's key. */
  readonly key: string;
  /** Of which cast, where it is read of each. */
  readonly of?: Id;
  /** Below or above these it is asked once whether it is meant so; no limit where absent. */
  readonly low?: number;
  readonly high?: number;
  /** Only at these outcomes; at all where absent. */
  readonly outcomes?: readonly string[];
  /** Where the limits come from, to be read after "but": `0.340 kg is planned`. */
  readonly from: Text;
}

/** A reading that is asked about once. */
export interface Asked {
  /** The field that it stands in: `readings.waxKg`. */
  readonly field: string;
  readonly value: Quantity;
  /** What is unlikely about it, without the question. */
  readonly says: Text;
  /** What was probably meant, where a slip explains it: grams as kilograms, a point left out, °F as °C. */
  readonly instead?: Quantity;
}

/** The rule by which an unlikely reading is asked about; whoever records may say that it is so. */
export const UNLIKELY = 'unlikely';
