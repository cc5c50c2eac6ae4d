// The page of a work's model, with a real worker: a file in, sizes, weights, cuts and words out.
import { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { ModelsAnswer, SectionEstimate } from '@kalvet/core';
import { ball, box, bytesOf, stlBytes } from '../../../../core/src/testing/shapes.ts';
import { bed, page, press, show, type } from '../testing/screen';
import { ModelPage } from './model.page';

const section = (rest: Partial<ModelsAnswer['sections'][number]> = {}): ModelsAnswer['sections'][number] => ({
  ...{ id: 's-1', letter: 'A', name: 'Whole', wallMm: 5, metalHeightMm: 200, areaCm2: 1250, expectedWaxKg: 0.6 },
  ...{ estimates: [], wayUp: null, waxes: [{ label: '3/12', kg: 0.62, at: '2027-02-20T10:00:00.000Z' }], version: 3 },
  ...rest,
});
const answer = (rest: Partial<ModelsAnswer> = {}): ModelsAnswer => ({
  change: 1,
  work: { id: 'w-1', title: 'Otter', alloyId: 'C87300', method: 'shell', glyph: 'otter', version: 1, mayBeCut: false },
  sections: [section()],
  models: [],
  similar: [{ title: 'Sleeping Hound, Front', waxKg: 1.7 }],
  ...rest,
});

describe('the page of a work’s model', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<ModelPage>;
  beforeEach(() => (http = bed()));
  afterEach(() => fixture.destroy());

  async function open(found: ModelsAnswer, inputs: Record<string, string> = {}): Promise<void> {
    fixture = await show(ModelPage, { id: 'w-1', ...inputs });
    http.expectOne('/api/works/w-1/models').flush(found);
    await fixture.whenStable();
  }
  async function choose(bytes: Uint8Array, name: string): Promise<void> {
    const field = page(fixture).querySelector<HTMLInputElement>('[data-test=model-file]')!;
    const data = new DataTransfer();
    data.items.add(new File([bytes as BlobPart], name));
    field.files = data.files;
    field.dispatchEvent(new Event('change'));
    await until(() => !page(fixture).querySelector('.busy') && text() !== '');
  }
  /** Waits for what a worker answers. */
  async function until(is: () => boolean): Promise<void> {
    for (let i = 0; i < 1000; i++) {
      await new Promise((wait) => setTimeout(wait, 20));
      await fixture.whenStable();
      if (i > 4 && is()) return;
    }
  }
  const text = () => page(fixture).querySelector('aside')!.textContent!.replace(/\s+/g, ' ');
  const alert = () => page(fixture).querySelector('.left [role=alert]')?.textContent?.trim() ?? '';

  it('asks for the unit that the file does not say, and weighs it at the size that is wanted', async () => {
    await open(answer());
    await choose(stlBytes(ball(50, 64, 32)), 'ball.stl');
    expect(text()).toContain('The file does not say its unit: 100.00 × 100.00 × 100.00 of what?');
    expect(text()).toContain('Most likely mm.');
    await press(fixture, 'A size is wanted');
    for (const odd of ['0', '-5', 'abc', '999999']) {
      await type(fixture, '#bronze-mm', odd);
      expect(text()).withContext(odd).toContain('from 5 mm to 20 m');
      expect(page(fixture).querySelector<HTMLButtonElement>('[data-test=measure]')!.disabled).toBeTrue();
    }
    await type(fixture, '#bronze-mm', '200');
    await press(fixture, '[data-test=measure]');
    await until(() => text().includes('Surface'));
    // A bronze of 200 mm in silicon bronze: the wax is 203.5, the original 206.7 mm.
    expect(text()).toContain('206.7 mm');
    expect(text()).toContain('203.5 mm');
    // Its wax at 5 mm: 4π/3·(101.7³ − 96.7³) mm³ × 0.93 = 0.575 kg; the cast 8.54 times that.
    const shown = page(fixture).querySelector('[aria-label^="0.57"], [aria-label^="0.58"]');
    expect(shown).not.toBeNull();
    expect(text()).toContain('weighed 0.62 kg (3/12): +0.02 kg');
  });

  it('says in words what is wrong with a file, and what it is instead', async () => {
    await open(answer());
    await choose(bytesOf('%PDF-1.7 drawing'), 'otter.stl');
    expect(alert()).toBe('otter.stl is a PDF, not a model.');
    await choose(stlBytes(box(10, 10, 10)).subarray(0, 300), 'cut.stl');
    await until(() => alert() !== '');
    expect(alert()).toMatch(/cut\.stl/i);
    const sheet = bytesOf('v 0 0 0\nv 90 0 0\nv 0 90 10\nf 1 2 3\n');
    await choose(sheet, 'sheet.obj');
    await press(fixture, '[data-test=measure]');
    await until(() => text().includes('encloses nothing'));
    expect(text()).toContain('The model encloses nothing, so it has no weight');
  });

  it('says nothing of the model that is kept, once another file lies on the page', async () => {
    const kept: ModelsAnswer['models'][number] = {
      ...{ id: 'm-1', workId: 'w-1', sectionId: null, contentId: 'c-1', name: 'kept.stl', planes: [], cutNames: [] },
      ...{ wayUp: null, at: '2027-02-01T10:00:00.000Z', byId: null, by: null, voidReason: null, version: 1 },
      sizing: { unit: 'mm', bronzeMm: null, axis: 'z', rubber: 'silicone-condensation' },
      measured: {
        ...{ format: 'stl', triangles: 12, watertight: true, volumeCm3: 1000, volumePlusMinusCm3: 0, areaCm2: 600 },
        ...{ sizeMm: [100, 100, 100], up: 'z', toWax: 1, thickestMm: 100, warnings: [] },
        curve: [{ wallMm: 5, volumeCm3: 271, plusMinusCm3: 1 }],
      },
      // Too large to be fetched unasked.
      content: { id: 'c-1', kind: 'model', mime: 'model/stl', bytes: 90e6, width: null, height: null },
    };
    await open(answer({ models: [kept] }));
    expect(text()).toContain('100 mm × 100 mm × 100 mm');
    expect(page(fixture).querySelector('.left')!.textContent).toContain('kept.stl, 90 MB');
    await choose(stlBytes(box(40, 40, 40)), 'other.stl');
    expect(text()).not.toContain('100 mm × 100 mm × 100 mm');
    expect(text()).toContain('Measure it at this size');
  });

  it('says which way of knowing counts, and puts one away', async () => {
    const estimate: SectionEstimate = {
      ...{ id: 'e-1', kind: 'displacement', waxKg: 0.64, plusMinusKg: 0.02, curve: null, areaCm2: null },
      ...{ says: '0.69 l displaced', at: '2027-02-01T10:00:00.000Z', modelId: null, voidReason: null },
    };
    await open(answer({ sections: [section({ estimates: [estimate] })] }));
    expect(text()).toContain('0.64 ± 0.02 kg wax 0.69 l displaced, the surest of 3');
    await press(fixture, 'does not count');
    const sent = http.expectOne('/api/sections/s-1/estimates');
    expect(sent.request.body).toEqual(jasmine.objectContaining({ version: 3, add: null }));
  });

  it('knows a wax without a model: from a size, or like another work', async () => {
    await open(answer());
    page(fixture).querySelector<HTMLDetailsElement>('details')!.open = true;
    for (const [i, mm] of [300, 200, 150].entries()) await type(fixture, `#size-${i}`, String(mm));
    await press(fixture, '[data-test=save-estimate]');
    const { add } = http.expectOne('/api/sections/s-1/estimates').request.body as { add: SectionEstimate };
    expect([add.kind, add.curve]).toEqual(['size', null]);
    // Within about a third.
    expect(add.plusMinusKg! / add.waxKg!).toBeCloseTo(0.35, 2);
  });

  it('cuts by a plane, shows what each part weighs, and undoes it', async () => {
    await open(answer(), { tab: 'cuts' });
    await choose(stlBytes(box(300, 60, 60)), 'bar.stl');
    await press(fixture, 'across its width');
    await until(() => text().includes('Together'));
    const names = [...page(fixture).querySelectorAll<HTMLInputElement>('input.name')].map(({ value }) => value);
    expect(names).toEqual(['Part A', 'Part B']);
    expect(text()).toContain('Every part fits the shop.');
    expect(text()).toContain('Work on it has begun: the sections stay as they are.');
    await type(fixture, '#cut-0', '75');
    await until(() => !page(fixture).querySelector('.busy'));
    await press(fixture, 'Undo');
    await until(() => !page(fixture).querySelector('.busy'));
    await press(fixture, 'Undo');
    expect(text()).toContain('It is whole.');
  });
});
