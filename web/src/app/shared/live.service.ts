import { Injectable, inject } from '@angular/core';
import type { ChangeMessage } from '@kalvet/core';
import { Observable, Subject, filter, map, merge, retry, share, switchMap, timer } from 'rxjs';
import { Api } from './api.service';

/** Tells screens to read again: changes made elsewhere, and the records being back after they were away. */
@Injectable({ providedIn: 'root' })
export class Live {
  private readonly api = inject(Api);
  private readonly own = new Subject<void>();

  private readonly messages$ = new Observable<ChangeMessage>((observer) => {
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
  }).pipe(retry({ delay: 2000 }), share());

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
