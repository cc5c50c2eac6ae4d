import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { FinishHeat, HeatAnswer, InstrumentsAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Api } from '../shared/api.service';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { AmountPipe } from '../shared/words.pipe';

/** Ends a heat: what was left is pigged and counts as returns. */
@Component({
  selector: 'kv-heat-end',
  imports: [AmountPipe, FormsModule, ButtonModule, Field, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="finish()">
      <fieldset>
        <legend>The heat is over</legend>
        <kv-field
          label="Pigged"
          unit="kg"
          for="pig"
          [error]="missing() ? 'is missing: 0 where nothing was left' : sending.fields()['pigKg']">
          <kv-quantity inputId="pig" unit="kg" [decimals]="1" [(value)]="pigKg" (typedChange)="typed.set($event)" />
        </kv-field>
        <kv-field
          [label]="meter()"
          for="energy"
          optional
          hint="since the furnace was lit; it teaches how long the next melt takes"
          [error]="sending.fields()['energyKwh']">
          <kv-quantity inputId="energy" unit="" [decimals]="1" [(value)]="counted" />
        </kv-field>
        @if (offered() !== null && counted() === null) {
          <p>
            <button type="button" class="kv-link" data-test="take-meter" (click)="counted.set(offered())">
              {{ offered() }} by the meter: take it over
            </button>
          </p>
        }
        @if (energyKwh() !== null && meterKwh() !== 1) {
          <p class="kv-soft">= {{ energyKwh()! | amount: 'kWh' : 0 }}</p>
        }
        <kv-refusal [submission]="sending" (override)="finish(true)" />
        <button pButton type="submit" data-test="finish-heat" [disabled]="sending.busy()">End the heat</button>
      </fieldset>
    </form>
  `,
  styleUrl: '../route/panel.css',
})
export class HeatEnd {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly heat = input.required<HeatAnswer>();
  readonly done = output();
  protected readonly pigKg = signal<number | null>(null);
  /** What the furnace's meter counted, in its own unit. */
  protected readonly counted = signal<number | null>(null);
  /** What the meter showed when the furnace was lit is known where it reports: then the difference is offered. */
  private readonly api = inject(Api);
  protected readonly offered = signal<number | null>(null);

  constructor() {
    effect(() => {
      const { meterFrom } = this.heat();
      if (meterFrom === null) return;
      this.api.get<InstrumentsAnswer>('/instruments').subscribe(({ instruments }) => {
        const meter = instruments.find(({ kind, state }) => kind === 'meter' && state === 'in use');
        if (meter?.last && meter.last.value >= meterFrom)
          this.offered.set(Math.round((meter.last.value - meterFrom) * 10) / 10);
      });
    });
  }

  protected readonly meterKwh = computed(() => this.shop.settings().meterKwh);
  protected readonly meter = computed(() =>
    this.meterKwh() === 1 ? 'Meter counted, kWh' : 'Meter counted, m³ of gas',
  );
  protected readonly energyKwh = computed(() => {
    const counted = this.counted();
    return counted === null ? null : Math.round(counted * this.meterKwh() * 10) / 10;
  });
  protected readonly missing = signal(false);
  protected readonly typed = signal<string | undefined>(undefined);

  protected finish(override = false): void {
    const { id, version } = this.heat();
    const person = this.shop.person();
    const pigKg = this.pigKg();
    const typed = this.typed();
    this.missing.set(pigKg === null);
    if (pigKg === null) return;
    const body: FinishHeat = {
      version,
      endedAt: this.shop.exactNow(),
      by: person ? [person.id] : [],
      pigKg,
      ...(this.energyKwh() === null ? {} : { energyKwh: this.energyKwh() }),
      ...(typed ? { typed: { pigKg: typed } } : {}),
      note: '',
    };
    this.sending.send(`/heats/${id}/finish`, body, () => this.done.emit(), { override, said: 'Heat ended' });
  }
}
