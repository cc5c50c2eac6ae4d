import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { DryingPlace, PlaceAir } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { Submission } from '../shared/submission';

/** Rooms and cabinets that shells dry in. */
@Component({
  selector: 'kv-places-form',
  imports: [ButtonModule, Choices, Field, FormsModule, InputTextModule, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (editing(); as place) {
      <form (ngSubmit)="save()" autocomplete="off">
        <h2>{{ place === 'new' ? 'A new place' : place.name }}</h2>
        <kv-field label="Name" for="p-name" [error]="sending.fields()['name']">
          <input
            pInputText
            id="p-name"
            name="name"
            maxlength="120"
            [ngModel]="name()"
            (ngModelChange)="name.set($event)" />
        </kv-field>
        <kv-field label="What it is" labelId="p-kind">
          <kv-choices [options]="kinds" [value]="kind()" (valueChange)="kind.set($any($event))" labelledBy="p-kind" />
        </kv-field>
        <div class="fields">
          <kv-field label="Hooks" for="p-hooks" [error]="sending.fields()['hooks']">
            <kv-quantity inputId="p-hooks" unit="" [decimals]="0" [(value)]="hooks" />
          </kv-field>
          <kv-field
            label="Draught"
            for="p-air"
            hint="1 as in the reference; 0.71 where the air moves twice as fast"
            [error]="sending.fields()['airflow']">
            <kv-quantity inputId="p-air" unit="" [decimals]="2" [(value)]="airflow" />
          </kv-field>
        </div>
        @if (place !== 'new') {
          <kv-field label="State" labelId="p-state">
            <kv-choices
              [options]="states"
              [value]="state()"
              (valueChange)="state.set($any($event))"
              labelledBy="p-state" />
          </kv-field>
        }
        <kv-refusal [submission]="sending" (reload)="editing.set(null); sending.reset()" />
        <div class="row">
          <button pButton type="submit" size="small" data-test="save-place" [disabled]="sending.busy()">Keep</button>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="editing.set(null)">
            Back
          </button>
        </div>
      </form>
    } @else {
      <table class="sum">
        <tbody>
          @for (air of places(); track air.place.id) {
            <tr>
              <th scope="row">
                {{ air.place.name }}
                <small class="kv-soft"
                  >{{ air.place.kind }}, {{ air.place.hooks }} hooks{{
                    air.place.state === 'off' ? ', not in use' : ''
                  }}</small
                >
              </th>
              <td>
                <button
                  type="button"
                  class="kv-link"
                  [attr.aria-label]="'Change ' + air.place.name"
                  (click)="edit(air.place)">
                  Change
                </button>
              </td>
            </tr>
          }
        </tbody>
      </table>
      <p>
        <button type="button" class="kv-link" data-test="new-place" (click)="edit('new')">
          Enter a room or cabinet
        </button>
      </p>
    }
  `,
  styleUrl: '../shared/panel-form.css',
})
export class PlacesForm {
  protected readonly sending = new Submission();
  readonly places = input.required<readonly PlaceAir[]>();
  readonly done = output();
  readonly cancelled = output();
  protected readonly kinds = [
    { code: 'room', label: 'room' },
    { code: 'cabinet', label: 'cabinet' },
  ];
  protected readonly states = [
    { code: 'in use', label: 'in use' },
    { code: 'off', label: 'not in use' },
  ];
  protected readonly editing = signal<DryingPlace | 'new' | null>(null);
  private id = newId();
  protected readonly name = signal('');
  protected readonly kind = signal<DryingPlace['kind']>('room');
  protected readonly hooks = signal<number | null>(20);
  protected readonly airflow = signal<number | null>(1);
  protected readonly state = signal<DryingPlace['state']>('in use');

  protected edit(place: DryingPlace | 'new'): void {
    this.sending.reset();
    this.editing.set(place);
    const given = place === 'new' ? undefined : place;
    this.id = given?.id ?? newId();
    this.name.set(given?.name ?? '');
    this.kind.set(given?.kind ?? 'room');
    this.hooks.set(given?.hooks ?? 20);
    this.airflow.set(given?.airflow ?? 1);
    this.state.set(given?.state ?? 'in use');
  }

  protected save(): void {
    const editing = this.editing();
    const body = {
      id: this.id,
      version: editing === null || editing === 'new' ? 0 : editing.version,
      name: this.name().trim(),
      kind: this.kind(),
      hooks: this.hooks(),
      airflow: this.airflow(),
      state: this.state(),
    };
    this.sending.send('/shell/places', body, () => this.editing.set(null), { said: 'Place kept' });
  }
}
