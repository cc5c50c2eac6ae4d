import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { Injectable, inject } from '@angular/core';
import type { ErrorAnswer, EventAnswer } from '@kalvet/core';
import { BehaviorSubject, catchError, distinctUntilChanged, from, map, of, switchMap, tap, throwError } from 'rxjs';
import type { Observable } from 'rxjs';
import { takeEarly } from './early';

/** An error as the screens show it: what the server said, in words. */
export class ApiError extends Error {
  constructor(readonly error: ErrorAnswer['error']) {
    super(error.message);
  }

  get fields(): Readonly<Record<string, string>> {
    return this.error.fields ?? {};
  }
}

const AWAY = 'The records cannot be reached at this moment. What you typed is kept; try again.';

/** The one way to the server. It knows whether the server answers, so that every screen can say so. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly away = new BehaviorSubject('');

  /** Why the last request did not get through to the records, in words; empty where it did. */
  readonly away$ = this.away.asObservable();
  /** Whether the last request got through to the records. */
  readonly reached$ = this.away$.pipe(
    map((words) => words === ''),
    distinctUntilChanged(),
  );

  get<T>(path: string): Observable<T> {
    const asked = this.http.get<T>(`/api${path}`);
    const early = takeEarly(path);
    if (!early) return this.watched(asked);
    return this.watched(from(early).pipe(switchMap((answer) => (answer === undefined ? asked : of(answer as T)))));
  }

  /** Writes with the key of the form that was filled in. */
  post<T = EventAnswer>(path: string, body: object, key: string): Observable<T & EventAnswer> {
    return this.watched(this.http.post<T & EventAnswer>(`/api${path}`, body, { headers: { 'Idempotency-Key': key } }));
  }

  put<T = EventAnswer>(path: string, body: object, key: string): Observable<T & EventAnswer> {
    return this.watched(this.http.put<T & EventAnswer>(`/api${path}`, body, { headers: { 'Idempotency-Key': key } }));
  }

  patch<T = EventAnswer>(path: string, body: object, key: string): Observable<T & EventAnswer> {
    return this.watched(this.http.patch<T & EventAnswer>(`/api${path}`, body, { headers: { 'Idempotency-Key': key } }));
  }

  /** Sends what is no record by itself: an upload's beginning, end or giving up. */
  ask<T>(path: string, body: object): Observable<T> {
    return this.watched(this.http.post<T>(`/api${path}`, body));
  }

  /** Sends some bytes of a file. */
  putPart(path: string, part: Blob): Observable<object> {
    const headers = { 'Content-Type': 'application/octet-stream' };
    return this.watched(this.http.put<object>(`/api${path}`, part, { headers }));
  }

  /** Asks whether the records can be reached again. */
  check(): Observable<boolean> {
    return this.get<{ status: string }>('/health').pipe(map(({ status }) => status === 'ok'));
  }

  private watched<T>(request: Observable<T>): Observable<T> {
    return request.pipe(
      tap(() => this.away.next('')),
      catchError((failure: unknown) => {
        const error = asApiError(failure);
        if (error.error.code === 'unavailable') this.away.next(error.message);
        return throwError(() => error);
      }),
    );
  }
}

/** Any failure of a request as an error in words. */
export function asApiError(failure: unknown): ApiError {
  if (failure instanceof ApiError) return failure;
  if (failure instanceof HttpErrorResponse) {
    const body = failure.error as Partial<ErrorAnswer> | null;
    if (body && typeof body === 'object' && body.error?.message) return new ApiError(body.error);
    if (failure.status === 0 || failure.status >= 502) return new ApiError({ code: 'unavailable', message: AWAY });
  }
  return new ApiError({ code: 'failed', message: 'That did not work. Nothing was half written; try again.' });
}
