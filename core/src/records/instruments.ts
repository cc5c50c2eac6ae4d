import type { Day, Instant } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import type { Id } from './common.ts';
import type { TemperaturePlace } from './pour.ts';

export const INSTRUMENT_KINDS = [
  'immersion',
  'infrared',
  'controller',
  'meter',
  'climate',
  'thermocouple',
  'cup',
  'scale',
] as const;
/** A dipped pyrometer, an infrared one, the furnace's own thermocouple, its gas or kWh meter, a sensor of a room's air, a thermocouple of the kiln, a tank's flow cup and its scale. */
export type InstrumentKind = (typeof INSTRUMENT_KINDS)[number];

export const INSTRUMENT_NAMES: Readonly<Record<InstrumentKind, string>> = {
  immersion: 'dipped pyrometer',
  infrared: 'infrared pyrometer',
  controller: 'furnace controller',
  meter: 'gas or kWh meter',
  climate: 'climate sensor',
  thermocouple: 'thermocouple of the kiln',
  cup: 'flow cup of a tank',
  scale: 'scale under a tank',
};

/** What each looks at: the metal of a heat, a drying place, or nothing but itself. */
export const INSTRUMENT_LOOKS_AT: Readonly<
  Record<InstrumentKind, 'heat' | 'nothing' | 'drying place' | 'kiln' | 'tank'>
> = {
  immersion: 'heat',
  infrared: 'heat',
  controller: 'heat',
  meter: 'nothing',
  climate: 'drying place',
  thermocouple: 'kiln',
  cup: 'tank',
  scale: 'tank',
};

/** An instrument whose readings come in by themselves. */
export interface Instrument {
  readonly id: Id;
  /** The last part of its topic: `kalvet/instruments/pyro-1`. */
  readonly code: string;
  readonly name: string;
  readonly kind: InstrumentKind;
  /** Where it reads the metal of a heat; null for one that does not. */
  readonly where: TemperaturePlace | null;
  /** The drying place or tank that it reads; null where it reads none. */
  readonly ofId: Id | null;
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
  /** °C, counts of a meter, seconds of a cup, kilograms of a scale. */
  readonly value: number;
  /** Of a sensor of the air, beside its °C; null of all others. */
  readonly humidityPercent: number | null;
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
  /** Drying places and tanks, by name: what sensors of the air, cups and scales read. */
  readonly places: readonly { readonly id: Id; readonly name: string; readonly what: 'drying place' | 'tank' }[];
  /** Where instruments speak to; null where nobody listens. */
  readonly broker: string | null;
}
