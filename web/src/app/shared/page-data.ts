import { inject, signal } from '@angular/core';
import type { Signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Subject, catchError, debounceTime, from, merge, of, switchMap, tap } from 'rxjs';
import { Api, asApiError } from './api.service';
import { Live } from './live.service';

/** What a page reads: read again whenever something changed, kept as it was while it cannot be read. */
export interface PageData<T> {
  readonly answer: Signal<T | undefined>;
  /** Why it could not be read. */
  readonly wrong: Signal<string>;
  read(): void;
}

/** Reads a page's data, now and after every change. To be called where a component is made. */
export function pageData<T>(path: () => string): PageData<T> {
  const api = inject(Api);
  const answer = signal<T | undefined>(undefined);
  const wrong = signal('');
  const again = new Subject<void>();
  // The first reading waits only until the page has its address; of changes that come at once one reading is enough.
  merge(from(Promise.resolve()), merge(inject(Live).changed$, again).pipe(debounceTime(60)))
    .pipe(
      switchMap(() =>
        api.get<T>(path()).pipe(
          tap(() => wrong.set('')),
          catchError((failure: unknown) => {
            wrong.set(asApiError(failure).message);
            return of(undefined);
          }),
        ),
      ),
      takeUntilDestroyed(),
    )
    .subscribe((found) => found && answer.set(found));
  return { answer, wrong, read: () => again.next() };
}
