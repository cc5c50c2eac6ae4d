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
import type { Expectation, HeatAnswer, StepForm } from '@kalvet/core';
import type { PourTree } from '@kalvet/core';
import { around, kg as kilograms, kindOf, outcomeOf, say } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { readingsAsked } from '../route/draft';
import { RecordDraft } from '../route/record-draft';
import { Readings } from '../route/readings.component';
import { WhoWhen } from '../route/who-when.component';
import { Choices } from '../shared/choices.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Records how one tree of a heat was poured. */
@Component({
  selector: 'kv-heat-pour',
  imports: [FormsModule, ButtonModule, Choices, Readings, Refusal, WhoWhen],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="record()" autocomplete="off">
      <fieldset>
        <legend>{{ label() }}</legend>
        <div class="kv-field">
          <span class="kv-label" id="pour-outcome">How did it go?</span>
          <kv-choices
            [options]="outcomes()"
            [value]="given.outcome()"
            (valueChange)="given.choose(form().step.kind, $event)"
            [rows]="outcomes().length > 2"
            labelledBy="pour-outcome" />
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
        <kv-readings [asked]="asked()" [form]="tree()" [given]="given" [wrong]="sending.fields()" />
        <kv-who-when [given]="given" [wrong]="sending.fields()" noteId="pour-note" [asksWhy]="chosen()?.why === true" />
        <kv-refusal
          [submission]="sending"
          (override)="record(true)"
          (instead)="given.mend($event.field, $event.value)"
          (reload)="done.emit()" />
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
  /** The form as this tree wants it: its own pour weight is offered, and what is near it is likely. */
  protected readonly tree = computed<StepForm>(() => {
    const plannedKg = this.plannedKg();
    const from = say`${kilograms(plannedKg)} is planned`;
    const others = this.form().expects.filter(({ key }) => key !== 'pouredKg');
    return {
      ...this.form(),
      ghosts: { ...this.form().ghosts, pouredKg: { value: Math.round(plannedKg * 10) / 10, from: 'planned' } },
      expects: [...others, { key: 'pouredKg', ...around(plannedKg), outcomes: ['poured'], from }, ...this.left()],
    };
  });
  /** No more can be poured than is left of what was charged. */
  private readonly left = computed((): Expectation[] => {
    const { chargeLines, pourings } = this.heat();
    const charged = chargeLines.reduce((sum, { kg }) => sum + kg, 0);
    const high = charged - pourings.reduce((sum, { pouredKg }) => sum + (pouredKg ?? 0), 0);
    if (charged <= 0 || high >= this.plannedKg() * 3) return [];
    return [
      { key: 'pouredKg', high, from: say`of ${kilograms(charged)} charged ${kilograms(Math.max(0, high))} are left` },
    ];
  });
  /** Metal ran: its seconds can be counted. */
  protected readonly flows = computed(() => this.asked().some(({ key }) => key === 'seconds'));

  constructor() {
    inject(DestroyRef).onDestroy(() => clearInterval(this.ticking));
    // Each tree starts with a fresh form; its pour weight is offered, and taken over where nobody weighed.
    effect(() => {
      this.treeId();
      untracked(() => {
        this.given.begin(this.form().step.kind, this.form().starts);
        this.beganAt.set(null);
        this.sending.keep(`pour ${this.heat().id} ${this.treeId()}`, { ...this.given.fields, beganAt: this.beganAt });
        this.count();
      });
    });
  }

  /** The stopwatch: when metal began to flow, and how long it has flowed. */
  protected readonly beganAt = signal<number | null>(null);
  protected readonly running = signal(0);
  private ticking: ReturnType<typeof setInterval> | undefined;

  protected flow(): void {
    this.beganAt.set(Date.now());
    this.count();
  }

  /** Goes on counting from when metal began to flow, also in a panel that was closed meanwhile. */
  private count(): void {
    clearInterval(this.ticking);
    const began = this.beganAt();
    if (began === null) return;
    const tick = () => this.running.set(Math.round((Date.now() - began) / 100) / 10);
    tick();
    this.ticking = setInterval(tick, 100);
  }

  protected full(): void {
    clearInterval(this.ticking);
    this.given.set('seconds', Math.max(0.5, Math.round((Date.now() - this.beganAt()!) / 100) / 10));
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
