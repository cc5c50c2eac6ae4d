import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CoatRow } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** One tree is shelled otherwise than the plan it began with, for a reason. */
@Component({
  selector: 'kv-tree-coats-form',
  imports: [ButtonModule, Choices, Field, FormsModule, InputTextModule, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (open()) {
      <form (ngSubmit)="save()" autocomplete="off">
        @if (plans().length > 1) {
          <kv-field label="By plan" labelId="t-plan" [error]="sending.fields()['planCode']">
            <kv-choices
              [options]="plans()"
              [value]="planCode()"
              (valueChange)="planCode.set($any($event))"
              labelledBy="t-plan" />
          </kv-field>
        }
        <div class="fields">
          <kv-field label="Coats, seal included" for="t-coats" [error]="sending.fields()['coats']">
            <kv-quantity inputId="t-coats" unit="" [decimals]="0" [(value)]="coats" />
          </kv-field>
          <kv-field label="Why" for="t-why" [error]="sending.fields()['why']">
            <input
              pInputText
              id="t-why"
              name="why"
              maxlength="500"
              [ngModel]="why()"
              (ngModelChange)="why.set($event)" />
          </kv-field>
        </div>
        <kv-refusal [submission]="sending" (reload)="open.set(false)" />
        <div class="row">
          <button pButton type="submit" size="small" data-test="keep-coats" [disabled]="sending.busy()">
            Shell it so
          </button>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="open.set(false)">
            Back
          </button>
        </div>
      </form>
    } @else {
      <button type="button" class="kv-link" data-test="change-coats" (click)="open.set(true)">
        Other coats for this tree
      </button>
    }
  `,
  styleUrl: '../shared/panel-form.css',
})
export class TreeCoatsForm {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly row = input.required<CoatRow>();
  protected readonly open = signal(false);
  protected readonly coats = signal<number | null>(null);
  protected readonly why = signal('');
  protected readonly planCode = signal('');
  protected readonly plans = computed(() =>
    this.shop.settings().coatPlans.map(({ code, name }) => ({ code, label: name })),
  );

  constructor() {
    effect(() => {
      const { coats } = this.row();
      const [first] = this.shop.settings().coatPlans;
      untracked(() => {
        this.coats.set(coats.length);
        this.planCode.set(first?.code ?? '');
      });
    });
  }

  protected save(): void {
    const { treeId, version } = this.row();
    const body = { version, planCode: this.planCode(), coats: this.coats(), why: this.why().trim() };
    this.sending.send(`/trees/${treeId}/coats`, body, () => this.open.set(false), { said: 'Coats changed' });
  }
}
