import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { HeatAnswer, StepForm } from '@kalvet/core';
import type { PourTree } from '@kalvet/core';
import { kindOf, outcomeOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectButtonModule } from 'primeng/selectbutton';
import { TextareaModule } from 'primeng/textarea';
import { readingsAsked } from '../route/draft';
import { RecordDraft } from '../route/record-draft';
import { ReadingField } from '../route/reading-field.component';
import { WhoWhen } from '../route/who-when.component';
import { Field } from '../shared/field.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Records how one tree of a heat was poured. */
@Component({
  selector: 'kv-heat-pour',
  imports: [Field, FormsModule, ButtonModule, SelectButtonModule, TextareaModule, ReadingField, Refusal, WhoWhen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="record()" autocomplete="off">
      <fieldset>
        <legend>{{ label() }}</legend>
        <div class="kv-field">
          <span class="kv-label" id="pour-outcome">How did it go?</span>
          <p-selectbutton
            [options]="outcomes()"
            optionLabel="label"
            optionValue="code"
            [ngModel]="given.outcome()"
            (ngModelChange)="given.outcome.set($event)"
            name="outcome"
            [allowEmpty]="false"
            ariaLabelledBy="pour-outcome" />
        </div>
        @if (flows()) {
          <div class="watch">
            @if (beganAt() === null) {
              <button pButton type="button" size="small" severity="contrast" data-test="metal-flows" (click)="flow()">
                Metal flows
              </button>
              <span class="kv-soft">counts the seconds until the vents show metal</span>
            } @else {
              <button pButton type="button" size="small" severity="danger" data-test="full" (click)="full()">
                Full
              </button>
              <b role="timer">{{ running() }} s</b>
            }
          </div>
        }
        <div class="fields">
          @for (def of asked(); track def.key) {
            <kv-reading-field
              [def]="def"
              [form]="form()"
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
        <kv-field [label]="chosen()?.why ? 'Why' : 'Note (if any)'" for="pour-note" [error]="sending.fields()['note']">
          <textarea
            pTextarea
            id="pour-note"
            name="note"
            rows="2"
            [ngModel]="given.note()"
            (ngModelChange)="given.note.set($event)"
            maxlength="1000"></textarea>
        </kv-field>
        <kv-refusal [submission]="sending" (override)="record(true)" (reload)="done.emit()" />
        <button pButton type="submit" data-test="record" [loading]="sending.busy()">Record this pour</button>
      </fieldset>
    </form>
  `,
  styleUrl: '../route/panel.css',
  styles: `
    .watch {
      display: flex;
      gap: 12px;
      align-items: center;
      margin-bottom: 10px;
    }
  `,
})
export class HeatPour {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  protected readonly given = new RecordDraft();
  readonly form = input.required<StepForm>();
  readonly heat = input.required<HeatAnswer>();
  readonly treeId = input.required<string>();
  readonly label = input.required<string>();
  readonly plannedKg = input.required<number>();
  readonly done = output();

  private readonly kind = computed(() => kindOf(this.form().step.kind));
  protected readonly outcomes = computed(() => this.kind().outcomes.map(({ code, label }) => ({ code, label })));
  protected readonly chosen = computed(() => outcomeOf(this.kind(), this.given.outcome()));
  protected readonly asked = computed(() => readingsAsked(this.form().step.kind, this.given.outcome()));
  /** Metal ran: its seconds can be counted. */
  protected readonly flows = computed(() => this.asked().some(({ key }) => key === 'seconds'));

  constructor() {
    inject(DestroyRef).onDestroy(() => clearInterval(this.ticking));
    // Each tree starts with a fresh form; its pour weight stands as the first guess.
    effect(() => {
      this.treeId();
      const plannedKg = this.plannedKg();
      untracked(() => {
        const start = Object.fromEntries(
          this.kind()
            .readings.filter((def) => def.start !== undefined)
            .map((def) => [def.key, def.start]),
        );
        this.given.begin(this.form().step.kind, { ...start, pouredKg: Math.round(plannedKg * 10) / 10 });
        this.sending.keep(`pour ${this.heat().id} ${this.treeId()}`, this.given.fields);
      });
    });
  }

  /** The stopwatch: when metal began to flow, and how long it has flowed. */
  protected readonly beganAt = signal<number | null>(null);
  protected readonly running = signal(0);
  private ticking: ReturnType<typeof setInterval> | undefined;

  protected flow(): void {
    const began = performance.now();
    this.beganAt.set(began);
    this.running.set(0);
    this.ticking = setInterval(() => this.running.set(Math.round((performance.now() - began) / 100) / 10), 100);
  }

  protected full(): void {
    clearInterval(this.ticking);
    this.given.set('seconds', Math.max(0.5, Math.round((performance.now() - this.beganAt()!) / 100) / 10));
    this.given.endedAt.set(this.shop.pickerNow());
    this.beganAt.set(null);
  }

  protected record(override = false): void {
    const { id, version } = this.heat();
    const body: PourTree = {
      version,
      treeId: this.treeId(),
      ...this.given.said(this.form().step.kind),
    };
    this.sending.send(`/heats/${id}/pour`, body, () => this.done.emit(), {
      override,
      said: `${this.label()}: ${this.given.outcome()}`,
    });
  }
}
