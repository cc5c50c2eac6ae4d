import { writeFileSync } from 'node:fs';
import { normal } from './chance.ts';
import { COLD_KILN, COUPLES, FIRING, kilnLater, loggerFile } from './kiln.ts';
import type { RoomAir } from './room.ts';
import { CABINET, SHELL_ROOM, airLater, humidityOf, settled } from './room.ts';
import { tankLater } from './tank.ts';

type Say = (code: string, message: object) => void;

/** A quarter of an hour of airing each three hours, and a drier that stops for a while each day, in seconds of the play. */
const [AIRED_EVERY_S, AIRED_S] = [3 * 3600, 900];
const [DRIER_EVERY_S, DRIER_OFF_S] = [24 * 3600, 5 * 3600];
/** A firing each ten hours; once its door is left open for five minutes. */
const [FIRE_EVERY_S, DOOR_AT_MIN, DOOR_MIN] = [10 * 3600, 170, 5];
const rounded = (value: number, decimals: number): number => Number(value.toFixed(decimals));

/** Plays the shell room and the kiln: climate sensors, a flow cup and a scale at the face tank, four thermocouples. */
export function playShell(say: Say, fast: number, random: () => number): void {
  let [room, cabinet]: [RoomAir, RoomAir] = [settled(SHELL_ROOM), settled(CABINET)];
  let firing = COLD_KILN;
  let tank = { viscosityS: 22, kg: 310 };
  let playedS = 0;
  setInterval(() => {
    playedS += fast;
    const aired = playedS % AIRED_EVERY_S < AIRED_S;
    const drier = playedS % DRIER_EVERY_S >= DRIER_OFF_S;
    room = airLater(SHELL_ROOM, room, fast, { aired, drier });
    cabinet = airLater(CABINET, cabinet, fast);
    for (const [code, kind, air] of [
      ['climate-1', SHELL_ROOM, room],
      ['climate-2', CABINET, cabinet],
    ] as const)
      say(code, {
        value: rounded(air.celsius + 0.05 * normal(random), 1),
        unit: '°C',
        humidity: rounded(Math.min(100, Math.max(1, humidityOf(kind, air) + 0.3 * normal(random))), 1),
      });
    const minute = firing.minute;
    const door = minute >= DOOR_AT_MIN && minute < DOOR_AT_MIN + DOOR_MIN;
    firing = minute * 60 >= FIRE_EVERY_S ? COLD_KILN : kilnLater(FIRING, firing, fast / 60, { door });
    COUPLES.forEach(({ code }, i) => say(code, { value: rounded(firing.coupleC[i]! + normal(random), 1), unit: '°C' }));
    tank = tankLater(tank, fast, { mixer: true, takenKg: random() < 0.002 * fast ? 0.3 : 0 });
    say('cup-1', { value: rounded(tank.viscosityS + 0.1 * normal(random), 1), unit: 's' });
    say('scale-1', { value: rounded(tank.kg, 1), unit: 'kg' });
  }, 1000);
}

/** Writes a kiln logger's file of a firing that has just ended. */
export function writeKilnFile(path: string, hours: number): void {
  writeFileSync(path, loggerFile(Date.now() - hours * 3_600_000, hours * 60 - 1));
  console.log(`instruments: a firing of ${hours} h written to ${path}`);
}
