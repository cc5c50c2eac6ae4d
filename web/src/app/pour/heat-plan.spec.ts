import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { Companion, HeatAnswer } from '@kalvet/core';
import { heatAnswer, stepForm } from '../testing/pieces';
import { bed, page, press, show } from '../testing/screen';
import { HeatPlan } from './heat-plan.component';

const tree = (number: number, pourKg: number | null, rest: Partial<Companion> = {}): Companion => ({
  stepId: `st-${number}`,
  treeId: `t-${number}`,
  label: `T-${number}`,
  ready: true,
  why: 'ready',
  pour: pourKg === null ? null : { value: pourKg, unit: 'kg', source: 'computed', inWords: 'worked out', inputs: {} },
  alloyId: 'C87300',
  ...rest,
});

describe('planning a heat', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<HeatPlan>;
  const plan = () =>
    fixture.componentInstance as unknown as {
      setTree(place: number, patch: object): void;
      move(place: number, by: number): void;
      setLine(place: number, patch: object): void;
      fill(): void;
      lines(): { what: string; kg: number | null }[];
    };
  const open = async (returnsAtHandKg: number, ...trees: Companion[]) => {
    http = bed();
    const form = stepForm(
      { kind: 'pour', carrier: 'tree', carrierId: 't-1', through: 'heat' },
      { companions: trees, returnsAtHandKg },
    );
    fixture = await show(HeatPlan, { form });
  };

  it('starts with this tree and the charge it asks for: (30 + 2 to pig) ÷ 0.98', async () => {
    await open(0, tree(1, 30), tree(2, 20));
    expect(page(fixture).textContent).toContain('Charge 32.7 kg; 87.3 kg free');
    expect(plan().lines()).toEqual([jasmine.objectContaining({ what: 'ingot', kg: 32.7 })]);
  });

  it('takes clean returns as far as the share and what is there allow, ingot for the rest', async () => {
    await open(9.37, tree(1, 30));
    expect(
      plan()
        .lines()
        .map(({ what, kg }) => [what, kg]),
    ).toEqual([
      ['ingot', 23.4],
      ['returns', 9.3],
    ]);
    await open(80, tree(1, 30));
    // Half of 32.65 kg, rounded down, and the rest rounded up.
    expect(
      plan()
        .lines()
        .map(({ kg }) => kg),
    ).toEqual([16.4, 16.3]);
  });

  it('says when it is over the mark, before it is sent', async () => {
    await open(0, tree(1, 30), tree(2, 95));
    plan().setTree(1, { on: true });
    await fixture.whenStable();
    expect(page(fixture).querySelector('.kv-alert')!.textContent).toContain('over the usable mark');
  });

  it('names the ready trees that would fill the heat, the heaviest first, and charges for one that is taken', async () => {
    await open(0, tree(1, 30), tree(2, 20), tree(3, 95), tree(4, 40), tree(5, 10, { ready: false, why: 'waits' }));
    const fill = () => [...page(fixture).querySelectorAll<HTMLElement>('[data-test=would-fill] button')];
    expect(fill().map((each) => each.textContent!.trim())).toEqual(['T-4 40.0 kg', 'T-2 20.0 kg']);
    fill()[0]!.click();
    await fixture.whenStable();
    // (30 + 40 + 2) ÷ 0.98, rounded up.
    expect(
      plan()
        .lines()
        .map(({ kg }) => kg),
    ).toEqual([73.5]);
  });

  it('fills up from nothing', async () => {
    await open(9.37, tree(1, 30));
    await press(fixture, '[aria-label="Take this line out"]');
    await press(fixture, '[aria-label="Take this line out"]');
    expect(plan().lines()).toEqual([]);
    await press(fixture, '[data-test=fill-up]');
    expect(
      plan()
        .lines()
        .map(({ what, kg }) => [what, kg]),
    ).toEqual([
      ['ingot', 23.4],
      ['returns', 9.3],
    ]);
  });

  it('sends trees in the order they are poured, and only lines with metal in them', async () => {
    await open(0, tree(1, 30.04), tree(2, 20), tree(3, null));
    plan().setTree(1, { on: true });
    plan().move(1, -1);
    await fixture.whenStable();
    await press(fixture, '[data-test=save-heat]');
    const { request } = http.expectOne('/api/heats');
    expect(request.body.trees).toEqual([
      // What was worked out is worked out by the server again; only what somebody types is said.
      { treeId: 't-2' },
      { treeId: 't-1' },
    ]);
    // (30.04 + 20 + 2) ÷ 0.98, rounded up: the charge follows the trees as long as nobody typed into it.
    expect(request.body.chargeLines).toEqual([{ what: 'ingot', alloyId: 'C87300', kg: 53.2, lot: '', dry: false }]);
  });

  it('judges a heat by its own melt loss and pig, keeps its trees that wait and what was typed in it', async () => {
    http = bed();
    const pouring = (number: number, rest: Partial<HeatAnswer['pourings'][number]> = {}) => ({
      ...heatAnswer().pourings[0]!,
      id: `po-${number}`,
      treeId: `t-${number}`,
      label: `T-${number}`,
      order: number,
      ...rest,
    });
    const heat = heatAnswer({
      meltLoss: 0.05,
      pigReserveKg: 5,
      pourings: [
        pouring(1, { plannedKg: 30 }),
        pouring(2, { plannedKg: 20, plannedSource: 'typed', waits: ['leak test'] }),
      ],
    });
    // The tree that waits for its leak test is not offered for another heat, but it is in this one.
    const form = stepForm(
      { kind: 'pour', carrier: 'tree', carrierId: 't-1', through: 'heat' },
      { companions: [tree(1, 30)] },
    );
    fixture = await show(HeatPlan, { form, heat });
    // (30 + 20 + 5) ÷ 0.95 = 57.9 kg; by today's 2 % and 2 kg it would be 53.1 kg.
    expect(page(fixture).textContent).toContain('Charge 57.9 kg');
    expect(page(fixture).textContent).toContain('waits for leak test');
    await press(fixture, '[data-test=save-heat]');
    expect(http.expectOne('/api/heats/h-1').request.body.trees).toEqual([
      { treeId: 't-1' },
      { treeId: 't-2', plannedKg: 20 },
    ]);
  });

  it('puts the server’s word beside the tree whose weight is not known', async () => {
    await open(0, tree(1, null));
    await press(fixture, '[data-test=save-heat]');
    http.expectOne('/api/heats').flush(
      {
        error: {
          code: 'invalid',
          message: 'x',
          fields: { 'trees.0.plannedKg': 'the weight of T-1 is not known: enter its pour weight' },
        },
      },
      { status: 400, statusText: 'x' },
    );
    await fixture.whenStable();
    expect(page(fixture).querySelector('.kv-wrong')!.textContent).toContain('enter its pour weight');
  });
});
