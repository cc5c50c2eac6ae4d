// The panels beside the model, with a desk that holds what a worker would have answered.
import { HttpTestingController } from '@angular/common/http/testing';
import { Component, inject, viewChild } from '@angular/core';
import type { ComponentFixture } from '@angular/core/testing';
import type { ModelsAnswer, SectionEstimate, WorkAnswer } from '@kalvet/core';
import type { PartReport, ThicknessReport, Traps } from '@kalvet/core/weigh/index';
import { bed, page, press, show, type } from '../testing/screen';
import { CutsPanel } from './cuts-panel.component';
import { MetalPanel } from './metal-panel.component';
import { ModelDesk } from './model-desk';
import { metalPins, partPins, wayPins } from './model-pins';
import { OtherWays } from './other-ways.component';
import { WaysPanel } from './ways-panel.component';

const CURVE = [{ wallMm: 5, volumeCm3: 800, plusMinusCm3: 3 }];
const part = (rest: Partial<PartReport> = {}): PartReport => ({
  mesh: {
    positions: new Float32Array(9),
    triangles: Uint32Array.of(0, 1, 2),
    normals: new Float32Array(9),
    originMm: [0, 0, 0],
  },
  ...{ volumeCm3: 2400, areaCm2: 1642.4, sizeMm: [150, 260, 168.9], centroidMm: [1, 2, 3], cuts: [], seamM: 0.416 },
  ...{ curve: CURVE, opening: null, findings: [] },
  ...rest,
});
const answer = (rest: Partial<ModelsAnswer['work']> = {}): ModelsAnswer => ({
  change: 1,
  work: {
    id: 'w-1',
    title: 'Otter',
    alloyId: 'C87300',
    method: 'shell',
    glyph: 'otter',
    version: 4,
    mayBeCut: true,
    ...rest,
  },
  sections: [
    {
      ...{ id: 's-1', letter: 'A', name: 'Whole', wallMm: 5, metalHeightMm: 200, areaCm2: 1250, expectedWaxKg: null },
      ...{ estimates: [], wayUp: null, waxes: [], version: 3 },
    },
  ],
  models: [],
  similar: [{ title: 'Sleeping Hound, Front', waxKg: 1.7 }],
});
const trap = (z: number) => ({ x: 0, y: 0, z, prominenceMm: 40 });
const WAY: Traps = { up: [0, 0, 1], traps: [trap(200), trap(160)], lowest: [trap(0)], heightMm: 200 };

/** A page of one panel, with the desk that it works at. */
@Component({
  selector: 'kv-one-panel',
  imports: [CutsPanel, MetalPanel, OtherWays, WaysPanel],
  providers: [ModelDesk],
  template: `
    @switch (desk.tab()) {
      @case ('cuts') {
        <kv-cuts-panel />
      }
      @case ('thickness') {
        <kv-metal-panel />
      }
      @case ('ways') {
        <kv-ways-panel />
      }
      @default {
        <kv-other-ways />
      }
    }
  `,
})
class OnePanel {
  readonly desk = inject(ModelDesk);
  readonly cuts = viewChild(CutsPanel);
}

