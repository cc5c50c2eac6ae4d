import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import type { RecordMany as Tray, TrayForm, TrayLine } from '@kalvet/core';
import { stepForm } from '../testing/pieces';
import { bed, page, press, show, type } from '../testing/screen';
import { RecordMany } from './record-many.component';

describe('recording several at once', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<RecordMany>;
  const lines = (kind: 'coat' | 'chase-wax' | 'knock-out') =>
    [1, 2, 3].map((n) => ({ stepId: `st-${n}`, version: n, kind, name: `Dip coat ${n}`, on: `T-${n}` }));
  const trayLine = (n: number, rest: Partial<TrayLine> = {}): TrayLine => ({
    stepId: `st-${n}`,
    version: n,
    name: `Dip coat ${n}`,
    on: `T-${n}`,
    own: {},
    expects: [],
    moulds: [],
    expectedWaxKg: null,
    ...rest,
  });

  const open = async (kind: 'coat' | 'chase-wax' | 'knock-out', own: readonly Partial<TrayLine>[]) => {
    http = bed();
    fixture = await show(RecordMany, { lines: lines(kind) });
    const tray: TrayForm = {
      form: stepForm({ kind }, { starts: own[0]?.own ?? {} }),
      lines: [1, 2, 3].map((n) => trayLine(n, own[n - 1])),
    };
    http.expectOne('/api/steps/forms?ids=st-1,st-2,st-3').flush(tray);
    await fixture.whenStable();
  };
  const face = { own: { slurry: 'face', stucco: 'fine' } };
  const backup = { own: { slurry: 'backup', stucco: 'medium' } };
  const sent = () => http.expectOne('/api/records').request.body as Tray;

  it('shows groups by their own coat plans, and records each as its plan says', async () => {
    await open('coat', [face, backup, backup]);
    expect([...page(fixture).querySelectorAll('[data-test=group] b')].map((each) => each.textContent)).toEqual([
      'face, fine: 1',
      'back-up, medium: 2',
    ]);
    await press(fixture, '[data-test=record-many]');
    const { steps, readings } = sent();
    expect(steps).toEqual([
      { id: 'st-1', version: 1, readings: face.own },
      { id: 'st-2', version: 2, readings: backup.own },
      { id: 'st-3', version: 3, readings: backup.own },
    ]);
    expect(readings).toEqual({});
  });

  it('takes weights in one small table, Enter to the next, and asks at the row that is unlikely', async () => {
    const expects = [{ key: 'waxKg', low: 0.25, high: 2.25, from: '0.750 kg is planned' }];
    await open('chase-wax', [{ expects }, { expects }, { expects }]);
    await type(fixture, '#each-0-0', '0,71');
    const enter = new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true });
    document.querySelector('#each-0-0')!.dispatchEvent(enter);
    expect(document.activeElement!.id).toBe('each-1-0');
    await type(fixture, '#each-1-0', '780');
    expect(page(fixture).querySelector('kv-doubt')!.textContent).toContain('780 kg, but 0.750 kg is planned');
    await press(fixture, '[data-test=meant]');
    await press(fixture, '[data-test=record-many]');
    expect(sent().steps.map((step) => step.readings?.['waxKg'])).toEqual([0.71, 0.78, undefined]);
  });

  it('keeps what was typed where one of them is refused, and says which', async () => {
    await open('coat', [backup, backup, backup]);
    await type(fixture, 'textarea', 'second tank');
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

  it('says that what has a row for each cast cannot be said of all', async () => {
    await open('knock-out', []);
    expect(page(fixture).textContent).toContain('readings that differ from one to the next');
    expect(page(fixture).querySelector('[data-test=record-many]')).toBeNull();
  });
});
