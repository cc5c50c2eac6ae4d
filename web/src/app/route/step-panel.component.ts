import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import type { StepForm } from '@kalvet/core';
import { Api, asApiError } from '../shared/api.service';
import { Part } from './part.directive';
import { STEP_PARTS } from './parts';
import { RecordPanel } from './record-panel.component';
import { StepPin } from './step-pin.component';

/** Opens the panel that a step is recorded with: by itself, with its kiln load, or with its heat. */
@Component({
  selector: 'kv-step-panel',
  imports: [Part, RecordPanel, StepPin],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (form(); as form) {
      @if (form.step.through; as through) {
        <ng-container [kvPart]="parts.panels[through]" [inputs]="{ form }" [outputs]="tell" />
      } @else {
        <kv-record-panel [form]="form" (done)="done.emit()" (cancelled)="cancelled.emit()" (reload)="read()" />
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
  protected readonly parts = inject(STEP_PARTS);
  protected readonly tell = {
    done: () => this.done.emit(),
    cancelled: () => this.cancelled.emit(),
    reload: () => this.read(),
  };
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
