import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { Api } from './api.service';
import { Submission } from './submission';

describe('a form on its way', () => {
  let http: HttpTestingController;
  let form: Submission;

  beforeEach(() => {
    TestBed.configureTestingModule({
      providers: [provideHttpClient(), provideHttpClientTesting()],
    });
    http = TestBed.inject(HttpTestingController);
    form = TestBed.runInInjectionContext(() => new Submission());
  });

  const sent = () => http.expectOne('/api/steps/1/record');
  const send = (body: object = { outcome: 'done' }, options = {}) =>
    form.send('/steps/1/record', body, () => undefined, options);

  it('keeps its key when the same is sent again after the network dropped, so that it is written once', () => {
    send();
    const first = sent();
    first.error(new ProgressEvent('error'), { status: 0 });
    expect(form.error()!.message).toContain('What you typed is kept');
    send();
    const second = sent();
    expect(second.request.headers.get('Idempotency-Key')).toBe(first.request.headers.get('Idempotency-Key')!);
    second.flush({ change: 7 });
    expect(form.error()).toBeUndefined();
  });

  it('takes a new key when something else is said', () => {
    send({ outcome: 'done' });
    const first = sent();
    first.flush(
      { error: { code: 'invalid', message: 'x', fields: { note: 'is missing' } } },
      { status: 400, statusText: 'Bad Request' },
    );
    expect(form.fields()['note']).toBe('is missing');
    send({ outcome: 'lost' });
    expect(sent().request.headers.get('Idempotency-Key')).not.toBe(first.request.headers.get('Idempotency-Key'));
  });

  it('sends once while it is under way', () => {
    send();
    send();
    expect(http.match('/api/steps/1/record').length).toBe(1);
  });

  it('offers the way past a rule only where every rule in the way may be overridden, and names each', () => {
    const refusals = [
      { rule: 'min wait', message: 'too early', mayOverride: true },
      { rule: 'order', message: 'not done', mayOverride: true },
    ];
    send();
    sent().flush({ error: { code: 'refused', message: 'x', refusals } }, { status: 409, statusText: 'Conflict' });
    expect(form.mayOverride()).toBeTrue();
    form.reason.set(' dry enough ');
    send({ outcome: 'done' }, { override: true });
    const second = sent();
    expect(second.request.body.override).toEqual([
      { rule: 'min wait', reason: 'dry enough' },
      { rule: 'order', reason: 'dry enough' },
    ]);
    second.flush(
      {
        error: {
          code: 'refused',
          message: 'x',
          refusals: [{ ...refusals[0]!, rule: 'wet', mayOverride: false }],
        },
      },
      { status: 409, statusText: 'Conflict' },
    );
    expect(form.mayOverride()).toBeFalse();
  });

  it('tells every screen that the records are away, and that they are back', () => {
    const reached: boolean[] = [];
    TestBed.inject(Api).reached$.subscribe((value) => reached.push(value));
    send();
    sent().flush({ error: { code: 'unavailable', message: 'away' } }, { status: 503, statusText: 'Unavailable' });
    TestBed.inject(Api).check().subscribe();
    http.expectOne('/api/health').flush({ status: 'ok' });
    expect(reached).toEqual([true, false, true]);
  });
});
