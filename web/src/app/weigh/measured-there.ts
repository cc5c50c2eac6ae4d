import { computed, inject, signal } from '@angular/core';
import type { AskModelJob, ModelJob } from '@kalvet/core';
import { Subject, switchMap, takeUntil, takeWhile, tap, timer } from 'rxjs';
import { Api, asApiError } from '../shared/api.service';

/** How often it is asked how far the server is. */
const ASK_MS = 1500;

/** A model that the server measures in this browser's place: asked for, followed, stopped. To be made where a component is. */
export class MeasuredThere {
  private readonly api = inject(Api);
  private readonly over = new Subject<void>();
  readonly job = signal<ModelJob | null>(null);
  readonly pictures = computed(() => this.job()?.answer?.pictures ?? []);

  /** @param heard what the server says each time, and last what came of it or why nothing did */
  ask(body: AskModelJob, heard: (job: Pick<ModelJob, 'answer' | 'error'>) => void): void {
    this.over.next();
    this.api
      .ask<ModelJob>('/models/jobs', body)
      .pipe(
        tap((job) => this.job.set(job)),
        switchMap(({ id }) =>
          timer(ASK_MS, ASK_MS).pipe(switchMap(() => this.api.get<ModelJob>(`/models/jobs/${id}`))),
        ),
        takeWhile(({ state }) => state === 'waiting' || state === 'running', true),
        takeUntil(this.over),
      )
      .subscribe({
        next: (job) => {
          this.job.set(job);
          heard(job);
        },
        error: (failure: unknown) => heard({ answer: null, error: asApiError(failure).message }),
      });
  }

  stop(): void {
    const job = this.job();
    if (job) this.api.ask<ModelJob>(`/models/jobs/${job.id}/stop`, {}).subscribe((stopped) => this.job.set(stopped));
  }

  end(): void {
    this.over.next();
  }
}
