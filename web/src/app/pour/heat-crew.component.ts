import { ChangeDetectionStrategy, Component, inject, input, linkedSignal, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { HeatAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { SelectModule } from 'primeng/select';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';

/** The gate before the pour: who leads, and that crew and cover stand. Whoever says so is kept by name. */
@Component({
  selector: 'kv-heat-crew',
  imports: [FormsModule, ButtonModule, CheckboxModule, SelectModule, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="confirm()">
      <fieldset>
        <legend>Crew and cover</legend>
        <div class="kv-field">
          <label for="heat-lead">Leads the pour</label>
          <p-select
            inputId="heat-lead"
            name="lead"
            [options]="shop.people()"
            optionLabel="name"
            optionValue="id"
            [ngModel]="leadId()"
            (ngModelChange)="leadId.set($event)"
            appendTo="body" />
        </div>
        <div class="gate">
          <p-checkbox
            inputId="heat-cover"
            name="cover"
            [binary]="true"
            [ngModel]="cover()"
            (ngModelChange)="cover.set($event)" />
          <label for="heat-cover"
            >Crew named, leathers, face shields and respirators on, floor clear and dry, exit free, sand at hand, signs
            agreed</label
          >
        </div>
        <kv-refusal [submission]="sending" />
        <button
          pButton
          type="submit"
          size="small"
          severity="contrast"
          data-test="confirm-crew"
          [disabled]="!cover() || !leadId() || sending.busy()">
          Confirmed: {{ shop.person()?.name }}
        </button>
      </fieldset>
    </form>
  `,
  styleUrl: '../route/panel.css',
  styles: `
    .gate {
      display: flex;
      gap: 9px;
      align-items: start;
      margin-bottom: 8px;
    }
  `,
})
export class HeatCrew {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly heat = input.required<HeatAnswer>();
  readonly done = output();
  protected readonly leadId = linkedSignal<string | null>(() => this.heat().leadId ?? this.shop.person()?.id ?? null);
  protected readonly cover = signal(false);

  protected confirm(): void {
    const { id, version } = this.heat();
    this.sending.send(
      `/heats/${id}/crew`,
      { version, leadId: this.leadId(), coverConfirmed: true },
      () => this.done.emit(),
      { said: 'Crew and cover confirmed' },
    );
  }
}
