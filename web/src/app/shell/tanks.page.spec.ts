import type { ChartedCheck, TankCheck, TankView, TanksAnswer } from '@kalvet/core';
import { CoatPlanPage } from './coat-plan.page';
import { TanksPage } from './tanks.page';
import { bed, page, press, show, type } from '../testing/screen';

const at = (hours: number) => new Date(Date.now() + hours * 3_600_000).toISOString();
const check = (n: number, rest: Partial<TankCheck> = {}): ChartedCheck & { by: string } => ({
  check: {
    ...{
      id: `c-${n}`,
      tankId: 't-1',
      at: at(-24 * n),
      mixer: 'running',
      viscosityS: 22,
      celsius: 21,
      densityGPerCm3: null,
    },
    ...{ ph: 9.5, level: 0.8, sieved: false, toppedUp: [], note: '', byId: 'p', voidReason: null, version: 1 },
    ...rest,
  },
  signs: [],
  faults: rest.mixer === 'stopped' ? ['the mixer stood still'] : [],
  by: 'OV',
});
const view = (rest: Partial<TankView> = {}): TankView => ({
  tank: {
    ...{
      id: 't-1',
      name: 'Face tank',
      slurry: 'face',
      litres: 160,
      leastShare: 0.55,
      densityGPerCm3: 2.5,
      cup: '4 mm cup',
    },
    ...{ lowS: 20, highS: 24, leastPh: 9, checkEveryHours: 24, base: { from: at(-24 * 40), to: at(-24 * 20) } },
    ...{ state: 'in use' as const, version: 3 },
  },
  stand: {
    tankId: 't-1',
    name: 'Face tank',
    slurry: 'face',
    blockedSince: null,
    doubtFrom: null,
    why: null,
    nextCheckAt: at(2),
  },
  limits: { mean: 22, meanRange: 0.3, low: 21.2, high: 22.8, rangeLimit: 0.98 },
  checks: [check(3), check(2), check(1)],
  decisions: [],
  holdsKg: 301,
  fullKg: 400,
  use: { factor: 1.18, n: 5 },
  lastsUntil: at(24 * 5),
  inDoubt: 0,
  ...rest,
});

describe('the tanks', () => {
  const open = async (tanks: readonly TankView[], rest: Partial<TanksAnswer> = {}) => {
    const http = bed();
    const fixture = await show(TanksPage, {});
    await new Promise((resolve) => setTimeout(resolve, 20));
    http.expectOne('/api/tanks').flush({ change: 1, now: at(0), tanks, stock: [], movements: [], ...rest });
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('say what is in them, how long it lasts, and what really goes', async () => {
    const { text } = await open([view()], {
      stock: [{ what: 'fine', kg: 24.8, lastsUntil: at(24 * 3) }],
      movements: [{ at: at(-5), what: 'fine', kind: 'dipped', kg: -2.1, says: '6 coats' }],
    });
    expect(text()).toContain('301 kg of 400 kg');
    expect(text()).toContain('× 1.18 of what the coats take by the sum, 5 times');
    expect(text()).toContain('Stucco, fine');
    expect(text()).toContain('−2.1 kg');
  });

  it('say at once what is blocked, by what, and ask for a decision in words', async () => {
    const stand = { ...view().stand, blockedSince: at(-3), doubtFrom: at(-30), why: 'the mixer stood still' };
    const { http, fixture, text } = await open([
      view({ stand, inDoubt: 4, checks: [check(2), check(1, { mixer: 'stopped' })] }),
    ]);
    expect(text()).toContain('Nothing is dipped in it: the mixer stood still');
    expect(text()).toContain('4 coats in doubt');
    await press(fixture, '[data-test=decide-face]');
    await press(fixture, 'stand: the slurry was found sound');
    await type(fixture, '#q-words', 'fuse changed, 22.1 s');
    await press(fixture, '[data-test=decide-tank]');
    const { request } = http.expectOne('/api/shell/tank-decisions');
    expect(request.body).toEqual(
      jasmine.objectContaining({ tankId: 't-1', coatsStand: true, words: 'fuse changed, 22.1 s' }),
    );
  });

  it('are looked at in a few taps: whether the mixer turns must be said, the rest as it was read', async () => {
    const { http, fixture } = await open([view()]);
    await press(fixture, '[data-test=check-face]');
    http.expectOne('/api/instruments').flush({
      now: at(0),
      broker: null,
      places: [],
      instruments: [
        {
          ...{ id: 'i', code: 'cup-1', name: 'Flow cup', kind: 'cup', where: null, ofId: 't-1', plusMinusK: 0 },
          ...{ emissivity: null, calibratedOn: null, state: 'in use', version: 1 },
          last: { instrumentId: 'i', value: 22.4, humidityPercent: null, at: at(0), settled: true, doubt: null },
        },
      ],
    });
    await fixture.whenStable();
    await press(fixture, '[data-test=save-check]');
    http.expectNone('/api/shell/tank-checks');
    await press(fixture, 'turns');
    await press(fixture, '[data-test=take-cup]');
    await type(fixture, '#k-level', '78');
    await type(fixture, '#k-flour', '4,5');
    await press(fixture, '[data-test=save-check]');
    const { request } = http.expectOne('/api/shell/tank-checks');
    expect(request.body).toEqual(
      jasmine.objectContaining({
        mixer: 'running',
        viscosityS: 22.4,
        level: 0.78,
        toppedUp: [{ what: 'flour', kg: 4.5, lot: '' }],
      }),
    );
  });
});

describe('the coat plan', () => {
  it('is changed layer by layer and kept as the next number, with what it was seen as', async () => {
    const http = bed();
    const fixture = await show(CoatPlanPage, {});
    await fixture.whenStable();
    expect(page(fixture).querySelector('[data-test=save-plan]')).toBeNull();
    await press(fixture, '[data-test=add-layer]');
    await type(fixture, '#l-until-2', '6');
    await type(fixture, '#l-wait-0', '3,5');
    await press(fixture, '[data-test=save-plan]');
    const { request } = http.expectOne('/api/shell/coat-plans');
    expect(request.body.seen).toBe(1);
    expect(request.body.plan.layers.map(({ untilCoat }: { untilCoat: number | null }) => untilCoat)).toEqual([
      2,
      4,
      6,
      null,
    ]);
    expect(request.body.plan.layers[0].waitMinutes).toBe(210);
  });
});
