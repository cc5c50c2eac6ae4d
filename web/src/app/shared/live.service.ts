import { Injectable, inject } from '@angular/core';
import type { ChangeMessage } from '@kalvet/core';
import {
  EMPTY,
  Observable,
  Subject,
  distinctUntilChanged,
  filter,
  fromEvent,
  map,
  merge,
  retry,
  share,
  startWith,
  switchMap,
  timer,
} from 'rxjs';
import { Api } from './api.service';

/** Tells screens to read again: changes made elsewhere, and the records being back after they were away. */
@Injectable({ providedIn: 'root' })
export class Live {
  private readonly api = inject(Api);
  private readonly own = new Subject<void>();

  private readonly stream$ = new Observable<ChangeMessage>((observer) => {
    const source = new EventSource('/api/changes');
    const take = (event: MessageEvent<string>) =>
      observer.next({ rooms: [], pieces: [], ...JSON.parse(event.data) } as ChangeMessage);
    source.addEventListener('message', take);
    // Sent when the stream opens, also after it was lost: whatever was missed is read then.
    source.addEventListener('hello', take);
    // The server says that its records are away, or is away itself: asking makes every screen say so.
    const ask = () => this.api.check().subscribe({ error: () => undefined });
    source.addEventListener('away', ask);
    source.addEventListener('error', () => {
      ask();
      if (source.readyState === EventSource.CLOSED) observer.error(new Error('the stream was refused'));
    });
    return () => source.close();
  }).pipe(retry({ delay: 2000 }));

  /**
   * A browser keeps at most six connections to one address, and every open page would hold one of them for its stream: so
   * only a page that is looked at listens. When it is looked at again, the stream's greeting makes it read what it missed.
   */
  private readonly messages$ = merge(
    fromEvent(document, 'visibilitychange').pipe(map(() => !document.hidden)),
    fromEvent(window, 'pagehide').pipe(map(() => false)),
    fromEvent(window, 'pageshow').pipe(map(() => true)),
  ).pipe(
    startWith(!document.hidden),
    distinctUntilChanged(),
    switchMap((looked) => (looked ? this.stream$ : EMPTY)),
    share(),
  );

  /** While the records are away, asks every two seconds whether they are back. */
  private readonly back$ = this.api.reached$.pipe(
    switchMap((reached) =>
      reached
        ? []
        : timer(2000, 2000).pipe(
            switchMap(() => this.api.check().pipe(retry({ delay: 2000 }))),
            filter(Boolean),
          ),
    ),
    map(() => undefined),
  );

  /** Fires whenever a screen should read again. */
  readonly changed$: Observable<unknown> = merge(this.messages$, this.back$, this.own);

  /** Something was written from here: read at once, without waiting for the stream. */
  wrote(): void {
    this.own.next();
  }
}
