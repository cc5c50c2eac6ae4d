import { HttpClient } from '@angular/common/http';
import { computed, inject, signal } from '@angular/core';
import type { ErrorAnswer } from '@kalvet/core';
import { asApiError } from '../shared/api.service';

/** A form about signing in on its way: it is no record of the work, so it has no key and no history. */
export class Sending {
  private readonly http = inject(HttpClient);
  readonly busy = signal(false);
  readonly error = signal<ErrorAnswer['error'] | undefined>(undefined);
  readonly fields = computed(() => this.error()?.fields ?? {});
  /** What is wrong beside the fields. */
  readonly message = computed(() => (this.error()?.fields ? '' : (this.error()?.message ?? '')));

  send<T = object>(method: 'post' | 'put', path: string, body: object, done: (answer: T) => void): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.error.set(undefined);
    this.http.request<T>(method, `/api${path}`, { body }).subscribe({
      next: (answer) => {
        this.busy.set(false);
        done(answer);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        this.error.set(asApiError(failure).error);
      },
    });
  }

  clear(): void {
    this.error.set(undefined);
  }
}
