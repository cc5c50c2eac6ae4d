import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { MultiSelectModule } from 'primeng/multiselect';
import { ReadingControl } from '../route/reading-control';
import { ShopService } from '../shared/shop.service';

/** The casts that are joined to a tree, each with what its wax weighs. */
@Component({
  selector: 'kv-casts-control',
  imports: [FormsModule, MultiSelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p-multiselect
      [inputId]="inputId()"
      [options]="casts()"
      optionLabel="label"
      optionValue="id"
      [ngModel]="$any(value())"
      (ngModelChange)="value.set($event)"
      [filter]="casts().length > 8"
      display="chip"
      [fluid]="true"
      appendTo="body" />
  `,
})
export class CastsControl extends ReadingControl<readonly string[]> {
  private readonly shop = inject(ShopService);
  protected readonly casts = computed(() =>
    this.form().casts.map(({ id, label, waxKg }) => ({
      id,
      label: waxKg === null ? label : `${label} · wax ${this.shop.amount(waxKg, 'kg', 2)}`,
    })),
  );
}
