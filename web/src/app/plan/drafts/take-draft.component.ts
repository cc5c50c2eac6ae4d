import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { DraftOutcome, DraftView, OrdersAnswer, TakeDraft } from '@kalvet/core';
import { dayIn } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../../shared/field.component';
import { newId } from '../../shared/ids';
import { pageData } from '../../shared/page-data';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { asDay, dayPicker } from '../../shared/time';
import { When } from '../../shared/when/when.component';

/** Takes a draft over; what is asked for in it can become an order with a promised date at once. */
@Component({
  selector: 'kv-take-draft',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, Refusal, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="take()" autocomplete="off">
      <p>
        Taken over, this is changed at once:
        {{
          enquiry()
            ? 'the work is set up with its pieces, and all dates are planned anew.'
            : 'all dates are planned anew.'
        }}
      </p>
      @if (enquiry()) {
        <div class="fields">
          <kv-field label="Who orders it (if anybody yet)" for="take-client">
            <input
              pInputText
              id="take-client"
              name="client"
              list="take-clients"
              maxlength="200"
              [ngModel]="client()"
              (ngModelChange)="client.set($event)" />
            <datalist id="take-clients">
              @for (each of orders()?.clients ?? []; track each.id) {
                <option [value]="each.name"></option>
              }
            </datalist>
          </kv-field>
          <kv-field label="Promised for" for="take-due" [hint]="chances()">
            <kv-when inputId="take-due" [(value)]="due" />
          </kv-field>
        </div>
      }
      <kv-refusal [submission]="savingClient" />
      <kv-refusal [submission]="taking" (reload)="again.emit()" />
      <div class="row">
        <button pButton type="submit" size="small" data-test="take-now" [disabled]="taking.busy() || !ready()">
          {{ client().trim() ? 'Take it over and enter the order' : 'Take it over' }}
        </button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="left.emit()">
          Back
        </button>
      </div>
    </form>
  `,
  styles: `
    form {
      margin: 10px 0;
      padding: 12px 14px;
      border: 1px solid var(--kv-line-strong);
      border-left: 4px solid var(--kv-accent);
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(240px, 1fr));
      gap: 0 14px;
      margin-top: 10px;
    }
    .row {
      display: flex;
      gap: 9px;
      margin-top: 10px;
    }
  `,
})
export class TakeDraftForm {
  private readonly shop = inject(ShopService);
  readonly draft = input.required<DraftView>();
  readonly outcome = input.required<DraftOutcome>();
  readonly taken = output();
  readonly left = output();
  /** The shop has moved on: dates are worked out anew. */
  readonly again = output();

  protected readonly orders = pageData<OrdersAnswer>(() => '/orders').answer;
  protected readonly taking = new Submission();
  protected readonly savingClient = new Submission();
  protected readonly client = signal('');
  protected readonly enquiry = computed(
    () => this.draft().changes.flatMap((change) => (change.kind === 'enquiry' ? [change.work] : []))[0],
  );
  /** When the last of what is asked for is out with nine chances in ten. */
  private readonly ninety = computed(() =>
    this.outcome()
      .pieces.flatMap(({ isNew, likely }) => (isNew && likely ? [likely.ninetyAt] : []))
      .sort()
      .at(-1),
  );
  protected readonly due = linkedSignal<Date | null>(() => {
    const ninety = this.ninety();
    return ninety ? dayPicker(dayIn(ninety, this.shop.zone())) : null;
  });
  protected readonly chances = computed(() => {
    const ninety = this.ninety();
    const day = asDay(this.due());
    if (!ninety || !day) return '';
    const by = dayIn(ninety, this.shop.zone());
    return day < by
      ? `sooner than nine chances in ten, which is ${this.shop.day(by)}`
      : 'nine chances in ten, or better';
  });
  protected readonly ready = computed(() => this.client().trim() === '' || asDay(this.due()) !== null);
  private readonly orderId = newId();
  private readonly clientId = newId();

  protected take(): void {
    const name = this.client().trim();
    if (name === '') return this.send(undefined);
    const known = this.orders()?.clients.find((each) => each.name.toLowerCase() === name.toLowerCase());
    if (known) return this.send(known.id);
    const body = { id: this.clientId, version: 0, name, contact: '' };
    this.savingClient.send('/clients', body, () => this.send(this.clientId));
  }

  private send(clientId: string | undefined): void {
    const { id, version, name } = this.draft();
    const due = asDay(this.due());
    const title = this.enquiry()?.title ?? name;
    const body: TakeDraft = {
      version,
      basis: this.outcome().basis,
      ...(clientId && due ? { order: { id: this.orderId, clientId, title, dueDate: due } } : {}),
    };
    this.taking.send(`/drafts/${id}/take`, body, () => this.taken.emit(), { said: `“${name}” taken over` });
  }
}
