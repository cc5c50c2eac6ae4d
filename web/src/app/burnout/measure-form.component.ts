import { ChangeDetectionStrategy, Component, effect, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { KilnTreeView } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Field } from '../shared/field.component';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { Submission } from '../shared/submission';

/** How much room a tree takes in the kiln, as somebody measured it with its cup down. */
@Component({
  selector: 'kv-measure-form',
  imports: [ButtonModule, Field, FormsModule, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>{{ tree().label }}</h2>
      <p class="kv-soft">
        With its cup down.
        {{
          tree().measured ? 'Somebody measured it.' : 'Until somebody measures it, it is worked out from its sections.'
        }}
      </p>
      <div class="fields">
        <kv-field label="Across" unit="mm" for="f-across" [error]="sending.fields()['acrossMm']">
          <kv-quantity inputId="f-across" unit="mm" [decimals]="0" [(value)]="acrossMm" />
        </kv-field>
        <kv-field label="Deep" unit="mm" for="f-deep" [error]="sending.fields()['deepMm']">
          <kv-quantity inputId="f-deep" unit="mm" [decimals]="0" [(value)]="deepMm" />
        </kv-field>
        <kv-field label="High" unit="mm" for="f-high" [error]="sending.fields()['highMm']">
          <kv-quantity inputId="f-high" unit="mm" [decimals]="0" [(value)]="highMm" />
        </kv-field>
      </div>
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="save-measure" [disabled]="sending.busy()">Keep</button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="done.emit()">Back</button>
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class MeasureForm {
  protected readonly sending = new Submission();
  readonly tree = input.required<KilnTreeView>();
  readonly done = output();
  protected readonly acrossMm = signal<number | null>(null);
  protected readonly deepMm = signal<number | null>(null);
  protected readonly highMm = signal<number | null>(null);

  constructor() {
    effect(() => {
      const { acrossMm, deepMm, highMm } = this.tree();
      untracked(() => {
        this.acrossMm.set(acrossMm);
        this.deepMm.set(deepMm);
        this.highMm.set(highMm);
      });
    });
  }

  protected save(): void {
    const { treeId, version } = this.tree();
    const body = { version, acrossMm: this.acrossMm(), deepMm: this.deepMm(), highMm: this.highMm() };
    this.sending.send(`/trees/${treeId}/footprint`, body, () => this.done.emit(), { said: 'Measured' });
  }
}
