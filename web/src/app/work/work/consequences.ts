import { inject, signal } from '@angular/core';
import type { Consequences } from '@kalvet/core';
import { Api, asApiError } from '../../shared/api.service';
import { newKey } from '../../shared/ids';
import { Submission } from '../../shared/submission';

/**
 * A change that is shown before it is made: first what it would do, and where it does anything, only a second press makes
 * it. What is typed meanwhile is asked about anew.
 */
export class CarefulChange {
  private readonly api = inject(Api);
  readonly sending = new Submission();
  /** What the change would do; undefined until it was asked. */
  readonly lines = signal<readonly string[] | undefined>(undefined);
  readonly asking = signal(false);
  private asked = '';

  /** @param path the address of what is changed; `/consequences` behind it says what a change would do */
  save(path: string, body: object, done: () => void, said: string): void {
    const text = JSON.stringify(body);
    if (this.lines() !== undefined && this.asked === text) return this.send(path, body, done, said);
    this.asking.set(true);
    this.api.post<Consequences>(`${path}/consequences`, body, newKey()).subscribe({
      next: ({ lines }) => {
        this.asking.set(false);
        this.asked = text;
        this.lines.set(lines);
        if (lines.length === 0) this.send(path, body, done, said);
      },
      error: (failure: unknown) => {
        this.asking.set(false);
        this.sending.error.set(asApiError(failure));
      },
    });
  }

  private send(path: string, body: object, done: () => void, said: string): void {
    this.sending.send(path, body, done, { method: 'put', said });
  }
}
