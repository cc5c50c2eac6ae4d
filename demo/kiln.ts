import type { FiringProfile, Id, Instant, KilnProfile, KilnRead } from '@kalvet/core';
import { plannedAt, profileMinutes, say, span, waxIn } from '@kalvet/core';
import type { Stage } from './stage.ts';

/** How Marrowby Quay fires. */
const SHELL: FiringProfile = {
  name: 'Shells, 930 °C',
  stretches: [
    // Fast to the heat that flashes the wax out, and held there.
    { toC: 700, perHourK: 600, holdMinutes: 30 },
    { toC: 930, perHourK: 300, holdMinutes: 100 },
  ],
};
const BLOCK: FiringProfile = {
  name: 'Blocks, four days',
  stretches: [
    { toC: 120, perHourK: 20, holdMinutes: 720 },
    { toC: 215, perHourK: 30, holdMinutes: 360 },
    { toC: 280, perHourK: 20, holdMinutes: 120 },
    { toC: 550, perHourK: 50, holdMinutes: 240 },
    { toC: 600, perHourK: 30, holdMinutes: 120 },
    { toC: 690, perHourK: 40, holdMinutes: 1200 },
    { toC: 550, perHourK: 40, holdMinutes: 0 },
    { toC: 240, perHourK: 45, holdMinutes: 600 },
  ],
};
/** Where its thermocouples stand, and how far behind the fire each lies: minutes and kelvin. */
const COUPLES = [
  { channel: 'Kiln, roof', lagMin: 3, below: 0 },
  { channel: 'Kiln, left', lagMin: 7, below: 4 },
  { channel: 'Kiln, right', lagMin: 8, below: 5 },
  { channel: 'Kiln, floor by the door', lagMin: 10, below: 7 },
] as const;
/** The fire is left on until the coldest corner has had its hold too, minutes. */
const WAITS_MIN = 24;
const round = (value: number, decimals: number): number => Number(value.toFixed(decimals));

/** The kiln's own records: profiles, what its thermocouples read, what came back of the wax, what it took. */
export class KilnLog {
  readonly profiles: KilnProfile[] = [];
  readonly readings: KilnRead[] = [];
  private loads = 0;

  constructor(private readonly stage: Stage) {}

  begin(): void {
    const { shop, person } = this.stage;
    for (const [use, profile] of [
      ['shell', SHELL],
      ['block', BLOCK],
    ] as const) {
      const id = shop.newId();
      this.profiles.push({ id, use, name: profile.name, stretches: profile.stretches, state: 'in use', version: 1 });
      shop.tell(
        person.oskar,
        { verb: 'save profile', text: say`Firing ${profile.name}: ${span(profileMinutes(profile))}`, room: 'burnout' },
        [['profile', id]],
        [{ table: 'profiles', id, op: 'insert' }],
      );
    }
  }

  profileId(use: KilnProfile['use']): Id {
    return this.profiles.find((each) => each.use === use)!.id;
  }

  /** What a load took and gave back: the pan under the kiln's door, and the meter. */
  sums(treeIds: readonly Id[], isBlock: boolean): { waxBackKg: number; energyKwh: number } {
    const { shop, random } = this.stage;
    const whole = shop.whole();
    const inKg = treeIds.reduce((sum, id) => {
      const wax = waxIn(whole, id, shop.settings.liftLimitKg);
      return sum + (wax ? wax.castsKg + wax.barsKg + wax.cupsKg : 0);
    }, 0);
    this.loads++;
    // Once the pan stood askew.
    const back = this.loads === 6 ? 0.81 : 0.87 + 0.06 * random();
    const kwh = isBlock ? 760 + 60 * random() : 185 + 6 * treeIds.length + 25 * random();
    return { waxBackKg: round(inKg * back, 1), energyKwh: Math.round(kwh) };
  }

  /** What the thermocouples read of a load, minute by minute thinned; once the gas went out before its time. */
  fired(loadId: Id, startedAt: Instant, endedAt: Instant, isBlock: boolean): void {
    const profile = isBlock ? BLOCK : SHELL;
    const begin = Date.parse(startedAt);
    const minutes = (Date.parse(endedAt) - begin) / 60_000;
    const burns = profileMinutes(profile) + (isBlock ? 60 : WAITS_MIN) - (this.loads === 9 ? 18 : 0);
    const every = isBlock ? 20 : 4;
    for (const { channel, lagMin, below } of COUPLES) {
      let reads = 20;
      for (let minute = 0; minute <= minutes; minute += every) {
        const fire =
          minute <= burns
            ? plannedAt(profile, minute) + 6
            : 20 + (plannedAt(profile, burns) - 20) * Math.exp(-(minute - burns) / 210);
        reads += (fire - reads) * (1 - Math.exp(-every / lagMin));
        const shown = reads - below * Math.min(1, reads / 600) + (this.stage.random() - 0.5) * 2;
        this.readings.push({
          loadId,
          channel,
          at: new Date(begin + minute * 60_000).toISOString(),
          celsius: round(shown, 0),
        });
      }
    }
  }

  /** Thermocouples that report by themselves. */
  instruments(): void {
    const { shop } = this.stage;
    for (const [i, { channel }] of COUPLES.entries())
      shop.instruments.push({
        id: shop.newId(),
        code: `kiln-${i + 1}`,
        name: channel,
        kind: 'thermocouple',
        where: null,
        ofId: null,
        plusMinusK: 4,
        emissivity: null,
        calibratedOn: null,
        state: 'in use',
        version: 1,
      });
  }
}
