import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { WorkAnswer } from '@kalvet/core';
import { bed, press, show, type } from '../../testing/screen';
import { SectionForm } from './section-form.component';

const section: WorkAnswer['sections'][number] = {
  id: 's-1',
  name: 'Body',
  letter: 'A',
  wallMm: 5,
  typed: {},
  metalHeightMm: 420,
  expectedWaxKg: 2.45,
  areaCm2: 5200,
  seamM: null,
  deep: false,
  plannedWax: null,
  plannedCast: null,
  coats: 9,
  waxes: [],
  casts: [],
  attempts: 3,
  lost: 0,
  version: 7,
};

describe('changing a section', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<SectionForm>;
  const button = () => document.body.querySelector<HTMLElement>('[data-test=save-section]')!.textContent!.trim();

  beforeEach(async () => {
    http = bed();
    fixture = await show(SectionForm, { section });
    await type(fixture, '#section-name', 'Trunk');
  });
  afterEach(() => fixture.destroy());

  const ask = async (lines: readonly string[]) => {
    await press(fixture, '[data-test=save-section]');
    const asked = http.expectOne('/api/sections/s-1/consequences');
    expect(asked.request.body).toEqual(jasmine.objectContaining({ version: 7, name: 'Trunk', metalHeightMm: 420 }));
    asked.flush({ lines });
    await fixture.whenStable();
  };

  it('is made at once where it moves no step', async () => {
    await ask([]);
    expect(http.expectOne({ url: '/api/sections/s-1', method: 'PUT' }).request.body).toEqual(
      jasmine.objectContaining({ version: 7, name: 'Trunk' }),
    );
  });

  it('shows first what steps come and go, and is made on the second press', async () => {
    await ask(['2 coats more on 3 trees that are not begun']);
    http.expectNone({ url: '/api/sections/s-1', method: 'PUT' });
    expect(document.body.textContent).toContain('2 coats more on 3 trees');
    expect(button()).toBe('Do it');
    await press(fixture, '[data-test=save-section]');
    http.expectOne({ url: '/api/sections/s-1', method: 'PUT' });
  });

  it('asks anew where something else was typed meanwhile', async () => {
    await ask(['2 coats more on 3 trees that are not begun']);
    await type(fixture, '#section-name', 'Torso');
    await press(fixture, '[data-test=save-section]');
    http.expectNone({ url: '/api/sections/s-1', method: 'PUT' });
    http.expectOne('/api/sections/s-1/consequences');
  });
});
