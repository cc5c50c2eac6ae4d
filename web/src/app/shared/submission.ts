import { computed, inject, signal } from '@angular/core';
import type { EventAnswer, Override } from '@kalvet/core';
import { MessageService } from 'primeng/api';
import type { Observable } from 'rxjs';
import { Api, ApiError, asApiError } from './api.service';
import { newKey } from './ids';
import { Live } from './live.service';
import { ShopService } from './shop.service';

/**
 * A form on its way to the server: its key, whether it is being sent, and what came back. What was typed stays in the form
 * whatever happens; the same contents sent twice are written once.
 */
export class Submission {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly shop = inject(ShopService);
  private readonly toast = inject(MessageService);
  private key = newKey();
  private sent = '';

  readonly busy = signal(false);
  readonly error = signal<ApiError | undefined>(undefined);
  readonly reason = signal('');

  readonly fields = computed(() => this.error()?.fields ?? {});
  readonly refusals = computed(() => this.error()?.error.refusals ?? []);
  readonly stale = computed(() => this.error()?.error.code === 'stale');
  /** Every rule that stands in the way may be passed by whoever works here. */
  readonly mayOverride = computed(
    () => this.refusals().length > 0 && this.refusals().every((refusal) => refusal.mayOverride),
  );
  readonly personMay = computed(() => this.shop.person()?.mayOverride ?? false);

  /** Sends, and calls back with the answer. Asked again while it is under way, it does nothing. */
  send<T>(
    path: string,
    body: object,
    done: (answer: T & EventAnswer) => void,
    { override = false, method = 'post' as 'post' | 'put' | 'patch', said = '' } = {},
  ): void {
    if (this.busy()) return;
    const whole = override ? { ...body, override: this.overrides() } : body;
    // Another content is another record: it gets a key of its own.
    const text = JSON.stringify([method, path, whole]);
    if (this.sent !== '' && this.sent !== text) this.key = newKey();
    this.sent = text;
    this.busy.set(true);
    const request: Observable<T & EventAnswer> = this.api[method]<T>(path, whole, this.key);
    request.subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.reset();
        if (said)
          this.toast.add({
            severity: 'success',
            summary: said,
            detail: (answer.flags ?? []).join(' · '),
            life: 4000,
          });
        this.live.wrote();
        done(answer);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        this.error.set(asApiError(failure));
      },
    });
  }

  /** A new form: nothing sent, nothing said. */
  reset(): void {
    this.key = newKey();
    this.sent = '';
    this.error.set(undefined);
    this.reason.set('');
  }

  private overrides(): Override[] {
    return this.refusals().map(({ rule }) => ({ rule, reason: this.reason().trim() }));
  }
}
