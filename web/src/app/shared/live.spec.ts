import { provideHttpClient } from '@angular/common/http';
import { HttpTestingController, provideHttpClientTesting } from '@angular/common/http/testing';
import { TestBed } from '@angular/core/testing';
import { MessageService } from 'primeng/api';
import type { Subscription } from 'rxjs';
import { Api } from './api.service';
import { Live } from './live.service';

/** A stream that the spec speaks through. */
class FakeStream {
  static readonly CLOSED = 2;
  static readonly open: FakeStream[] = [];
  readyState = 1;
  private readonly listeners = new Map<string, (event: unknown) => void>();
  constructor() {
    FakeStream.open.push(this);
  }
  addEventListener(name: string, listener: (event: unknown) => void): void {
    this.listeners.set(name, listener);
  }
  say(name: string, data: object = {}): void {
    this.listeners.get(name)!({ data: JSON.stringify(data) });
  }
  close(): void {
    FakeStream.open.splice(FakeStream.open.indexOf(this), 1);
  }
}

describe('staying in touch', () => {
  const real = window.EventSource;
  let http: HttpTestingController;
  let changes: unknown[];
  let listening: Subscription;

  beforeEach(() => {
    (window as unknown as { EventSource: unknown }).EventSource = FakeStream;
    TestBed.configureTestingModule({ providers: [provideHttpClient(), provideHttpClientTesting(), MessageService] });
    http = TestBed.inject(HttpTestingController);
    changes = [];
    listening = TestBed.inject(Live).changed$.subscribe((change) => changes.push(change));
  });
  afterEach(() => {
    listening.unsubscribe();
    (window as unknown as { EventSource: unknown }).EventSource = real;
  });

  it('reads again for each change, and once when the stream opens', () => {
    FakeStream.open[0]!.say('hello', { change: 4 });
    FakeStream.open[0]!.say('message', { change: 5, rooms: ['wax'], pieces: ['p'] });
    expect(changes.map((each) => (each as { change: number }).change)).toEqual([4, 5]);
  });

  it('holds one connection however many screens listen, and none while nobody looks at the page', () => {
    const second = TestBed.inject(Live).changed$.subscribe();
    expect(FakeStream.open.length).toBe(1);
    window.dispatchEvent(new Event('pagehide'));
    expect(FakeStream.open.length).toBe(0);
    window.dispatchEvent(new Event('pageshow'));
    expect(FakeStream.open.length).toBe(1);
    second.unsubscribe();
  });

  it('asks at once when the server says that its records are away, so that every screen says so', () => {
    let reached = true;
    TestBed.inject(Api).reached$.subscribe((value) => (reached = value));
    FakeStream.open[0]!.say('away');
    http
      .expectOne('/api/health')
      .flush({ error: { code: 'unavailable', message: 'away' } }, { status: 503, statusText: 'x' });
    expect(reached).toBeFalse();
  });
});
