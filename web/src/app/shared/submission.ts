import { computed, inject, signal } from '@angular/core';
import type { EventAnswer, Override } from '@kalvet/core';
import type { Observable } from 'rxjs';
import { Api, ApiError, asApiError } from './api.service';
import { newKey } from './ids';
import { KeptDraft } from './kept-draft';
import { Live } from './live.service';
import { SaidLine } from './said.service';
import { Session } from './session.service';
import { ShopService } from './shop.service';

/**
 * A form on its way to the server: its key, whether it is being sent, and what came back. What was typed stays in the form
 * whatever happens; the same contents sent twice are written once.
 */
export class Submission {
  private readonly api = inject(Api);
  private readonly live = inject(Live);
  private readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  private readonly line = inject(SaidLine);
  private key = newKey();
  private sent = '';

  /** What is typed, kept in this browser until it is recorded; only of forms that say so by `keep`. */
  readonly draft = new KeptDraft();
  readonly busy = signal(false);
  readonly error = signal<ApiError | undefined>(undefined);
  readonly reason = signal('');

  /** What is wrong with which field, in the reader's units. */
  readonly fields = computed<Readonly<Record<string, string>>>(() => {
    const { fields = {}, saysOf = {} } = this.error()?.error ?? {};
    return Object.fromEntries(
      Object.entries(fields).map(([field, text]) => [field, saysOf[field] ? this.shop.words(saysOf[field]) : text]),
    );
  });
  readonly refusals = computed(() =>
    (this.error()?.error.refusals ?? []).map(({ says, message, ...refusal }) => ({
      ...refusal,
      message: says === undefined ? message : this.shop.words(says),
    })),
  );
  readonly stale = computed(() => this.error()?.error.code === 'stale');
  /** Every rule that stands in the way may be passed by whoever works here. */
  readonly mayOverride = computed(
    () => this.refusals().length > 0 && this.refusals().every((refusal) => refusal.mayOverride),
  );
  /** Nothing stands in the way but a question about an unlikely reading. */
  readonly onlyAsks = computed(
    () => this.refusals().length > 0 && this.refusals().every(({ asks }) => asks !== undefined),
  );
  readonly personMay = computed(() => this.refusals().every(({ rule }) => this.session.mayPass(rule)));

  /** Sends, and calls back with the answer. Asked again while it is under way, it does nothing. */
  send<T>(
    path: string,
    body: object,
    done: (answer: T & EventAnswer) => void,
    { override = false, method = 'post' as 'post' | 'put' | 'patch', said = '' } = {},
  ): void {
    if (this.busy()) return;
    const unread = unreadIn(body);
    if (unread.length > 0) {
      this.error.set(unreadable(unread));
      return;
    }
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
        this.draft.drop();
        if (said) this.line.say(said, answer);
        this.live.wrote();
        done(answer);
      },
      error: (failure: unknown) => {
        this.busy.set(false);
        this.error.set(asApiError(failure));
      },
    });
  }

  /** Says what is wrong before anything is sent, by field. */
  refuse(message: string, fields: Readonly<Record<string, string>>): void {
    this.error.set(new ApiError({ code: 'invalid', message, fields }));
  }

  /** Keeps what is typed into these fields from now on, and brings back what was left of the form of this name. */
  keep(name: string, fields: Record<string, unknown>): void {
    this.draft.open(name, fields);
  }

  /** A new form: nothing sent, nothing said. */
  reset(): void {
    this.key = newKey();
    this.sent = '';
    this.error.set(undefined);
    this.reason.set('');
  }

  private overrides(): Override[] {
    const rules = new Map(
      this.refusals().map(({ rule, asks }) => [rule, asks ? 'asked and confirmed' : this.reason().trim()]),
    );
    return [...rules].map(([rule, reason]) => ({ rule, reason }));
  }
}

/** Where a number stands that could not be read: the paths that the server would name. */
function unreadIn(body: unknown, path = ''): string[] {
  if (typeof body === 'number') return Number.isNaN(body) ? [path] : [];
  if (typeof body !== 'object' || body === null) return [];
  return Object.entries(body).flatMap(([key, value]) => unreadIn(value, path ? `${path}.${key}` : key));
}

const unreadable = (paths: readonly string[]): ApiError =>
  new ApiError({
    code: 'invalid',
    message: 'Some of it cannot be read as a number.',
    fields: Object.fromEntries(
      paths.map((path) => [path, 'cannot be read as a number: 2,43 or 2.43, or with its unit, such as 5 lb 6 oz']),
    ),
  });
