import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import type { StepForm } from '@kalvet/core';
import { MAY_ANSWER, MAY_DO, ROOM_NAMES, kindOf, whoMay } from '@kalvet/core';
import { Api, asApiError } from '../shared/api.service';
import { Files } from '../files/files.component';
import { Leaving } from '../shared/leaving.component';
import { May } from '../shared/may.directive';
import { Opened } from '../shared/opened.directive';
import { Session } from '../shared/session.service';
import { Part } from './part.directive';
import { STEP_PARTS } from './parts';
import { RecordPanel } from './record-panel.component';
import { StepPin } from './step-pin.component';

/** Opens the panel that a step is recorded with: by itself, with its kiln load, or with its heat. */
@Component({
  selector: 'kv-step-panel',
  imports: [Files, Leaving, May, Part, RecordPanel, StepPin],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [Opened],
  template: `
    <kv-leaving />
    @if (form(); as form) {
      @if (!may()) {
        <h2>{{ form.step.name }}</h2>
        <p class="kv-soft">{{ form.step.on }}</p>
        <p role="status">{{ whoMay() }}</p>
        <button type="button" class="kv-link" (click)="cancelled.emit()">Close</button>
      } @else if (form.step.through; as through) {
        <ng-container [kvPart]="parts.panels[through]" [inputs]="{ form }" [outputs]="tell" />
      } @else {
        <kv-record-panel [form]="form" (done)="done.emit()" (cancelled)="cancelled.emit()" (reload)="read()" />
      }
      <kv-files
        class="kv-no-print"
        subject="step"
        [subjectId]="form.step.id"
        [label]="form.step.name"
        [shownMost]="4" />
      <kv-step-pin *kvMay="'pin step'; room: kind()!.room" [step]="form.step" (saved)="read()" />
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
  private readonly session = inject(Session);
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
  protected readonly kind = computed(() => {
    const form = this.form();
    return form && kindOf(form.step.kind);
  });
  /** Whether whoever is signed in records this step. */
  protected readonly may = computed(() => {
    const kind = this.kind();
    return kind !== undefined && this.session.whoElse(kind.code) === '';
  });
  protected readonly whoMay = computed(() => {
    const kind = this.kind();
    if (!kind) return '';
    const room = ROOM_NAMES[kind.room].toLowerCase();
    if (kind.through === 'heat') return `Heats are planned and poured by ${whoMay(MAY_DO['pour'])}.`;
    if (!this.session.may('record step', kind.room)) return `This is recorded by who works in the ${room} room.`;
    return `The ${kind.answeredFor} is answered for by ${whoMay(MAY_ANSWER[kind.answeredFor!])}, or whoever it was given to by name.`;
  });

  constructor() {
    inject(Opened).left.subscribe(() => this.cancelled.emit());
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
