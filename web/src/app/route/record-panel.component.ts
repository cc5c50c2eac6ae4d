import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Defect, RecordStep, StartStep, StepForm } from '@kalvet/core';
import {
  DEFAULT_ALLOY_ID,
  SKIPPED,
  alloyOf,
  castFromWax,
  kg as kilograms,
  kindOf,
  outcomeOf,
  say,
  spanInWords,
  waxDeviation,
  worstVerdict,
} from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Choices } from '../shared/choices.component';
import { WordsPipe } from '../shared/words.pipe';
import { Cautions } from '../shared/cautions.component';
import { Refusal } from '../shared/refusal.component';
import { Session } from '../shared/session.service';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { readingsAsked, startReadings } from './draft';
import { RecordDraft } from './record-draft';
import { Part } from './part.directive';
import type { Recording } from './parts';
import { STEP_PARTS } from './parts';
import { Readings } from './readings.component';
import { WhoWhen } from './who-when.component';

/** Steps shorter than this are recorded when they are done; longer ones can be begun. */
const WORTH_BEGINNING_MIN = 30;

/** The one panel that any step is recorded with, built from the definitions of its readings and outcomes. */
@Component({
  selector: 'kv-record-panel',
  imports: [FormsModule, ButtonModule, Choices, Cautions, Part, Refusal, Readings, WhoWhen, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './record-panel.component.html',
  styleUrl: './panel.css',
})
export class RecordPanel {
  protected readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  private readonly parts = inject(STEP_PARTS);
  protected readonly sending = new Submission();
  protected readonly given = new RecordDraft();
  readonly form = input.required<StepForm>();
  readonly done = output();
  readonly cancelled = output();
  readonly reload = output();

  protected readonly step = computed(() => this.form().step);
  protected readonly kind = computed(() => kindOf(this.step().kind));
  protected readonly outcomes = computed(() => [
    ...this.kind().outcomes.map(({ code, label }) => ({ code, label })),
    ...(this.session.mayPass('skip') ? [{ code: SKIPPED.code, label: 'Skip' }] : []),
  ]);
  protected readonly asked = computed(() =>
    readingsAsked(this.step().kind, this.given.outcome(), this.step().sequence),
  );
  private readonly chosen = computed(() => outcomeOf(this.kind(), this.given.outcome()));
  protected readonly asksWhy = computed(() => this.chosen()?.why === true);
  protected readonly open = computed(() => this.step().state === 'planned' || this.step().state === 'running');
  protected readonly mayBegin = computed(
    () => this.step().state === 'planned' && this.kind().minutes >= WORTH_BEGINNING_MIN,
  );
  protected readonly standing = computed(() => {
    const { waits, readyAt, tooOldAt } = this.step();
    const now = this.shop.now();
    if (waits.length > 0) return this.shop.waits(waits);
    if (readyAt && readyAt > now) return `Can be done from ${this.shop.when(readyAt)}`;
    if (tooOldAt && tooOldAt < now) return `Too old since ${this.shop.when(tooOldAt)}`;
    return tooOldAt ? `Ready; too old from ${this.shop.when(tooOldAt)}` : '';
  });
  /** How long it is planned for: by the size of the work, and by what the shop has logged of such work. */
  protected readonly effortSays = computed(() => {
    const { effort } = this.form();
    if (!effort) return '';
    const { planned, bySize, learned, isOwn } = effort;
    if (isOwn) return `Planned for ${spanInWords(planned)}, the shop’s own figure; by its size ${spanInWords(bySize)}.`;
    if (!learned) return `Planned for ${spanInWords(planned)}, by its size; none such is logged yet.`;
    const records = learned.n === 1 ? 'one record' : `${learned.n} records`;
    return `Planned for ${spanInWords(planned)}: by its size ${spanInWords(bySize)}, × ${learned.factor.toFixed(2)} from ${records} of the shop.`;
  });
  /** A loss costs weeks: what it does to the dates is shown before it is taken. */
  protected readonly loses = computed(() => this.chosen()?.effect === 'lost');
  private readonly at = computed<Recording>(() => ({
    kind: this.kind(),
    form: this.form(),
    draft: this.given.readings(),
    settings: this.shop.settings(),
    outcome: this.given.outcome(),
    loses: this.loses(),
  }));
  /** What the step's room shows under its fields. */
  protected readonly beside = computed(() => {
    const at = this.at();
    return this.parts.beside
      .filter(({ when }) => when(at))
      .map(({ component, inputs }) => ({ component, inputs: inputs(at) }));
  });
  /** What a typed wax means in bronze, while the wax can still be mended. */
  protected readonly waxSays = computed(() => {
    const kg = this.given.readings()['waxKg'];
    const planned = this.form().expectedWaxKg;
    if (this.kind().weighs !== 'wax' || typeof kg !== 'number' || !(kg > 0)) return '';
    const alloy = alloyOf(this.form().alloyId ?? DEFAULT_ALLOY_ID);
    const { waxDensity, ownFactor } = this.form();
    const bronze = kilograms(castFromWax(kg, alloy, waxDensity, ownFactor ?? undefined).value);
    if (!planned) return say`About ${bronze} bronze.`;
    const deviation = waxDeviation(
      kg,
      planned,
      alloy,
      this.shop.settings().waxBand,
      waxDensity,
      ownFactor ?? undefined,
    );
    return deviation.flagged ? say`${deviation.inWords}.` : say`About ${bronze} bronze, as planned.`;
  });

  constructor() {
    effect(() => {
      const form = this.form();
      untracked(() => this.start(form));
    });
  }

  /** Fills a new form; what was typed into one that is read again after a conflict stays. */
  private start(form: StepForm): void {
    if (this.given.outcome() !== '') return this.sending.reset();
    const { id, kind, typed, startedAt, state } = form.step;
    this.given.begin(kind, startReadings(form), { typed, startedAt });
    if (state === 'planned' || state === 'running') this.sending.keep(`step ${id}`, this.given.fields);
  }

  protected changed({ key, value }: { readonly key: string; readonly value: unknown }): void {
    // The verdict on the cast follows those on its defects.
    if (key === 'defects') this.given.outcome.set(worstVerdict(value as Defect[]));
  }

  protected record(override = false): void {
    const { id, kind, version, name, on } = this.step();
    const body: RecordStep = { version, ...this.given.said(kind) };
    this.sending.send(`/steps/${id}/record`, body, () => this.done.emit(), {
      override,
      said: `${name} recorded, ${on}`,
    });
  }

  protected begin(override = false): void {
    const { id, version, kind, name, on } = this.step();
    const body: StartStep = {
      version,
      startedAt: this.shop.instantOf(this.given.endedAt()),
      readings: this.given.said(kind).readings,
    };
    this.beginning = true;
    this.sending.send(`/steps/${id}/start`, body, () => this.done.emit(), {
      override,
      said: `${name} begun, ${on}`,
    });
  }

  private beginning = false;

  protected override(): void {
    if (this.beginning) this.begin(true);
    else this.record(true);
  }

  protected submit(): void {
    this.beginning = false;
    this.record();
  }
}
