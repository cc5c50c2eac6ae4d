import { kilnFile, loadVerdict, wetBulbDepression } from '@kalvet/core';
import type { KilnFile } from '@kalvet/core';
import { COLD_KILN, FIRING, kilnLater, loggerFile } from './kiln.ts';
import { SHELL_ROOM, airLater, humidityOf, settled } from './room.ts';
import { tankLater } from './tank.ts';

describe('a shell room that stands in', () => {
  const run = (hours: number, doing: Parameters<typeof airLater>[3], from = settled(SHELL_ROOM)) => {
    let air = from;
    for (let minute = 0; minute < hours * 60; minute++) air = airLater(SHELL_ROOM, air, 60, doing);
    return air;
  };
  const thirst = (air: ReturnType<typeof run>) => wetBulbDepression(air.celsius, humidityOf(SHELL_ROOM, air));

  it('stays near what it is held at, with its shells hanging wet', () => {
    const air = run(8, {});
    expect(air.celsius).toBeGreaterThan(20);
    expect(air.celsius).toBeLessThan(22.1);
    expect(thirst(air)).toBeGreaterThan(4);
  });

  it('grows damp in a few hours when its drier stops, and cools by more than 2 K when it is aired on a cold day', () => {
    const damp = run(6, { drier: false });
    expect(thirst(damp)).toBeLessThan(thirst(run(6, {})) * 0.75);
    const aired = run(1, { aired: true });
    expect(settled(SHELL_ROOM).celsius - aired.celsius).toBeGreaterThan(2);
    // Air never holds more than it can.
    expect(humidityOf(SHELL_ROOM, run(48, { drier: false }))).toBeLessThanOrEqual(100);
  });
});

describe('a kiln that stands in', () => {
  it('follows its profile, the corner by the door last, and loses it there when the door is left open', () => {
    let firing = COLD_KILN;
    for (let minute = 0; minute < 110; minute++) firing = kilnLater(FIRING, firing, 1);
    const [roof, , , door] = firing.coupleC;
    expect(roof! - door!).toBeGreaterThan(20);
    const open = kilnLater(FIRING, firing, 5, { door: true });
    expect(firing.coupleC[3]! - open.coupleC[3]!).toBeGreaterThan(200);
    expect(firing.coupleC[0]! - open.coupleC[0]!).toBeLessThan(120);
  });

  it('writes a file that reads as a hold too short where the gas ran low 18 minutes before its end', () => {
    const short = (offAfterMin?: number) => {
      const text = loggerFile(
        Date.parse('2027-03-04T07:00:00Z'),
        400,
        offAfterMin === undefined ? {} : { offAfterMin },
      );
      const file = kilnFile(
        text.split('\n').map((line) => line.split(';')),
        'UTC',
      ) as KilnFile;
      const couples = file.couples.map(({ readings }) => readings);
      return loadVerdict(couples, FIRING, { isBlock: false }).holds[0]!.shortMinutes;
    };
    const whole = 251 - 18;
    expect(short(whole) - short()).toBeCloseTo(18, 0);
  });
});

describe('a tank that stands in', () => {
  it('thickens as its water goes, and thins again when water is added', () => {
    let tank = { viscosityS: 22, kg: 300 };
    for (let hour = 0; hour < 24; hour++) tank = tankLater(tank, 3600, { mixer: true });
    expect(tank.viscosityS).toBeGreaterThan(22.3);
    expect(tankLater(tank, 60, { mixer: true, waterKg: 0.6 }).viscosityS).toBeLessThan(tank.viscosityS);
    // Flour settles where nothing stirs: what flows out of the cup is thin.
    let still = tank;
    for (let hour = 0; hour < 12; hour++) still = tankLater(still, 3600, { mixer: false });
    expect(still.viscosityS).toBeLessThan(tank.viscosityS - 3);
  });
});
