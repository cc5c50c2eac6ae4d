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
import { FormsModule } from '@angular/forms';
import type { DayLine, RecordMany as Tray, StepForm } from '@kalvet/core';
import { kindOf, outcomeOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectButtonModule } from 'primeng/selectbutton';
import { TextareaModule } from 'primeng/textarea';
import { readingsAsked, startReadings } from './draft';
import { RecordDraft } from './record-draft';
import { ReadingField } from './reading-field.component';
import { WhoWhen } from './who-when.component';
import { Api, asApiError } from '../shared/api.service';
import { Cautions } from '../shared/cautions.component';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** What is read of each by itself cannot be said of all at once. */
const OF_EACH = new Set(['mould', 'casts', 'perCast', 'bars']);

/** Records several steps of one kind with the same readings: all of them or none. */
@Component({
  selector: 'kv-record-many',
  imports: [
    Field,
    FormsModule,
    ButtonModule,
    SelectButtonModule,
    TextareaModule,
    Cautions,
    ReadingField,
    Refusal,
    WhoWhen,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="send()" autocomplete="off">
      <h2>{{ lines().length }} × {{ kind().name }}</h2>
      <ul>
        @for (line of lines(); track line.stepId) {
          <li>
            {{ line.on }} <span class="kv-soft">{{ line.name }}</span>
          </li>
        }
      </ul>
      <kv-cautions [kind]="lines()[0]!.kind" />
      @if (alone()) {
        <p class="standing">
          {{ kind().name }} has readings that differ from one to the next ({{ alone() }}): record each by itself.
        </p>
      } @else if (form(); as form) {
        @if (kind().outcomes.length > 1) {
          <p-selectbutton
            [options]="outcomes()"
            optionLabel="label"
            optionValue="code"
            [ngModel]="given.outcome()"
            (ngModelChange)="given.outcome.set($event)"
            name="outcome"
            [allowEmpty]="false"
            ariaLabel="How did it go?" />
        }
        <div class="fields">
          @for (def of asked(); track def.key) {
            <kv-reading-field
              [def]="def"
              [form]="form"
              [value]="given.readings()[def.key]"
              [typed]="given.typed()[def.key]"
              (typedChange)="given.setTyped(def.key, $event)"
              (valueChange)="given.set(def.key, $event)"
              [wrong]="sending.fields()['readings.' + def.key]" />
          }
        </div>
        <kv-who-when
          [(endedAt)]="given.endedAt"
          [(startedAt)]="given.startedAt"
          [(by)]="given.by"
          [wrong]="sending.fields()" />
        <kv-field [label]="asksWhy() ? 'Why' : 'Note (if any)'" for="many-note" [error]="sending.fields()['note']">
          <textarea
            pTextarea
            id="many-note"
            name="note"
            rows="2"
            [ngModel]="given.note()"
            (ngModelChange)="given.note.set($event)"
            maxlength="1000"></textarea>
        </kv-field>
        <kv-refusal [submission]="sending" (override)="send(true)" (reload)="cancelled.emit()" />
        <div class="actions">
          <button pButton type="submit" data-test="record-many" [loading]="sending.busy()">
            Record all {{ lines().length }}
          </button>
          <button pButton type="button" severity="secondary" [text]="true" (click)="cancelled.emit()">Not now</button>
        </div>
      } @else if (wrong()) {
        <p class="kv-alert" role="alert">{{ wrong() }}</p>
      }
    </form>
  `,
  styleUrl: './panel.css',
  styles: `
    ul {
      margin: 4px 0 8px;
      max-height: 150px;
      overflow: auto;
    }
  `,
})
export class RecordMany {
  private readonly api = inject(Api);
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly given = new RecordDraft();
  readonly lines = input.required<readonly Pick<DayLine, 'stepId' | 'version' | 'kind' | 'name' | 'on'>[]>();
  readonly done = output();
  readonly cancelled = output();

  protected readonly form = signal<StepForm | undefined>(undefined);
  protected readonly wrong = signal('');

  protected readonly kind = computed(() => kindOf(this.lines()[0]!.kind));
  protected readonly outcomes = computed(() => this.kind().outcomes.map(({ code, label }) => ({ code, label })));
  protected readonly asked = computed(() => readingsAsked(this.lines()[0]!.kind, this.given.outcome()));
  protected readonly alone = computed(() =>
    this.kind()
      .readings.filter(({ kind, required, unit }) => required && (OF_EACH.has(kind) || unit === 'kg'))
      .map(({ label }) => label.toLowerCase())
      .join(', '),
  );
  protected readonly asksWhy = computed(() => outcomeOf(this.kind(), this.given.outcome())?.why === true);

  constructor() {
    const first = computed(() => this.lines()[0]?.stepId);
    effect(() => {
      const id = first();
      untracked(() => id && this.read(id));
    });
  }

  private read(id: string): void {
    // A tray that loses a line keeps what was said of the others.
    const fresh = this.given.outcome() === '';
    if (fresh) this.given.begin(this.kind().code, {});
    this.api.get<StepForm>(`/steps/${id}/form`).subscribe({
      next: (form) => {
        if (fresh) {
          this.given.readings.set(startReadings(form));
          this.sending.keep(`steps ${this.kind().code}`, this.given.fields);
        }
        this.form.set(form);
      },
      error: (failure: unknown) => this.wrong.set(asApiError(failure).message),
    });
  }

  protected send(override = false): void {
    const lines = this.lines();
    const body: Tray = {
      steps: lines.map(({ stepId, version }) => ({ id: stepId, version })),
      ...this.given.said(lines[0]!.kind),
    };
    this.sending.send('/records', body, () => this.done.emit(), {
      override,
      said: `${lines.length} × ${this.kind().name} recorded`,
    });
  }
}
