import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { HeatAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** Ends a heat: what was left is pigged and counts as returns. */
@Component({
  selector: 'kv-heat-end',
  imports: [FormsModule, ButtonModule, InputNumberModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="finish()">
      <fieldset>
        <legend>The heat is over</legend>
        <div class="kv-field">
          <label for="pig">Pigged, kg</label>
          <p-inputnumber
            inputId="pig"
            name="pig"
            [ngModel]="pigKg()"
            (ngModelChange)="pigKg.set($event)"
            [min]="0"
            [maxFractionDigits]="1" />
          @if (sending.fields()['pigKg']; as text) {
            <span class="kv-wrong" role="alert">{{ text }}</span>
          }
        </div>
        <kv-refusal [submission]="sending" />
        <button pButton type="submit" data-test="finish-heat" [disabled]="pigKg() === null || sending.busy()">
          End the heat
        </button>
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

  protected finish(): void {
    const { id, version } = this.heat();
    const person = this.shop.person();
    const body = {
      version,
      endedAt: this.shop.exactNow().toISOString(),
      by: person ? [person.id] : [],
      pigKg: this.pigKg(),
      note: '',
    };
    this.sending.send(`/heats/${id}/finish`, body, () => this.done.emit(), { said: 'Heat ended' });
  }
}
