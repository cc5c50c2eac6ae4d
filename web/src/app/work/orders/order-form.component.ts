import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  linkedSignal,
  output,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { OrderView, OrdersAnswer, SaveClient, SaveOrder } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { newId } from '../../shared/ids';
import { Files } from '../../files/files.component';
import { Field } from '../../shared/field.component';
import { Leaving } from '../../shared/leaving.component';
import { Opened } from '../../shared/opened.directive';
import { Refusal } from '../../shared/refusal.component';
import { Submission } from '../../shared/submission';
import { When } from '../../shared/when/when.component';
import { asDay, dayPicker } from '../../shared/time';
import { PiecePicker } from './piece-picker.component';

/** An order as it is entered: who, what, where, by when, and which pieces. A new client is entered along with it. */
@Component({
  selector: 'kv-order-form',
  imports: [Field, Files, FormsModule, ButtonModule, When, InputTextModule, Leaving, PiecePicker, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  hostDirectives: [Opened],
  template: `
    <kv-leaving />
    <form (ngSubmit)="save()" autocomplete="off">
      <div class="two">
        <kv-field
          label="Client"
          for="order-client"
          [hint]="isNew() ? 'a new client: entered with the order' : ''"
          [error]="savingClient.fields()['name']">
          <input
            pInputText
            id="order-client"
            name="client"
            list="order-clients"
            [ngModel]="clientName()"
            (ngModelChange)="clientName.set($event)"
            maxlength="200" />
          <datalist id="order-clients">
            @for (client of orders().clients; track client.id) {
              <option [value]="client.name"></option>
            }
          </datalist>
        </kv-field>
        <kv-field label="What" for="order-title">
          <input
            pInputText
            id="order-title"
            name="title"
            [placeholder]="usualTitle()"
            [ngModel]="title()"
            (ngModelChange)="title.set($event)"
            maxlength="200" />
        </kv-field>
        <kv-field label="To where" for="order-place" optional>
          <input
            pInputText
            id="order-place"
            name="place"
            [ngModel]="place()"
            (ngModelChange)="place.set($event)"
            maxlength="300" />
        </kv-field>
        <kv-field label="Promised for" for="order-due">
          <kv-when inputId="order-due" [(value)]="due" />
        </kv-field>
        <div class="check">
          <input
            type="checkbox"
            class="kv-tick"
            id="order-part"
            name="part"
            [ngModel]="partDelivery()"
            (ngModelChange)="partDelivery.set($event)" />
          <label for="order-part">Pieces may go as they are ready</label>
        </div>
      </div>
      <kv-field label="Pieces" labelId="order-pieces" [error]="saving.fields()['pieceIds']">
        <kv-piece-picker [pieces]="choices()" [(pieceIds)]="pieceIds" />
      </kv-field>
      <kv-field label="Note (if any)" for="order-note">
        <input
          pInputText
          id="order-note"
          name="note"
          [ngModel]="note()"
          (ngModelChange)="note.set($event)"
          maxlength="1000" />
      </kv-field>
      <kv-refusal [submission]="savingClient" />
      <kv-refusal [submission]="saving" (reload)="done.emit(null)" />
      <div class="row">
        <button pButton type="submit" data-test="save-order" [disabled]="!ready() || saving.busy()">
          {{ order() ? 'Save' : 'Enter the order' }}
        </button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="done.emit(null)">Back</button>
      </div>
    </form>
    @if (order(); as order) {
      <h3>Papers and pictures</h3>
      <kv-files subject="order" [subjectId]="order.id" [label]="order.title" [shownMost]="6" />
    }
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 0 14px;
      align-items: start;
    }
    .check,
    .row {
      display: flex;
      gap: 9px;
      align-items: center;
      margin-bottom: 12px;
    }
  `,
})
export class OrderForm {
  protected readonly saving = new Submission();
  protected readonly savingClient = new Submission();
  readonly orders = input.required<OrdersAnswer>();
  readonly order = input<OrderView>();
  readonly done = output<string | null>();

  private readonly fresh = newId();
  private readonly id = newId();
  protected readonly clientName = linkedSignal(() => this.order()?.client ?? '');
  /** The client of that name, however it is written; none where it is a new one. */
  private readonly client = computed(() => {
    const name = this.clientName().trim().toLowerCase();
    return this.orders().clients.find((client) => client.name.toLowerCase() === name);
  });
  protected readonly isNew = computed(() => this.clientName().trim() !== '' && !this.client());
  protected readonly title = linkedSignal(() => this.order()?.title ?? '');
  protected readonly place = linkedSignal(() => this.order()?.place ?? '');
  protected readonly note = linkedSignal(() => this.order()?.note ?? '');
  protected readonly partDelivery = linkedSignal(() => this.order()?.partDelivery ?? true);
  protected readonly due = linkedSignal<Date | null>(() => {
    const due = this.order()?.dueDate;
    return due ? dayPicker(due) : null;
  });
  protected readonly pieceIds = linkedSignal<string[]>(() => this.order()?.pieces.map(({ pieceId }) => pieceId) ?? []);
  protected readonly choices = computed(() => [...(this.order()?.pieces ?? []), ...this.orders().free]);
  /** What an order is called that nobody gave a name: its works. */
  protected readonly usualTitle = computed(() => {
    const chosen = this.choices().filter(({ pieceId }) => this.pieceIds().includes(pieceId));
    return [...new Set(chosen.map(({ label }) => label.replace(/ (AP |FP )?[^ ]+$/, '')))].join(', ').slice(0, 200);
  });
  protected readonly ready = computed(
    () => this.clientName().trim() !== '' && (this.title().trim() !== '' || this.usualTitle() !== ''),
  );

  constructor() {
    inject(Opened).left.subscribe(() => this.done.emit(null));
    effect(() => {
      const { clientName, title, place, note, partDelivery, due, pieceIds } = this;
      const name = `order ${this.order()?.id ?? 'new'} ${this.order()?.version ?? 0}`;
      const fields = { clientName, title, place, note, partDelivery, due, pieceIds };
      untracked(() => this.saving.keep(name, fields));
    });
  }

  protected save(): void {
    const known = this.client();
    if (known) return this.saveOrder(known.id);
    const body: SaveClient = { id: this.fresh, version: 0, name: this.clientName().trim(), contact: '' };
    this.savingClient.send('/clients', body, () => this.saveOrder(this.fresh));
  }

  private saveOrder(clientId: string): void {
    const order = this.order();
    const body: SaveOrder = {
      id: order?.id ?? this.id,
      version: order?.version ?? 0,
      clientId,
      title: this.title().trim() || this.usualTitle(),
      place: this.place().trim(),
      dueDate: asDay(this.due()),
      partDelivery: this.partDelivery(),
      note: this.note().trim(),
      pieceIds: this.pieceIds(),
    };
    this.saving.send('/orders', body, () => this.done.emit(body.id), { said: `${body.title} saved` });
  }
}
