import type { KilnAnswer, KilnLoadView, KilnTreeView } from '@kalvet/core';
import { bed, page, press, show, type } from '../testing/screen';
import { KilnPage } from './kiln.page';
import { ProfileForm } from './profile-form.component';

const at = (minutes: number) => new Date(Date.now() + minutes * 60_000).toISOString();
const tree = (n: number, rest: Partial<KilnTreeView> = {}): KilnTreeView => ({
  ...{
    treeId: `t-${n}`,
    version: 4,
    label: `T-${n} (OTT ${n})`,
    title: 'Otter',
    acrossMm: 300,
    deepMm: 300,
    highMm: 420,
  },
  ...{ measured: false, kg: 5, use: 'shell', firings: 0, above1000Minutes: 0, readyAt: at(-60), waits: [] },
  ...rest,
});
const load = (rest: Partial<KilnLoadView> = {}): KilnLoadView => ({
  ...{ id: 'l-1', number: 7, version: 2, state: 'running', purpose: 'fire', profileId: 'p-1', startedAt: at(-200) },
  trees: [{ ...tree(9), floor: { xMm: 40, yMm: 40, acrossMm: 300, deepMm: 300, turned: false } }],
  alsoFit: [],
  couples: [
    {
      channel: 'left',
      readings: [
        { at: at(-200), celsius: 20 },
        { at: at(-10), celsius: 900 },
      ],
    },
  ],
  verdict: {
    holds: [{ holdC: 930, plannedMinutes: 100, heldMinutes: 82, shortMinutes: 18 }],
    lagK: 40,
    hottestC: 931,
    above1000Minutes: 0,
    alarms: ['Held at 930 °C short by 18 min of 1 h 40 min: 20 min more?'],
  },
  waxInKg: 5,
  ...rest,
});
const SHELLS = {
  ...{ id: 'p-1', name: 'Shells', use: 'shell' as const, state: 'in use' as const, version: 1 },
  stretches: [{ toC: 930, perHourK: 300, holdMinutes: 100 }],
};

describe('the kiln', () => {
  const open = async (given: Partial<KilnAnswer>) => {
    const http = bed();
    const fixture = await show(KilnPage, {});
    await new Promise((resolve) => setTimeout(resolve, 20));
    const answer: KilnAnswer = {
      ...{ change: 1, now: at(0), floor: { acrossMm: 700, deepMm: 700, highMm: 1000, gapMm: 30 }, mostKg: 500 },
      ...{ waiting: [], loads: [], profiles: [SHELLS], past: [], wax: [] },
      ...given,
    };
    http.expectOne('/api/kiln').flush(answer);
    await fixture.whenStable();
    return { http, fixture, text: () => page(fixture).textContent!.replace(/\s+/g, ' ') };
  };

  it('lays as many ready trees on its floor as find a place, and says which one would still', async () => {
    const { http, fixture, text } = await open({
      waiting: [1, 2, 3, 4, 5].map((n) => tree(n)).concat(tree(6, { waits: ['Seal coat'], acrossMm: 40, deepMm: 40 })),
    });
    await press(fixture, '[data-test=fill]');
    // Four of 300 mm on 700 × 700 with 30 between.
    expect(page(fixture).querySelectorAll('rect.tree').length).toBe(4);
    expect(text()).toContain('4 trees · 20 kg of 500 kg');
    await press(fixture, '[data-test=plan-load]');
    const { request } = http.expectOne('/api/loads');
    expect([request.body.treeIds.length, request.body.profileId]).toEqual([4, 'p-1']);
  });

  it('says what is wrong with a load before it is planned: no place, too high', async () => {
    const { fixture, text } = await open({ waiting: [tree(1, { highMm: 1200 }), tree(2, { acrossMm: 690 })] });
    for (const label of ['T-1', 'T-2'])
      (page(fixture).querySelector(`[aria-label^="Into the load: ${label}"]`) as HTMLElement).click();
    await fixture.whenStable();
    expect(text()).toContain('no place for T-2');
    expect(text()).toContain('too high for the kiln');
    expect(page(fixture).querySelector<HTMLButtonElement>('[data-test=plan-load]')!.disabled).toBeTrue();
  });

  it('shows what burns with its alarm, and weighs its wax before it is recorded', async () => {
    const { http, fixture, text } = await open({ loads: [load()] });
    expect(text()).toContain('short by 18 min');
    expect(text()).toContain('930 °C held 82 of 100 min');
    await press(fixture, '[data-test=end]');
    await type(fixture, '#u-wax', '4,1');
    expect(text()).toContain('look into the shells before they are fired');
    await press(fixture, '[data-test=end-load]');
    const { request } = http.expectOne('/api/loads/l-1/record');
    expect(request.body).toEqual(
      jasmine.objectContaining({ version: 2, topC: 931, waxBackKg: 4.1, energyKwh: null, lost: [] }),
    );
  });

  it('asks whether every cup is open and down before it is lit', async () => {
    const { http, fixture } = await open({ loads: [load({ state: 'planned', startedAt: null, couples: [] })] });
    await press(fixture, '[data-test=light]');
    await type(fixture, '#u-note', 'T-9 lies on its side');
    await press(fixture, '[data-test=light-it]');
    const { request } = http.expectOne('/api/loads/l-1/light');
    expect(request.body).toEqual(jasmine.objectContaining({ cupsDown: false, cupsNote: 'T-9 lies on its side' }));
  });
});

describe('a profile', () => {
  it('is moved on its curve by keys, and says what a block does not bear', async () => {
    const http = bed();
    const fixture = await show(ProfileForm, { profile: { ...SHELLS, use: 'block' as const } });
    await fixture.whenStable();
    expect(page(fixture).textContent).toContain('plaster breaks down above 750 °C');
    const corner = page(fixture).querySelector<SVGElement>('.corner')!;
    corner.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true, cancelable: true }));
    await fixture.whenStable();
    await press(fixture, '[data-test=save-profile]');
    const { request } = http.expectOne('/api/kiln/profiles');
    expect(request.body.stretches[0].toC).toBe(925);
    expect(request.body.version).toBe(1);
  });
});
