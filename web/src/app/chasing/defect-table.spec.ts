import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { RecordPanel } from '../route/record-panel.component';
import { stepForm } from '../testing/pieces';
import { bed, page, press, show, type } from '../testing/screen';
import { SeamSum } from './seam-sum.component';

describe('an inspection at the panel', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<RecordPanel>;
  const choose = async (words: string) => {
    const choice = [...page(fixture).querySelectorAll<HTMLElement>('kv-defect-table [role=radio]')].find(
      (each) => each.textContent!.trim() === words,
    )!;
    choice.click();
    await fixture.whenStable();
  };

  beforeEach(async () => {
    http = bed();
    fixture = await show(RecordPanel, { form: stepForm({ kind: 'inspect', room: 'chasing', name: 'Inspect' }) });
  });

  it('accepts a cast without a defect', async () => {
    expect(page(fixture).textContent).toContain('none seen');
    await press(fixture, '[data-test=record]');
    expect(http.expectOne('/api/steps/st-1/record').request.body).toEqual(
      jasmine.objectContaining({ outcome: 'accept', readings: {} }),
    );
  });

  it('follows the worst verdict, asks why, and shows what a recast does to the dates before it is taken', async () => {
    await press(fixture, '[data-test=add-defect]');
    await type(fixture, '#defect-where-0', 'haunch');
    await choose('Recast');
    const asked = http.expectOne('/api/steps/st-1/what-if?outcome=recast');
    asked.flush({
      feasible: true,
      pieces: [
        {
          pieceId: 'p',
          label: 'Hound 2/6',
          before: '2027-03-05T10:00:00.000Z',
          after: '2027-03-20T10:00:00.000Z',
          lateDays: 4,
        },
        {
          pieceId: 'q',
          label: 'Hound 5/6',
          before: '2027-05-05T10:00:00.000Z',
          after: '2027-05-06T10:00:00.000Z',
          lateDays: 0,
        },
      ],
    });
    await fixture.whenStable();
    const text = page(fixture).textContent!.replace(/\s+/g, ' ');
    expect(text).toContain('4 days late');
    // What moves far away and is not late by it is only counted.
    expect(text).toContain('1 others move too');
    expect(text).not.toContain('Hound 5/6');
    await type(fixture, '#note', 'haunch missing');
    await press(fixture, '[data-test=record]');
    expect(http.expectOne('/api/steps/st-1/record').request.body).toEqual(
      jasmine.objectContaining({
        outcome: 'recast',
        note: 'haunch missing',
        readings: { defects: [{ code: 'gas', where: 'haunch', mm: null, verdict: 'recast' }] },
      }),
    );
  });

  it('says at the list what is wrong with one of its defects, and keeps it', async () => {
    await press(fixture, '[data-test=add-defect]');
    await press(fixture, '[data-test=record]');
    http.expectOne('/api/steps/st-1/record').flush(
      {
        error: {
          code: 'invalid',
          message: 'no',
          fields: { 'readings.defects.0.mm': 'Defects must be at least 0.1' },
        },
      },
      { status: 400, statusText: 'Bad Request' },
    );
    await fixture.whenStable();
    expect(page(fixture).querySelector('.kv-wrong')!.textContent).toContain('must be at least 0.1');
    expect(page(fixture).querySelector('#defect-where-0')).not.toBeNull();
  });

  it('is accepted again once the defect is off the list', async () => {
    await press(fixture, '[data-test=add-defect]');
    await press(fixture, '[aria-label="Take defect 1 off the list"]');
    await press(fixture, '[data-test=record]');
    expect(http.expectOne('/api/steps/st-1/record').request.body).toEqual(
      jasmine.objectContaining({ outcome: 'accept', readings: { defects: [] } }),
    );
  });
});

describe('what a seam asks for', () => {
  const words = async (seamM: number | null) => {
    bed();
    const fixture = await show(SeamSum, { seamM, alloyId: 'C87300' });
    return page(fixture).textContent!.replace(/\s+/g, ' ').trim();
  };

  it('says hours and filler of its length, or only the usual hours', async () => {
    // 0.42 m × 6 h/m = 2.5 h; 0.42 m × 40 mm² × 8.36 g/cm³ = 0.14 kg.
    expect(await words(0.42)).toMatch(/^Seam 0.42 m: about 2.5 h and 0.14 ± 0.06 kg/);
    expect(await words(null)).toContain('not given on the work; about 4.0 h');
  });
});
