import { HttpErrorResponse } from '@angular/common/http';
import type { HttpInterceptorFn } from '@angular/common/http';
import { Injector, inject } from '@angular/core';
import { tap } from 'rxjs';
import { Session } from './session.service';

/** A page whose person touched it within this time says that somebody is there: else its session may come to its end. */
const ATTENDED_MS = 60_000;
let touchedAt = Date.now();
for (const kind of ['pointerdown', 'keydown', 'wheel'])
  document.addEventListener(kind, () => (touchedAt = Date.now()), { passive: true, capture: true });

/** Gives every write its session's token, and notices where the server knows the session no more. */
export const sessionInterceptor: HttpInterceptorFn = (request, next) => {
  // The session itself asks by http: so it is looked up when it is needed, not before.
  const injector = inject(Injector);
  const own = request.url.startsWith('/api/session');
  const token = request.method === 'GET' ? '' : injector.get(Session).token();
  const setHeaders = {
    ...(token ? { 'X-Kalvet-Token': token } : {}),
    ...(Date.now() - touchedAt < ATTENDED_MS ? { 'X-Kalvet-Attended': '1' } : {}),
  };
  return next(request.clone({ setHeaders })).pipe(
    tap({
      error: (failure: unknown) => {
        if (failure instanceof HttpErrorResponse && failure.status === 401 && !own) injector.get(Session).lost();
      },
    }),
  );
};
