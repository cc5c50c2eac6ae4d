import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { StepForm } from '@kalvet/core';
import { Api, asApiError } from '../shared/api.service';
import { HeatPanel } from '../pour/heat-panel.component';
import { LoadPanel } from '../burnout/load-panel.component';
import { RecordPanel } from './record-panel.component';
import { StepPin } from './step-pin.component';

/** Opens the panel that a step is recorded with: by itself, with its kiln load, or with its heat. */
@Component({
  selector: 'kv-step-panel',
  imports: [RecordPanel, LoadPanel, HeatPanel, StepPin],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form(); as form) {
      @switch (form.step.through) {
        @case ('load') {
          <kv-load-panel [form]="form" (done)="done.emit()" (cancelled)="cancelled.emit()" (reload)="read()" />
        }
        @case ('heat') {
          <kv-heat-panel [form]="form" (done)="done.emit()" (cancelled)="cancelled.emit()" (reload)="read()" />
        }
        @default {
          <kv-record-panel [form]="form" (done)="done.emit()" (cancelled)="cancelled.emit()" (reload)="read()" />
        }
      }
      <kv-step-pin [step]="form.step" (saved)="read()" />
    } @else if (wrong()) {
      <p class="kv-alert" role="alert">{{ wrong() }}</p>
      <button type="button" class="kv-link" (click)="read()">Try again</button>
    } @else {
      <p class="kv-soft" role="status">Reading …</p>
    }
  `,
})
export class StepPanel {
  private readonly api = inject(Api);
  readonly stepId = input.required<string>();
  readonly done = output();
  readonly cancelled = output();
  protected readonly form = signal<StepForm | undefined>(undefined);
  protected readonly wrong = signal('');

  constructor() {
    effect(() => {
      this.stepId();
      untracked(() => {
        this.form.set(undefined);
        this.read();
      });
    });
  }

  protected read(): void {
    const id = this.stepId();
    this.wrong.set('');
    this.api.get<StepForm>(`/steps/${id}/form`).subscribe({
      next: (form) => {
        if (this.stepId() === id) this.form.set(form);
      },
      error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
    });
  }
}
