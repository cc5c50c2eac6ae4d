import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';
import type { TemperaturePlace } from './pour.ts';

export const INSTRUMENT_KINDS = ['immersion', 'infrared', 'controller', 'meter'] as const;
/** A dipped pyrometer, an infrared one, the furnace's own thermocouple, and its gas or kWh meter. */
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

export const INSTRUMENT_NAMES: Readonly<Record<InstrumentKind, string>> = {
  immersion: 'dipped pyrometer',
  infrared: 'infrared pyrometer',
  controller: 'furnace controller',
  meter: 'gas or kWh meter',
};

/** An instrument whose readings come in by themselves. */
export interface Instrument {
  readonly id: Id;
  /** The last part of its topic: `kalvet/instruments/pyro-1`. */
  readonly code: string;
  readonly name: string;
  readonly kind: InstrumentKind;
  /** Where it reads; null for a meter. */
  readonly where: TemperaturePlace | null;
  /** How far it can be off either way, K; of a meter nothing. */
  readonly plusMinusK: number;
  readonly emissivity: number | null;
  readonly calibratedOn: Day | null;
  readonly state: 'in use' | 'off';
  readonly version: number;
}

/** What an instrument said last. */
export interface InstrumentReading {
  readonly instrumentId: Id;
  /** °C, or counts of a meter. */
  readonly value: number;
  readonly at: Instant;
  /** It has come to rest: a dipped thermocouple takes some seconds. */
  readonly settled: boolean;
  /** What is odd about it: another unit, a clock that is off. */
  readonly doubt: Text | null;
}

export type SaveInstrument = Instrument;

export interface InstrumentsAnswer {
  readonly now: Instant;
  readonly instruments: readonly (Instrument & { readonly last: InstrumentReading | null })[];
  /** Where instruments speak to; null where nobody listens. */
  readonly broker: string | null;
}
