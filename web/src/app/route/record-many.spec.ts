import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { stepForm } from '../testing/pieces';
import { bed, page, press, show } from '../testing/screen';
import { RecordMany } from './record-many.component';

describe('recording several at once', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<RecordMany>;
  const lines = (kind: 'coat' | 'chase-wax') =>
    [1, 2, 3].map((n) => ({ stepId: `st-${n}`, version: n, kind, name: `Dip coat ${n}`, on: `T-${n}` }));

  const open = async (kind: 'coat' | 'chase-wax') => {
    http = bed();
    fixture = await show(RecordMany, { lines: lines(kind) });
    http
      .expectOne('/api/steps/st-1/form')
      .flush(stepForm({ kind, carrier: 'tree', sequence: 3 }, { starts: { slurry: 'backup', stucco: 'medium' } }));
    await fixture.whenStable();
  };

  it('names every one, and sends each with the version that was seen', async () => {
    await open('coat');
    expect(page(fixture).textContent).toContain('3 × Dip coat');
    expect([...page(fixture).querySelectorAll('li')].map((li) => li.textContent!.trim().slice(0, 3))).toEqual([
      'T-1',
      'T-2',
      'T-3',
    ]);
    await press(fixture, '[data-test=record-many]');
    const { request } = http.expectOne('/api/records');
    expect(request.body).toEqual(
      jasmine.objectContaining({
        steps: [
          { id: 'st-1', version: 1 },
          { id: 'st-2', version: 2 },
          { id: 'st-3', version: 3 },
        ],
        outcome: 'done',
        // The third coat goes on the back-up with medium stucco.
        readings: { slurry: 'backup', stucco: 'medium' },
      }),
    );
  });

  it('keeps what was typed where one of them is refused, and says which', async () => {
    await open('coat');
    const note = page(fixture).querySelector('textarea')!;
    note.value = 'second tank';
    note.dispatchEvent(new Event('input'));
    await press(fixture, '[data-test=record-many]');
    http.expectOne('/api/records').flush(
      {
        error: {
          code: 'refused',
          message: 'T-2 dries until 14:00.',
          rule: 'min wait',
          mayOverride: true,
          refusals: [{ rule: 'min wait', message: 'T-2 dries until 14:00.', mayOverride: true }],
        },
      },
      { status: 409, statusText: 'Conflict' },
    );
    await fixture.whenStable();
    expect(page(fixture).textContent).toContain('T-2 dries until 14:00.');
    expect(page(fixture).querySelector('textarea')!.value).toBe('second tank');
  });

  it('says that what is read of each cannot be said of all', async () => {
    await open('chase-wax');
    expect(page(fixture).textContent).toContain('readings that differ from one to the next');
    expect(page(fixture).querySelector('[data-test=record-many]')).toBeNull();
  });
});
