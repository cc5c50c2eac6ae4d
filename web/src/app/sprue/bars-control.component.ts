import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Bars } from '@kalvet/core';
import { alloyOf, barStockOf, barsVolumeCm3 } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { SelectModule } from 'primeng/select';
import { ReadingControl } from '../route/reading-control';
import { ShopService } from '../shared/shop.service';
import { QuantityInput } from '../shared/quantity-input.component';
import { AmountPipe } from '../shared/words.pipe';
import { readable } from './readable-bars';

/** The bars of a tree, by stock and length, with the metal they will take. */
@Component({
  selector: 'kv-bars-control',
  imports: [AmountPipe, FormsModule, ButtonModule, InputNumberModule, QuantityInput, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="kv-field" role="group" aria-label="Bars">
      <span class="kv-label">Bars</span>
      @for (bar of rows(); track $index) {
        <div class="bar">
          <p-inputnumber
            [ngModel]="bar.count"
            (ngModelChange)="put($index, { count: $event ?? 1 })"
            [min]="1"
            [max]="200"
            ariaLabel="How many" />
          <span>×</span>
          <p-select
            [options]="stock()"
            optionLabel="label"
            optionValue="code"
            [ngModel]="bar.stock"
            (ngModelChange)="put($index, { stock: $event })"
            ariaLabel="Stock"
            appendTo="body" />
          <kv-quantity
            unit="mm"
            [decimals]="0"
            [suffix]="true"
            [value]="bar.lengthMm"
            (valueChange)="put($index, { lengthMm: $event ?? 1 })"
            ariaLabel="Length of each" />
          <button
            pButton
            type="button"
            icon="pi pi-times"
            [text]="true"
            severity="secondary"
            size="small"
            (click)="remove($index)"
            aria-label="Take this bar out"></button>
        </div>
      }
      <button type="button" class="kv-link add" (click)="add()">Add a bar</button>
      @if (metalKg(); as kg) {
        <span class="kv-soft">{{ kg | amount: 'kg' : 2 }} of metal in bars</span>
      }
    </div>
  `,
  styles: `
    .bar {
      display: grid;
      grid-template-columns: 54px auto minmax(130px, 1fr) 106px 30px;
      gap: 5px;
      align-items: center;
    }
    .add {
      justify-self: start;
    }
  `,
})
export class BarsControl extends ReadingControl<readonly Bars[]> {
  private readonly shop = inject(ShopService);
  /** What the shop has in stock; a bar of another stock that was said stays among it. */
  protected readonly stock = computed(() =>
    [...new Set([...this.shop.settings().barStock, ...this.rows().map(({ stock }) => stock)])].flatMap(
      (code) => barStockOf(code) ?? [],
    ),
  );
  protected readonly rows = computed(() => this.value() ?? []);
  /** What the bars will take in metal, so that one sees what a bar costs. */
  protected readonly metalKg = computed(() => {
    const { alloyId } = this.form();
    const bars = readable(this.rows());
    return alloyId === null || bars.length === 0
      ? null
      : (barsVolumeCm3(bars) * alloyOf(alloyId).densityGPerCm3) / 1000;
  });

  /** The bar that a tree usually begins with: 12 mm square, where there is such a one. */
  private usual(): string {
    const { barStock } = this.shop.settings();
    return barStock.includes('S12') ? 'S12' : (barStock[0] ?? 'S12');
  }

  protected add(): void {
    const last = this.rows().at(-1);
    this.value.set([...this.rows(), { stock: last?.stock ?? this.usual(), count: 1, lengthMm: last?.lengthMm ?? 150 }]);
  }

  protected put(place: number, patch: Partial<Bars>): void {
    this.value.set(this.rows().map((row, i) => (i === place ? { ...row, ...patch } : row)));
  }

  protected remove(place: number): void {
    this.value.set(this.rows().filter((_, i) => i !== place));
  }
}
