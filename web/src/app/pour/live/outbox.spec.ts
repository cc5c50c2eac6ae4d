import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { provideHttpClient } from '@angular/common/http';
import { TestBed } from '@angular/core/testing';
import { Outbox } from './outbox';

const away = { status: 0, statusText: 'Unknown Error' };

describe('what is recorded while metal flows', () => {
  let box: Outbox;
  let http: HttpTestingController;
  beforeEach(() => {
    localStorage.clear();
    jasmine.clock().install();
    TestBed.configureTestingModule({ providers: [Outbox, provideHttpClient(), provideHttpClientTesting()] });
    box = TestBed.inject(Outbox);
    http = TestBed.inject(HttpTestingController);
    box.open('h-1');
  });
  afterEach(() => {
    jasmine.clock().uninstall();
    localStorage.clear();
  });

  const put = (treeId: string) =>
    box.put({ path: '/heats/h-1/pour', body: { version: 3, treeId }, said: treeId, treeId });

  it('waits while the network is away, survives a reload, and goes out again in its order with the same key', () => {
    const { key } = put('a');
    put('b');
    http.expectOne('/api/heats/h-1/pour').error(new ProgressEvent('error'), away);
    expect([box.away(), box.waiting().length]).toEqual([true, 2]);
    expect(JSON.parse(localStorage.getItem('kalvet.outbox.h-1')!).length).toBe(2);
    jasmine.clock().tick(2001);
    const again = http.expectOne('/api/heats/h-1/pour');
    expect(again.request.headers.get('Idempotency-Key')).toBe(key);
    again.flush({ change: 5 });
    expect(box.away()).toBeFalse();
    http.expectOne(({ body }) => (body as { treeId: string }).treeId === 'b').flush({ change: 6 });
    expect([box.waiting().length, localStorage.getItem('kalvet.outbox.h-1')]).toEqual([0, null]);
  });

  it('is brought up to what the records hold where somebody else wrote meanwhile', async () => {
    box.mend = (item) => Promise.resolve({ ...item, body: { ...item.body, version: 7 } });
    const { key } = put('a');
    const stale = { error: { code: 'stale', message: 'changed' } };
    http.expectOne('/api/heats/h-1/pour').flush(stale, { status: 409, statusText: 'Conflict' });
    await Promise.resolve();
    await Promise.resolve();
    const next = http.expectOne('/api/heats/h-1/pour');
    expect((next.request.body as { version: number }).version).toBe(7);
    expect(next.request.headers.get('Idempotency-Key')).not.toBe(key);
    next.flush({ change: 9 });
    expect(box.waiting()).toEqual([]);
  });

  it('stops at what is refused, until it is said to be so or dropped', () => {
    put('a');
    const refusals = [{ rule: 'unlikely', message: 'far off', mayOverride: true }];
    const refused = { error: { code: 'refused', message: 'far off', refusals } };
    http.expectOne('/api/heats/h-1/pour').flush(refused, { status: 409, statusText: 'Conflict' });
    expect(box.refused()!.error.message).toBe('far off');
    put('b');
    http.expectNone('/api/heats/h-1/pour');
    box.pass('it is so');
    const again = http.expectOne('/api/heats/h-1/pour');
    expect((again.request.body as { override: object[] }).override).toEqual([{ rule: 'unlikely', reason: 'it is so' }]);
    again.flush({ change: 5 });
    http.expectOne('/api/heats/h-1/pour').flush({ change: 6 });
  });

  it('is taken back before it was sent', () => {
    put('a');
    const { key } = put('b');
    expect(box.drop(key)).toBeTrue();
    http.expectOne('/api/heats/h-1/pour').flush({ change: 5 });
    http.expectNone('/api/heats/h-1/pour');
    expect(box.drop(key)).toBeFalse();
  });
});
