import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { Figure, HeatView, LiveHeat } from '@kalvet/core';
import { heatAnswer } from '../../testing/pieces';
import { bed, page, press, show } from '../../testing/screen';
import { LivePage } from './live.page';

const figure = (value: number, unit: Figure['unit'], plusMinus?: number): Figure => ({
  value,
  unit,
  ...(plusMinus === undefined ? {} : { plusMinus }),
  source: 'computed',
  inWords: '',
  inputs: {},
});
const pouring = (number: number, rest: object = {}) => ({
  ...heatAnswer().pourings[0]!,
  id: `po-${number}`,
  treeId: `t-${number}`,
  stepId: `st-${number}`,
  label: `T-${number}`,
  order: number,
  plannedKg: 12.3,
  ...rest,
});
const window = {
  metalC: [1100, 1190] as const,
  cup: figure(1150, '°C', 15),
  mouldC: [400, 721] as const,
  pace: 'steady' as const,
  inWords: '',
};
const filling = { seconds: figure(6, 's'), freezes: figure(98, 's'), share: figure(6, '%'), stands: 'fills' as const };
const heat = (rest: Partial<HeatView> = {}): HeatView => ({
  ...heatAnswer({ state: 'charged', coverConfirmedById: 'p-1', pourings: [pouring(1), pouring(2)] }),
  melt: figure(90, 'min'),
  lightAt: null,
  windows: { 't-1': window, 't-2': window },
  fillings: { 't-1': filling, 't-2': filling },
  kilnOut: { 't-1': { wallMm: 8, fromC: 870, share: 1, fromS: 33, toS: 226 } },
  furnace: null,
  order: null,
  ...rest,
});
const answer = (rest: Partial<LiveHeat> = {}): LiveHeat => ({
  change: 1,
  now: new Date().toISOString(),
  heat: heat(),
  readings: [],
  coolUntil: {},
  practice: false,
  moved: [],
  undo: [],
  ...rest,
});

describe('a heat while it is poured', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<LivePage>;
  const settle = async () => {
    await new Promise((resolve) => setTimeout(resolve, 80));
    await fixture.whenStable();
  };
  const open = async (given: LiveHeat) => {
    http = bed();
    fixture = await show(LivePage, { id: 'h-1' });
    http.expectOne('/api/heats/h-1/live').flush(given);
    await settle();
  };
  const text = () => page(fixture).textContent!.replace(/\s+/g, ' ');
  const pour = () => http.match(({ url, method }) => method === 'POST' && url.endsWith('/pour'));

  it('shows the next tree with its target, and the last reading against it', async () => {
    const reading = {
      id: 'r',
      heatId: 'h-1',
      treeId: null,
      at: new Date().toISOString(),
      celsius: 1150,
      where: 'furnace',
      means: 'immersion',
      plusMinusK: 3,
      instrument: '',
      voidReason: null,
      version: 1,
    } as const;
    await open(answer({ readings: [reading] }));
    expect(text()).toContain('1 T-1');
    expect(text()).toContain('1150 °C');
    // 30 K are lost when it is poured over: 1180 would be right in the furnace.
    expect(text()).toContain('30 K too cold');
    expect(page(fixture).querySelectorAll('.strip button').length).toBe(2);
  });

  it('records a tree with its seconds and vents, and goes on to the next at once', async () => {
    await open(answer());
    const go = () => page(fixture).querySelector<HTMLButtonElement>('[data-test=record-pour]')!;
    expect(go().disabled).toBeTrue();
    await press(fixture, 'all showed');
    await press(fixture, 'Full');
    expect(go().disabled).toBeFalse();
    go().click();
    await settle();
    const [sent] = pour();
    expect(sent!.request.body).toEqual(
      jasmine.objectContaining({
        version: 5,
        treeId: 't-1',
        outcome: 'poured',
        by: ['p-1'],
        readings: { pouredKg: 12.3, vents: 'all' },
        // Nobody weighed: what was planned was taken over.
        taken: ['pouredKg'],
      }),
    );
    expect(text()).toContain('2 T-2');
    expect(text()).toMatch(/Undo .T-1: poured. \(\d+ s\)/);
  });

  it('asks why where it came short, before it is recorded', async () => {
    await open(answer());
    await press(fixture, 'Short');
    const go = page(fixture).querySelector<HTMLButtonElement>('[data-test=record-pour]')!;
    expect(go.disabled).toBeTrue();
    await press(fixture, 'stopped rising');
    expect(go.disabled).toBeFalse();
    go.click();
    await settle();
    expect((pour()[0]!.request.body as { note: string }).note).toBe('stopped rising');
  });

  it('runs a shell’s clock from when it left the kiln, and says until when its metal is to come', async () => {
    const outAt = new Date(Date.now() - 60_000).toISOString();
    await open(answer({ heat: heat({ pourings: [pouring(1, { outAt })] }) }));
    const clock = page(fixture).querySelector('[data-test=shell-clock]')!.textContent!;
    expect(clock).toMatch(/6\d s out/);
    // 641 °C after a minute, a few kelvin less by the time it is read.
    expect(clock).toMatch(/mould about 6[34]\d °C/);
    expect(clock).toMatch(/pour within 16\d s/);
  });

  it('does not pour without crew and checks, and shows the shop’s card when it goes wrong', async () => {
    await open(answer({ heat: heat({ coverConfirmedById: null }) }));
    expect(text()).toContain('not confirmed for this heat');
    expect(page(fixture).querySelector('[data-test=record-pour]')).toBeNull();
    await press(fixture, '[data-test=goes-wrong]');
    expect(text()).toContain('Dry sand on the run, never water');
  });

  it('takes a temperature by its keypad with where and how it was read', async () => {
    await open(answer());
    await press(fixture, '[data-test=reading]');
    for (const key of ['1', '1', '6', '8']) await press(fixture, `[data-key="${key}"]`);
    await press(fixture, 'ladle');
    await press(fixture, 'infrared');
    await press(fixture, '[data-test=enter]');
    await settle();
    const [sent] = http.match(({ url }) => url.endsWith('/readings'));
    expect(sent!.request.body).toEqual(
      jasmine.objectContaining({ celsius: 1168, where: 'ladle', means: 'infrared', treeId: null }),
    );
  });
});
