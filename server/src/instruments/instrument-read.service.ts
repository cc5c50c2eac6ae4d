import type { Id, Instant, Instrument, InstrumentReading, InstrumentsAnswer } from '@kalvet/core';
import { minutesBetween } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Every instrument with what it said last. */
export async function instrumentsNow(store: Store, tx?: Transaction): Promise<InstrumentsAnswer['instruments']> {
  const [instruments, last] = await Promise.all([
    rowsOf<Instrument>(store, 'instruments', {}, tx),
    rowsOf<InstrumentReading>(store, 'instrumentNow', {}, tx),
  ]);
  const lastOf = new Map<Id, InstrumentReading>(last.map((reading) => [reading.instrumentId, reading]));
  return instruments
    .sort((a, b) => a.code.localeCompare(b.code))
    .map((instrument) => ({ ...instrument, last: lastOf.get(instrument.id) ?? null }));
}

/** A meter that said nothing for so long does not run, minutes. */
const FRESH_MIN = 10;

/** What the furnace's meter shows now; null where none reports. */
export async function meterNow(store: Store, now: Instant, tx?: Transaction): Promise<number | null> {
  const meter = (await instrumentsNow(store, tx)).find(({ kind, state }) => kind === 'meter' && state === 'in use');
  return meter?.last && Math.abs(minutesBetween(meter.last.at, now)) <= FRESH_MIN ? meter.last.value : null;
}
