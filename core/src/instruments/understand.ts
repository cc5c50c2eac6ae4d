import type { InstrumentKind, InstrumentReading } from '../records/instruments.ts';
import type { Instant } from '../units/instant.ts';
import { fromMs, isMoment, minutesBetween, toMs } from '../units/instant.ts';
import { celsius, quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';

/** What an instrument sends: `{ "value": 1163, "unit": "°C", "at": "2026-12-03T13:01:02.500Z" }`. */
export interface InstrumentMessage {
  readonly value: number;
  readonly unit: string;
  /** Relative, %: of a sensor of the air. */
  readonly humidity?: number | undefined;
  readonly at?: string | undefined;
}

/** What could not be understood, in words. */
export interface NotUnderstood {
  readonly wrong: Text;
}

/** A clock may be off by so much and still be its own; beyond it the moment of coming in counts. */
const CLOCK_S = 60;
/** Readings that are older than this say nothing of the next one. */
const NEAR_S = 30;
/** Metal does not change so fast between two readings; a unit that is wrong does. */
const JUMP_K = 150;
const SAME_K = 60;
/** Slower than so many kelvin a second it has come to rest. */
const SETTLED_K_S = 1.5;
const COLDEST_C = -60;
const HOTTEST_C = 2500;
const [COLDEST_ROOM_C, HOTTEST_ROOM_C] = [-10, 60];

const FROM: Readonly<Record<string, (value: number) => number>> = {
  '°c': (value) => value,
  c: (value) => value,
  '°f': (value) => (value - 32) / 1.8,
  f: (value) => (value - 32) / 1.8,
  k: (value) => value - 273.15,
};
const fahrenheit = FROM['f']!;

/**
 * Understands what an instrument sent: in °C, with the moment that counts, whether it has come to rest, and what is odd about it.
 * A reading that jumps and would fit as °F is taken as °F, and says so.
 * @param before what it said last
 */
export function understand(
  kind: InstrumentKind,
  message: InstrumentMessage,
  now: Instant,
  before?: Pick<InstrumentReading, 'value' | 'at'>,
): Omit<InstrumentReading, 'instrumentId'> | NotUnderstood {
  const { value, unit } = message;
  if (!Number.isFinite(value)) return { wrong: 'the value is no number' };
  const own = message.at !== undefined && isMoment(message.at) ? fromMs(toMs(message.at)) : undefined;
  const offS = own === undefined ? 0 : Math.abs(minutesBetween(own, now)) * 60;
  const at = own === undefined || offS > CLOCK_S ? now : own;
  const clock: Text | null = offS > CLOCK_S ? say`its clock is off by ${quantity(offS, 's', 0)}` : null;
  if (kind === 'meter')
    return value < 0
      ? { wrong: 'a meter counts upwards' }
      : { value, humidityPercent: null, at, settled: true, doubt: clock };
  if (kind === 'cup' || kind === 'scale') {
    const wanted = kind === 'cup' ? 's' : 'kg';
    if (unit.trim().toLowerCase() !== wanted)
      return { wrong: say`the unit ${unit} is not known: ${wanted} is asked for` };
    return value < 0
      ? { wrong: 'less than nothing' }
      : { value, humidityPercent: null, at, settled: true, doubt: clock };
  }
  const convert = FROM[unit.trim().toLowerCase()];
  if (!convert) return { wrong: say`the unit ${unit} is not known: °C, °F or K` };
  const read = convert(value);
  if (kind === 'climate') return ofAir(read, message.humidity, { at, doubt: clock });
  const isNear = before !== undefined && Math.abs(minutesBetween(before.at, at)) * 60 <= NEAR_S;
  const asF = fahrenheit(read);
  const isF = isNear && Math.abs(read - before.value) > JUMP_K && Math.abs(asF - before.value) < SAME_K;
  const kept = isF ? asF : read;
  if (kept < COLDEST_C || kept > HOTTEST_C) return { wrong: say`${celsius(kept)} cannot be` };
  const seconds = before === undefined ? 0 : (toMs(at) - toMs(before.at)) / 1000;
  const settled = !isNear ? false : Math.abs(kept - before.value) <= SETTLED_K_S * Math.max(0.5, seconds);
  return {
    value: kept,
    humidityPercent: null,
    at,
    settled,
    doubt: isF ? say`${celsius(read)} came in; taken as °F` : clock,
  };
}

function ofAir(
  celsiusRead: number,
  humidity: number | undefined,
  rest: { readonly at: Instant; readonly doubt: Text | null },
): Omit<InstrumentReading, 'instrumentId'> | NotUnderstood {
  if (humidity === undefined || !Number.isFinite(humidity))
    return { wrong: 'a sensor of the air says its humidity too' };
  if (humidity < 1 || humidity > 100) return { wrong: say`${quantity(humidity, '%', 0)} humidity cannot be` };
  if (celsiusRead < COLDEST_ROOM_C || celsiusRead > HOTTEST_ROOM_C)
    return { wrong: say`${celsius(celsiusRead)} cannot be in a room; is the unit right?` };
  return { value: celsiusRead, humidityPercent: humidity, settled: true, ...rest };
}
