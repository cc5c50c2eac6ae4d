import { ChangeDetectionStrategy, Component, computed, inject, input, model, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ReadingDef, StepForm } from '@kalvet/core';
import { BAR_STOCK, alloyOf, barsVolumeCm3 } from '@kalvet/core';
import type { Bars } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { MultiSelectModule } from 'primeng/multiselect';
import { SelectModule } from 'primeng/select';
import { Part } from './part.directive';
import { STEP_PARTS } from './parts';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { ShopService } from '../shared/shop.service';
import { AmountPipe } from '../shared/words.pipe';

/** One reading of a step, built from its definition. */
@Component({
  selector: 'kv-reading-field',
  imports: [
    AmountPipe,
    FormsModule,
    ButtonModule,
    CheckboxModule,
    Field,
    InputNumberModule,
    InputTextModule,
    MultiSelectModule,
    Part,
    QuantityInput,
    SelectModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './reading-field.component.html',
  styleUrl: './reading-field.component.css',
  host: { '[class.wide]': 'wide()' },
})
export class ReadingField {
  private readonly shop = inject(ShopService);
  readonly def = input.required<ReadingDef>();
  readonly form = input.required<StepForm>();
  readonly wrong = input<string>();
  readonly value = model<unknown>();
  /** As it was typed, where that was another unit than the one that is kept. */
  readonly typed = input<string>();
  readonly typedChange = output<string | undefined>();

  /** A room's own field for this kind of reading, where a line is not enough. */
  private readonly parts = inject(STEP_PARTS);
  protected readonly own = computed(() => this.parts.readings[this.def().kind]);
  protected readonly set = { valueChange: (value: unknown) => this.value.set(value) };

  protected readonly stock = BAR_STOCK;
  /** Numbers and choices stand two in a row; everything else needs the width. */
  protected readonly wide = computed(() => this.def().kind !== 'number' && this.def().kind !== 'choice');
  protected readonly inputId = computed(() => `reading-${this.def().key}`);
  protected readonly moulds = computed(() =>
    this.form().moulds.map(({ id, label, used, left, good }) => ({
      id,
      label: `${label} · ${used} pulls${left === null ? '' : `, ${left} left`}${good ? '' : ' · not usable now'}`,
    })),
  );
  protected readonly castOptions = computed(() =>
    this.form().casts.map(({ id, label, waxKg }) => ({
      id,
      label: waxKg === null ? label : `${label} · wax ${this.shop.amount(waxKg, 'kg', 2)}`,
    })),
  );
  protected readonly barRows = computed(() => (Array.isArray(this.value()) ? (this.value() as Bars[]) : []));
  /** What the bars will take in metal, so that one sees what a bar costs. */
  protected readonly barsKg = computed(() => {
    const { alloyId } = this.form();
    return alloyId === null || this.barRows().length === 0
      ? null
      : (barsVolumeCm3(this.barRows()) * alloyOf(alloyId).densityGPerCm3) / 1000;
  });

  protected perCast(id: string): number | null {
    return (this.value() as Record<string, number> | undefined)?.[id] ?? null;
  }

  protected setPerCast(id: string, kg: number | null): void {
    const rest = { ...(this.value() as Record<string, number> | undefined) };
    if (kg === null) delete rest[id];
    else rest[id] = kg;
    this.value.set(rest);
  }

  protected addBar(): void {
    const last = this.barRows().at(-1);
    this.value.set([...this.barRows(), { stock: last?.stock ?? 'S12', count: 1, lengthMm: last?.lengthMm ?? 150 }]);
  }

  protected setBar(place: number, patch: Partial<Bars>): void {
    this.value.set(this.barRows().map((row, i) => (i === place ? { ...row, ...patch } : row)));
  }

  protected removeBar(place: number): void {
    this.value.set(this.barRows().filter((_, i) => i !== place));
  }
}