describe('the panels beside a model', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<OnePanel>;
  let desk: ModelDesk;
  beforeEach(async () => {
    http = bed();
    fixture = await show(OnePanel, {});
    ({ desk } = fixture.componentInstance);
    desk.answer.set(answer());
  });
  const text = () => page(fixture).textContent!.replace(/\s+/g, ' ');
  async function at(tab: Parameters<typeof desk.tab.set>[0]): Promise<void> {
    desk.tab.set(tab);
    await fixture.whenStable();
  }
  /** Waits for the next request to an address. */
  async function next(url: string) {
    for (let i = 0; i < 100; i++) {
      const [found] = http.match(url);
      if (found) return found;
      await new Promise((wait) => setTimeout(wait, 5));
    }
    throw new Error(`${url} was not asked`);
  }

  it('make the parts the sections: set up anew, then planned by their curves', async () => {
    const over = { limit: 'drying', share: 1.4, says: 'dries last', stops: false } as const;
    desk.parts.set([part(), part({ areaCm2: 820, sizeMm: [90, 120, 140], findings: [over] })]);
    desk.partNames.set(['Body', 'Head']);
    desk.cut = () => Promise.resolve();
    await at('cuts');
    expect(text()).toContain('dries last');
    await press(fixture, '[data-test=make-sections]');
    expect(text()).toContain('Now 1 section (Whole), then 2: each with a mould of its own');
    await press(fixture, '[data-test=make-really]');
    const setUp = { method: 'shell', title: 'Otter', sections: [], moulds: [] };
    (await next('/api/works/w-1')).flush({ setUp, work: { version: 4 } } as unknown as WorkAnswer);
    const put = await next('/api/works/w-1/set-up');
    expect(put.request.body).toEqual(
      jasmine.objectContaining({
        version: 4,
        title: 'Otter',
        sections: [
          { name: 'Body', wallMm: 5, metalHeightMm: 260, expectedWaxKg: null, areaCm2: 1642, seamM: null, deep: false },
          { name: 'Head', wallMm: 5, metalHeightMm: 140, expectedWaxKg: null, areaCm2: 820, seamM: 0.42, deep: true },
        ],
        moulds: [
          { name: 'body', sections: [1], pullsBefore: 0 },
          { name: 'head', sections: [2], pullsBefore: 0 },
        ],
      }),
    );
    put.flush({ change: 5 });
    const made = [
      { id: 's-7', version: 1 },
      { id: 's-8', version: 1 },
    ];
    (await next('/api/works/w-1/models')).flush({ sections: made });
    for (const { id } of made) {
      const planned = await next(`/api/sections/${id}/estimates`);
      expect((planned.request.body as { add: SectionEstimate }).add.curve).toEqual(CURVE);
      planned.flush({ change: 6 });
    }
  });

  it('leave the sections as they are where work on them began meanwhile', async () => {
    desk.parts.set([part()]);
    desk.cut = () => Promise.resolve();
    await at('cuts');
    await press(fixture, '[data-test=make-sections]');
    await press(fixture, '[data-test=make-really]');
    (await next('/api/works/w-1')).flush({ setUp: null, work: { version: 5 } } as unknown as WorkAnswer);
    for (let i = 0; i < 50 && !text().includes('has begun'); i++) {
      await new Promise((wait) => setTimeout(wait, 10));
      await fixture.whenStable();
    }
    expect(text()).toContain('Work on it has begun: its sections stay.');
    http.expectNone('/api/works/w-1/set-up');
  });

  it('choose a way up, describe and drop its places, and keep it for the bench', async () => {
    desk.ways.set([WAY]);
    await at('ways');
    expect(text()).toMatch(/2 places ?200 mm ?1/);
    await press(fixture, '[data-test=way]');
    expect(desk.pins().map(({ label }) => label)).toEqual(['1', '2', 'G1']);
    const off = page(fixture).querySelector<HTMLButtonElement>('[aria-label="Take Vent 2 off"]')!;
    off.click();
    await fixture.whenStable();
    const what = page(fixture).querySelector<HTMLInputElement>('[aria-label="What Gate 1 is for"]')!;
    what.value = 'into the base';
    what.dispatchEvent(new Event('change'));
    await fixture.whenStable();
    await press(fixture, '[data-test=keep-way]');
    const { wayUp, version } = http.expectOne('/api/sections/s-1/way-up').request.body as {
      wayUp: NonNullable<ReturnType<typeof desk.way>>;
      version: number;
    };
    expect([version, wayUp.vents.length, wayUp.gates[0]!.words, wayUp.heightMm]).toEqual([3, 1, 'into the base', 200]);
    expect(wayUp.vents[0]!.words).toBe('stands out by 40 mm');
  });

  it('list thin and solid metal and windows, and lead to the place on the model', async () => {
    const place = { x: 1, y: 2, z: 3, mm: 2.1, areaMm2: 640 };
    const found = {
      ...{ mesh: part().mesh, bodyMm: new Float32Array(3), metalMm: new Float32Array(3), thinMm: 3.5, thickMm: 7.5 },
      ...{ thin: [place], thick: [{ ...place, mm: 9 }], windows: [{ x: 0, y: 0, z: 9, reachesMm: null }] },
    } as ThicknessReport;
    desk.thickness.set(found);
    await at('thickness');
    expect(text()).toContain('t1 2.1 mm on 6.4 cm²');
    expect(text()).toContain('W1 it is closed all round: its inside cannot dry');
    page(fixture).querySelectorAll<HTMLButtonElement>('button.place')[1]!.click();
    expect(desk.chosenPin()).toBe(1);
    expect(desk.pins()[1]).toEqual(jasmine.objectContaining({ label: 'D1', kind: 'thick' }));
  });

  it('know a wax by the water it displaces, and like another work that is larger', async () => {
    await at('size');
    page(fixture).querySelector<HTMLDetailsElement>('details')!.open = true;
    await press(fixture, 'Held under water');
    await type(fixture, '#displaced', '0,8');
    await press(fixture, '[data-test=save-estimate]');
    const { add } = http.expectOne('/api/sections/s-1/estimates').request.body as { add: SectionEstimate };
    // 0.8 l × 0.93, read off within 3 %.
    expect([add.kind, add.waxKg!.toFixed(3), (add.plusMinusKg! / add.waxKg!).toFixed(2)]).toEqual([
      'displacement',
      '0.744',
      '0.03',
    ]);
  });
});

describe('pins on a model', () => {
  it('are numbered by what they are, and say what for', () => {
    expect(partPins([part()], () => 'Body')).toEqual([{ at: [1, 2, 3], label: 'Body', words: 'Body', kind: 'part' }]);
    expect(metalPins(null)).toEqual([]);
    const place = { x: 0, y: 0, z: 5, words: 'ear' };
    const pins = wayPins({ up: [0, 0, 1], heightMm: 5, vents: [place, { ...place, words: '' }], gates: [place] });
    expect(pins.map(({ label, words }) => [label, words])).toEqual([
      ['1', 'Vent 1: ear'],
      ['2', 'Vent 2'],
      ['G1', 'Gate 1: ear'],
    ]);
  });
});
