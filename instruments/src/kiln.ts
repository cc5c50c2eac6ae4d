import type { FiringProfile } from '@kalvet/core';
import { plannedAt, profileMinutes } from '@kalvet/core';

/** Where a kiln's thermocouples stand: how slowly each follows the fire, and how far below it lies, hot. */
export const COUPLES = [
  { code: 'kiln-1', name: 'roof', lagMin: 3, belowK: 0, byDoor: 0.2 },
  { code: 'kiln-2', name: 'left', lagMin: 7, belowK: 4, byDoor: 0.5 },
  { code: 'kiln-3', name: 'right', lagMin: 8, belowK: 5, byDoor: 0.5 },
  { code: 'kiln-4', name: 'floor by the door', lagMin: 10, belowK: 7, byDoor: 1 },
] as const;

/** What a shell kiln fires by here. */
export const FIRING: FiringProfile = {
  name: 'Shells, 930 °C',
  stretches: [
    { toC: 650, perHourK: 400, holdMinutes: 0 },
    { toC: 930, perHourK: 300, holdMinutes: 100 },
  ],
};
const ROOM_C = 20;
/** It cools by so much of what it is above the room in a minute, shut; with its door open so much faster at the door. */
const [COOLS, OPEN] = [1 / 210, 1 / 9];
const FULL_K = 900;

/** A kiln that fires: what its controller wants, and what each thermocouple is at. */
export interface Firing {
  readonly minute: number;
  readonly fireC: number;
  readonly coupleC: readonly number[];
}

export const COLD_KILN: Firing = { minute: 0, fireC: ROOM_C, coupleC: COUPLES.map(() => ROOM_C) };

/**
 * So many minutes later: the controller follows its profile and is off after it; each thermocouple comes after the fire, and an
 * open door pulls down those that stand near it.
 * @param offAfterMin the burner goes out then, before the profile ends: gas that ran low
 */
export function kilnLater(
  profile: FiringProfile,
  { minute, fireC, coupleC }: Firing,
  minutes: number,
  { door = false, offAfterMin = Infinity }: { readonly door?: boolean; readonly offAfterMin?: number } = {},
): Firing {
  const now = minute + minutes;
  const burns = now <= Math.min(profileMinutes(profile), offAfterMin);
  const fire = burns ? plannedAt(profile, now) : ROOM_C + (fireC - ROOM_C) * Math.exp(-minutes * COOLS);
  return {
    minute: now,
    fireC: fire,
    coupleC: COUPLES.map(({ lagMin, belowK, byDoor }, i) => {
      const wanted = fire - belowK * Math.min(1, fire / FULL_K);
      const followed = coupleC[i]! + (wanted - coupleC[i]!) * (1 - Math.exp(-minutes / lagMin));
      return door ? ROOM_C + (followed - ROOM_C) * Math.exp(-minutes * OPEN * byDoor) : followed;
    }),
  };
}

/** A logger's file of a whole firing, a line each so many minutes, as such a logger writes it. */
export function loggerFile(
  startMs: number,
  minutes: number,
  {
    every = 2,
    profile = FIRING,
    ...rest
  }: { readonly every?: number; readonly profile?: FiringProfile; readonly offAfterMin?: number } = {},
): string {
  const lines = [`time;${COUPLES.map(({ name }) => `${name} °C`).join(';')}`];
  let firing = COLD_KILN;
  for (let minute = 0; minute <= minutes; minute += every) {
    if (minute > 0) firing = kilnLater(profile, firing, every, rest);
    const at = new Date(startMs + minute * 60_000).toISOString();
    lines.push(`${at};${firing.coupleC.map((celsius) => celsius.toFixed(0)).join(';')}`);
  }
  return lines.join('\n');
}
