import { HttpErrorResponse } from '@angular/common/http';
import type { HttpInterceptorFn } from '@angular/common/http';
import { Injector, inject } from '@angular/core';
import { tap } from 'rxjs';
import { Session } from './session.service';

/** Gives every write its session's token, and notices where the server knows the session no more. */
export const sessionInterceptor: HttpInterceptorFn = (request, next) => {
  // The session itself asks by http: so it is looked up when it is needed, not before.
  const injector = inject(Injector);
  const own = request.url.startsWith('/api/session');
  const token = request.method === 'GET' ? '' : injector.get(Session).token();
  return next(token ? request.clone({ setHeaders: { 'X-Kalvet-Token': token } }) : request).pipe(
    tap({
      error: (failure: unknown) => {
        if (failure instanceof HttpErrorResponse && failure.status === 401 && !own) injector.get(Session).lost();
      },
    }),
  );
};
