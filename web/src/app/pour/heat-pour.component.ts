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
import { STEP_KINDS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectButtonModule } from 'primeng/selectbutton';
import { TextareaModule } from 'primeng/textarea';
import { readingsAsked, saidReadings } from '../route/draft';
import { ReadingField } from '../route/reading-field.component';
import { WhoWhen } from '../route/who-when.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Records how one tree of a heat was poured. */
@Component({
  selector: 'kv-heat-pour',
  imports: [FormsModule, ButtonModule, SelectButtonModule, TextareaModule, ReadingField, Refusal, WhoWhen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="record()" autocomplete="off">
      <fieldset>
        <legend>{{ label() }}</legend>
        <div class="kv-field">
          <span class="kv-label" id="pour-outcome">How did it go?</span>
          <p-selectbutton
            [options]="outcomes"
            optionLabel="label"
            optionValue="code"
            [ngModel]="outcome()"
            (ngModelChange)="outcome.set($event)"
            name="outcome"
            [allowEmpty]="false"
            ariaLabelledBy="pour-outcome" />
        </div>
        @if (outcome() === 'poured' || outcome() === 'short') {
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
              [value]="draft()[def.key]"
              (valueChange)="set(def.key, $event)"
              [wrong]="sending.fields()['readings.' + def.key]" />
          }
        </div>
        <kv-who-when [(endedAt)]="endedAt" [(startedAt)]="startedAt" [(by)]="by" [wrong]="sending.fields()" />
        <div class="kv-field">
          <label for="pour-note">{{ outcome() === 'poured' ? 'Note (if any)' : 'Why' }}</label>
          <textarea
            pTextarea
            id="pour-note"
            name="note"
            rows="2"
            [ngModel]="note()"
            (ngModelChange)="note.set($event)"
            maxlength="1000"></textarea>
          @if (sending.fields()['note']; as text) {
            <span class="kv-wrong" role="alert">{{ text }}</span>
          }
        </div>
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
  readonly form = input.required<StepForm>();
  readonly heat = input.required<HeatAnswer>();
  readonly treeId = input.required<string>();
  readonly label = input.required<string>();
  readonly plannedKg = input.required<number>();
  readonly done = output();

  protected readonly outcomes = STEP_KINDS.pour.outcomes.map(({ code, label }) => ({ code, label }));
  protected readonly outcome = signal('poured');
  protected readonly draft = signal<Record<string, unknown>>({});
  protected readonly endedAt = signal(new Date());
  protected readonly startedAt = signal<Date | null>(null);
  protected readonly by = signal<string[]>([]);
  protected readonly note = signal('');
  protected readonly asked = computed(() => readingsAsked('pour', this.outcome()));

  constructor() {
    inject(DestroyRef).onDestroy(() => clearInterval(this.ticking));
    // Each tree starts with a fresh form; its pour weight stands as the first guess.
    effect(() => {
      this.treeId();
      const plannedKg = this.plannedKg();
      untracked(() => {
        const start = Object.fromEntries(
          STEP_KINDS.pour.readings.filter((def) => def.start !== undefined).map((def) => [def.key, def.start]),
        );
        this.draft.set({ ...start, pouredKg: Math.round(plannedKg * 10) / 10 });
        this.outcome.set('poured');
        this.note.set('');
        this.endedAt.set(this.shop.pickerNow());
        const person = this.shop.person();
        this.by.set(person ? [person.id] : []);
      });
    });
  }

  /** The stopwatch: when metal began to flow, and how long it has flowed. */
  protected readonly beganAt = signal<number | null>(null);
  protected readonly running = signal(0);
  private ticking: ReturnType<typeof setInterval> | undefined;

  protected flow(): void {
    const began = Date.now();
    this.beganAt.set(began);
    this.running.set(0);
    this.ticking = setInterval(() => this.running.set(Math.round((Date.now() - began) / 100) / 10), 100);
  }

  protected full(): void {
    clearInterval(this.ticking);
    this.set('seconds', Math.max(0.5, Math.round((Date.now() - this.beganAt()!) / 100) / 10));
    this.endedAt.set(this.shop.pickerNow());
    this.beganAt.set(null);
  }

  protected set(key: string, value: unknown): void {
    this.draft.update((draft) => ({ ...draft, [key]: value }));
  }

  protected record(override = false): void {
    const { id, version } = this.heat();
    const started = this.startedAt();
    const body = {
      version,
      treeId: this.treeId(),
      outcome: this.outcome(),
      startedAt: started ? this.shop.instantOf(started) : null,
      endedAt: this.shop.instantOf(this.endedAt()),
      by: this.by(),
      readings: saidReadings('pour', this.outcome(), this.draft()),
      note: this.note().trim(),
    };
    this.sending.send(`/heats/${id}/pour`, body, () => this.done.emit(), {
      override,
      said: `${this.label()}: ${this.outcome()}`,
    });
  }
}
