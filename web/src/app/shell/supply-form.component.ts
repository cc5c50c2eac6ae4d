import { ChangeDetectionStrategy, Component, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Supply, SupplyKind } from '@kalvet/core';
import { SUPPLIES, SUPPLY_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** A delivery of what the shell room uses, or what was found on its shelf. */
@Component({
  selector: 'kv-supply-form',
  imports: [ButtonModule, Choices, Field, FormsModule, InputTextModule, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <kv-field label="What" labelId="y-what">
        <kv-choices
          [options]="whats"
          [value]="what()"
          (valueChange)="what.set($any($event))"
          labelledBy="y-what"
          [rows]="true" />
      </kv-field>
      <kv-field label="It" labelId="y-kind">
        <kv-choices [options]="kinds" [value]="kind()" (valueChange)="kind.set($any($event))" labelledBy="y-kind" />
      </kv-field>
      <div class="fields">
        <kv-field label="Weight" unit="kg" for="y-kg" [error]="sending.fields()['kg']">
          <kv-quantity inputId="y-kg" unit="kg" [decimals]="1" [(value)]="kg" />
        </kv-field>
        @if (kind() === 'delivery') {
          <kv-field label="Lot" for="y-lot" optional [error]="sending.fields()['lot']">
            <input
              pInputText
              id="y-lot"
              name="lot"
              maxlength="60"
              [ngModel]="lot()"
              (ngModelChange)="lot.set($event)" />
          </kv-field>
        }
        <kv-field label="Note" for="y-note" [error]="sending.fields()['note']">
          <input
            pInputText
            id="y-note"
            name="note"
            maxlength="1000"
            [ngModel]="note()"
            (ngModelChange)="note.set($event)" />
        </kv-field>
      </div>
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="save-supply" [disabled]="sending.busy()">Write down</button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="cancelled.emit()">Back</button>
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class SupplyForm {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly done = output();
  readonly cancelled = output();
  protected readonly whats = SUPPLIES.map((code) => ({ code, label: SUPPLY_NAMES[code] }));
  protected readonly kinds = [
    { code: 'delivery', label: 'was delivered' },
    { code: 'count', label: 'was weighed on the shelf' },
  ];
  protected readonly what = signal<SupplyKind>('binder');
  protected readonly kind = signal<Supply['kind']>('delivery');
  protected readonly kg = signal<number | null>(null);
  protected readonly lot = signal('');
  protected readonly note = signal('');
  private readonly id = newId();

  protected save(): void {
    const isDelivery = this.kind() === 'delivery';
    const body = {
      id: this.id,
      what: this.what(),
      kind: this.kind(),
      kg: this.kg(),
      lot: isDelivery ? this.lot().trim() : '',
      at: this.shop.exactNow(),
      note: this.note().trim(),
    };
    this.sending.send('/shell/supplies', body, () => this.done.emit(), { said: 'Written down' });
  }
}
