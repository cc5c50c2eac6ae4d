import { computed, effect, inject, signal, untracked } from '@angular/core';
import type { Signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { EMPTY, expand, switchMap, timer } from 'rxjs';
import { Api, asApiError } from '../shared/api.service';

const ASK_AGAIN_MS = 1000;

/** The place of a question among those that wait: 0 is being worked out. */
interface Queued {
  readonly place: number;
  readonly ticket: string;
}

const isQueued = (said: object): said is Queued => 'place' in said && 'ticket' in said;

/** Asks a question about dates until its answer is there; where others are asked first, its place is said meanwhile. */
function askDates<T extends object>(api: Api, path: string): Observable<T | Queued> {
  const again = (ticket: string) => `${path}${path.includes('?') ? '&' : '?'}ticket=${encodeURIComponent(ticket)}`;
  return api
    .get<T | Queued>(path)
    .pipe(
      expand((said) =>
        isQueued(said) ? timer(ASK_AGAIN_MS).pipe(switchMap(() => api.get<T | Queued>(again(said.ticket)))) : EMPTY,
      ),
    );
}

/** A question about dates on a screen. */
export interface AskedDates<T> {
  readonly answer: Signal<T | undefined>;
  /** Why there is no answer. */
  readonly wrong: Signal<string>;
  /** It is being worked out, or waits; what was answered before stays meanwhile. */
  readonly busy: Signal<boolean>;
  /** What is said meanwhile. */
  readonly waiting: Signal<string>;
  again(): void;
}

/**
 * Asks whenever the question changes; none where it is empty. To be called where a component is made.
 * @param working what is said while it is worked out
 */
export function askedDates<T extends object>(path: () => string, working: string): AskedDates<T> {
  const api = inject(Api);
  const answer = signal<T | undefined>(undefined);
  const wrong = signal('');
  const place = signal(0);
  const busy = signal(false);
  const asked = signal(0);
  let before = '';
  effect((cleanup) => {
    const question = path();
    asked();
    untracked(() => {
      if (question !== before) answer.set(undefined);
      before = question;
      wrong.set('');
      place.set(0);
      busy.set(question !== '');
      if (question === '') return;
      const asking = askDates<T>(api, question).subscribe({
        next: (said) => {
          if (isQueued(said)) return place.set(said.place);
          busy.set(false);
          answer.set(said);
        },
        error: (failure: unknown) => {
          busy.set(false);
          wrong.set(asApiError(failure).message);
        },
      });
      cleanup(() => asking.unsubscribe());
    });
  });
  const waiting = computed(() => (place() > 0 ? `Others ask too: yours is number ${place()} in the queue …` : working));
  return { answer, wrong, busy, waiting, again: () => asked.update((n) => n + 1) };
}
