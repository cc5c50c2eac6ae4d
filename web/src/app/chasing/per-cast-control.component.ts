import { ChangeDetectionStrategy, Component } from '@angular/core';
import { ReadingControl } from '../route/reading-control';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';

/** A number for each cast of a tree: what it weighs. */
@Component({
  selector: 'kv-per-cast-control',
  imports: [Field, QuantityInput],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div role="group" [attr.aria-label]="def().label">
      @for (cast of form().casts; track cast.id) {
        <kv-field [label]="cast.label + ' weighs'" [unit]="def().unit" [for]="inputId() + cast.id">
          <kv-quantity
            [inputId]="inputId() + cast.id"
            [unit]="def().unit ?? ''"
            [decimals]="def().decimals ?? 2"
            [value]="value()?.[cast.id] ?? null"
            (valueChange)="put(cast.id, $event)" />
        </kv-field>
      }
    </div>
  `,
})
export class PerCastControl extends ReadingControl<Readonly<Record<string, number>>> {
  protected put(id: string, kg: number | null): void {
    const { [id]: _, ...rest } = this.value() ?? {};
    this.value.set(kg === null ? rest : { ...rest, [id]: kg });
  }
}
