import type { DryingPlace, Instant, KeptClimate, ShopClimate } from '@kalvet/core';
import { chance, dryingAir } from '@kalvet/core';
import { DateTime } from 'luxon';
import { DAMP } from './foundry.ts';

const ZONE = 'Europe/London';
const EVERY_MS = 30 * 60_000;
const round = (value: number, decimals: number): number => Number(value.toFixed(decimals));

/** The air of the shell room and of its cabinet, half hour by half hour, from before the play to its end. */
export class DemoAir {
  readonly places: readonly DryingPlace[];
  readonly readings: readonly KeptClimate[];
  readonly climate: ShopClimate;
  readonly roomId: string;
  readonly cabinetId: string;

  constructor(newId: () => string, today: DateTime, days: number, end: Instant, referenceK: number) {
    this.roomId = newId();
    this.cabinetId = newId();
    this.places = [
      place(this.roomId, 'Shell room', 'room', 1, 40),
      // Its fan makes twice the draught: the square root of a half.
      place(this.cabinetId, 'Cabinet by the stairs', 'cabinet', 0.71, 6),
    ];
    const random = chance(77);
    const from = today.minus({ days: days + 1 }).toMillis();
    const until = Date.parse(end);
    const damp = {
      from: today.minus({ days: DAMP.from }).toMillis(),
      to: today.minus({ days: DAMP.to }).toMillis(),
    };
    const readings: KeptClimate[] = [];
    for (let ms = from; ms <= until; ms += EVERY_MS) {
      const at = new Date(ms).toISOString();
      const isDamp = ms >= damp.from && ms < damp.to;
      readings.push(
        { placeId: this.roomId, at, source: 'sensor', ...room(ms, isDamp, random) },
        { placeId: this.cabinetId, at, source: 'sensor', ...cabinet(ms, isDamp, random) },
      );
    }
    this.readings = readings;
    this.climate = {
      places: this.places.map(({ id, name, airflow }) => ({
        ...{ id, name, airflow },
        air: dryingAir(readings.filter(({ placeId }) => placeId === id)),
      })),
      referenceK,
      learned: { factor: 1, n: 0 },
    };
  }

  /** What stood on the sensor's dial at a moment. */
  at(placeId: string, now: Instant): KeptClimate {
    return this.readings.findLast((each) => each.placeId === placeId && each.at <= now)!;
  }
}

const place = (id: string, name: string, kind: DryingPlace['kind'], airflow: number, hooks: number): DryingPlace => ({
  ...{ id, name, kind, airflow, hooks, state: 'in use', version: 1 },
});

type Air = Pick<KeptClimate, 'celsius' | 'humidityPercent'>;

/** Cooler and damper at night, when the heating goes back; a week of sea fog in which the dehumidifier does not keep up. */
function room(ms: number, isDamp: boolean, random: () => number): Air {
  const hour = DateTime.fromMillis(ms, { zone: ZONE }).hour + DateTime.fromMillis(ms, { zone: ZONE }).minute / 60;
  const day = Math.cos(((hour - 15) / 24) * 2 * Math.PI);
  const slow = Math.sin(ms / 1.1e8);
  const [celsius, humidity] = isDamp ? [20.1, 73] : [21.7, 51.5];
  return {
    celsius: round(celsius + 0.45 * day + 0.25 * slow + 0.15 * (random() - 0.5), 1),
    humidityPercent: round(humidity - 2.5 * day + 3 * slow + 1.2 * (random() - 0.5), 1),
  };
}

/** Warmed, and dried by its own machine. */
function cabinet(ms: number, isDamp: boolean, random: () => number): Air {
  const slow = Math.sin(ms / 1.1e8);
  return {
    celsius: round(24.2 + 0.2 * slow + 0.2 * (random() - 0.5), 1),
    humidityPercent: round((isDamp ? 47 : 41) + 1.5 * slow + random() - 0.5, 1),
  };
}
