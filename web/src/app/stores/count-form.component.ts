import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { alloyOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** What was found when somebody weighed what lies there: it counts from now on. */
@Component({
  selector: 'kv-count-form',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, QuantityInput, Refusal, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>Count {{ name() }}</h2>
      <p class="kv-soft">What is found counts from now on; the difference stands among what came and went.</p>
      <div class="fields">
        <kv-field label="What" for="f-what" [error]="sending.fields()['what']">
          <p-select
            inputId="f-what"
            name="what"
            [options]="whats"
            optionLabel="label"
            optionValue="code"
            [ngModel]="what()"
            (ngModelChange)="what.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="Found" unit="kg" for="f-kg" [error]="sending.fields()['kg']">
          <kv-quantity inputId="f-kg" unit="kg" [decimals]="1" [(value)]="kg" />
        </kv-field>
        <kv-field label="Why, or who counted" for="f-why" [error]="sending.fields()['why']">
          <input pInputText id="f-why" name="why" maxlength="500" [ngModel]="why()" (ngModelChange)="why.set($event)" />
        </kv-field>
      </div>
      <kv-refusal [submission]="sending" (reload)="done.emit()" (override)="save()" />
      <div class="row">
        <button pButton type="submit" size="small" data-test="save-count" [disabled]="sending.busy()">Count</button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
          Back
        </button>
      </div>
    </form>
  `,
  styleUrl: './form.css',
})
export class CountForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly done = output();
  readonly cancelled = output();
  readonly alloyId = input.required<string>();
  private readonly id = newId();
  protected readonly whats = [
    { code: 'ingot', label: 'ingot' },
    { code: 'returns', label: 'returns and pigs' },
  ];
  protected readonly what = signal<'ingot' | 'returns'>('ingot');
  protected readonly kg = signal<number | null>(null);
  protected readonly why = signal('');
  protected readonly name = computed(() => alloyOf(this.alloyId()).name);

  protected save(): void {
    const body = { id: this.id, alloyId: this.alloyId(), what: this.what(), kg: this.kg(), why: this.why().trim() };
    this.sending.send('/metal/counts', body, () => this.done.emit(), { said: 'Counted' });
  }
}
