import type { HttpTestingController } from '@angular/common/http/testing';
import type { ComponentFixture } from '@angular/core/testing';
import { TestBed } from '@angular/core/testing';
import type { StepForm } from '@kalvet/core';
import { CAUTIONS } from '@kalvet/core';
import { stepForm } from '../testing/pieces';
import { PERSON, bed } from '../testing/screen';
import { saidReadings, startReadings } from './draft';
import { RecordPanel } from './record-panel.component';

describe('the record panel', () => {
  let http: HttpTestingController;
  let fixture: ComponentFixture<RecordPanel>;
  const page = () => fixture.nativeElement as HTMLElement;

  beforeEach(() => {
    http = bed();
  });

  const open = async (form: StepForm) => {
    fixture = TestBed.createComponent(RecordPanel);
    fixture.componentRef.setInput('form', form);
    await fixture.whenStable();
  };
  const press = async (name: string) => {
    page().querySelector<HTMLButtonElement>(`[data-test=${name}]`)!.click();
    await fixture.whenStable();
  };

  it('asks for the readings of its kind, shows its cautions, and sends what was said with the version seen', async () => {
    await open(
      stepForm(
        { kind: 'coat', room: 'shell', name: 'Seal coat 8', carrier: 'tree', sequence: 8 },
        { lift: ['wax and shell: 31 kg'], starts: { slurry: 'backup', stucco: 'none' } },
      ),
    );
    expect([...page().querySelectorAll('label')].map((label) => label.textContent?.trim())).toEqual(
      jasmine.arrayContaining(['Slurry', 'Stucco', 'Room, °C (if known)']),
    );
    expect(page().textContent).toContain(CAUTIONS.silica);
    expect(page().textContent).toContain('wax and shell: 31 kg');
    await press('record');
    const { request } = http.expectOne('/api/steps/st-1/record');
    expect(request.body).toEqual(
      jasmine.objectContaining({
        version: 3,
        outcome: 'done',
        by: ['p-1'],
        readings: { slurry: 'backup', stucco: 'none' },
      }),
    );
  });

  it('keeps what was typed when the record is stale, and sends it with the version that is there now', async () => {
    const form = stepForm({ kind: 'patch', room: 'burnout', name: 'Patch', carrier: 'tree' });
    await open(form);
    const note = page().querySelector('textarea')!;
    note.value = 'paste at the tip';
    note.dispatchEvent(new Event('input'));
    await press('record');
    http
      .expectOne('/api/steps/st-1/record')
      .flush(
        { error: { code: 'stale', message: 'Somebody else has changed this step.' } },
        { status: 409, statusText: 'Conflict' },
      );
    await fixture.whenStable();
    expect(page().textContent).toContain('Look at what is there now');
    fixture.componentRef.setInput('form', { ...form, step: { ...form.step, version: 4 } });
    await fixture.whenStable();
    await press('record');
    const { request } = http.expectOne('/api/steps/st-1/record');
    expect([request.body.version, request.body.note]).toEqual([4, 'paste at the tip']);
  });

  it('says what a typed wax means in bronze while it can still be mended', async () => {
    await open(stepForm({}, { expectedWaxKg: 0.75 }));
    fixture.componentInstance['given'].set('waxKg', 0.855);
    await fixture.whenStable();
    expect(page().querySelector('.says')!.textContent).toContain('Wax 14 % over: +0.9 kg bronze');
  });

  it('takes a weight in any unit, keeps it as it was typed, and sends nothing that cannot be read', async () => {
    await open(stepForm({}, { starts: { markPutIn: true } }));
    const weigh = async (text: string) => {
      const field = page().querySelector<HTMLInputElement>('#reading-waxKg')!;
      field.value = text;
      field.dispatchEvent(new Event('input'));
      await fixture.whenStable();
      await press('record');
    };
    await weigh('two and a bit');
    http.expectNone('/api/steps/st-1/record');
    expect(page().querySelector('kv-reading-field .kv-wrong')!.textContent).toContain('cannot be read as a number');
    // 2 lb 4 oz = 2.25 × 0.45359237 kg.
    await weigh('2 lb 4 oz');
    expect(http.expectOne('/api/steps/st-1/record').request.body).toEqual(
      jasmine.objectContaining({
        readings: jasmine.objectContaining({ waxKg: 1.0206 }),
        typed: { waxKg: '2 lb 4 oz' },
      }),
    );
  });

  it('begins a pull with the mould and the wax that are said', async () => {
    const mould = { id: 'm-1', label: 'M-1', used: 3, left: 57, good: true };
    await open(stepForm({ kind: 'pull' }, { moulds: [mould], starts: { mouldId: 'm-1', wax: 'micro', potC: 82 } }));
    await press('begin');
    expect(http.expectOne('/api/steps/st-1/start').request.body.readings).toEqual({
      mouldId: 'm-1',
      wax: 'micro',
      potC: 82,
    });
  });

  it('says a wax of another density by that density', async () => {
    // Microcrystalline at 0.92 g/cm³ takes more bronze for its kilogram than pattern wax at 0.93.
    await open(stepForm({}, { expectedWaxKg: 0.75, waxDensity: 0.92 }));
    fixture.componentInstance['given'].set('waxKg', 10);
    await fixture.whenStable();
    const factor = (8.36 / 0.92) * (1 - 0.017) ** 3;
    expect(page().querySelector('.says')!.textContent).toContain(`+${((10 - 0.75) * factor).toFixed(1)} kg`);
  });

  it('puts the server’s words beside the field they are about, goes there, and takes them away as it is mended', async () => {
    await open(stepForm({}));
    const refuse = async () => {
      await press('record');
      http
        .expectOne('/api/steps/st-1/record')
        .flush(
          { error: { code: 'invalid', message: 'x', fields: { 'readings.waxKg': 'Wax weighs is missing' } } },
          { status: 400, statusText: 'Bad Request' },
        );
      await fixture.whenStable();
    };
    const wrong = () => page().querySelector('kv-reading-field .kv-wrong')?.textContent?.trim();
    await refuse();
    expect(wrong()).toBe('Wax weighs is missing');
    const field = page().querySelector<HTMLInputElement>('#reading-waxKg')!;
    expect(document.activeElement).toBe(field);
    field.value = '0.4';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    await fixture.whenStable();
    expect(wrong()).toBeUndefined();
    await refuse();
    expect(wrong()).toBe('Wax weighs is missing');
  });

  it('names who may pass what stands in the way of a hand', async () => {
    const manager = { ...PERSON, id: 'p-2', name: 'Otis Vance', shortName: 'OV' };
    http = bed([], { roles: ['hand'] }, [manager, { ...manager, id: 'p-3', name: 'Left Long Ago', active: false }]);
    await open(stepForm({}));
    await press('record');
    const refusals = [{ rule: 'min wait', message: 'Dries until 14:00.', mayOverride: true }];
    http
      .expectOne('/api/steps/st-1/record')
      .flush(
        { error: { code: 'refused', message: 'Dries until 14:00.', mayOverride: true, refusals } },
        { status: 409, statusText: 'Conflict' },
      );
    await fixture.whenStable();
    expect(page().querySelector('kv-refusal')!.textContent).toContain(
      'Otis Vance can record it all the same, with a reason.',
    );
    expect(page().querySelector('[data-test=override]')).toBeNull();
  });

  it('shows a step that is over as it was recorded, without a button to do it twice', async () => {
    await open(stepForm({ state: 'done', outcome: 'done', endedAt: '2027-03-01T10:00:00.000Z' }));
    expect(page().textContent).toContain('Already recorded as done');
    expect(page().querySelector('[data-test=record]')).toBeNull();
  });
});

describe('a new form', () => {
  it('starts with what its room proposes; what was said at the begin stands over it', () => {
    const form = stepForm({ kind: 'pull', readings: { mouldId: 'b' } }, { starts: { mouldId: 'a', potC: 82 } });
    expect(startReadings(form)).toEqual({ mouldId: 'b', potC: 82 });
  });

  it('says only what is asked at the outcome and was filled in', () => {
    const draft = { pouredKg: 12, metalC: null, seconds: 8, vents: 'all', tempWhere: 'cup' };
    expect(saidReadings('pour', 'not poured', draft)).toEqual({});
    expect(saidReadings('pour', 'run out', draft)).toEqual({ tempWhere: 'cup' });
    expect(saidReadings('pour', 'poured', draft)).toEqual({
      pouredKg: 12,
      seconds: 8,
      vents: 'all',
      tempWhere: 'cup',
    });
  });
});
