import type { Instrument, InstrumentReading } from '@kalvet/core';
import type { Store } from '../write/store.ts';
import { senseClimate } from './climate.service.ts';

/** What a sensor of the air says becomes the climate of its drying place. */
export async function climateSensor(store: Store, { ofId }: Instrument, reading: InstrumentReading): Promise<void> {
  if (ofId === null || reading.humidityPercent === null) return;
  await senseClimate(store, {
    placeId: ofId,
    at: reading.at,
    celsius: reading.value,
    humidityPercent: reading.humidityPercent,
    source: 'sensor',
  });
}
