import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Crucible, CrucibleState } from '@kalvet/core';
import { ALLOY_FAMILIES, CRUCIBLE_STATES, FAMILY_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { asDay, dayPicker } from '../shared/time';
import { When } from '../shared/when/when.component';

/** A pot: which alloys it is for, what it takes, and how many heats it is given. */
@Component({
  selector: 'kv-crucible-form',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, QuantityInput, Refusal, SelectModule, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>{{ crucible() ? 'Crucible ' + crucible()!.name : 'A crucible' }}</h2>
      <div class="fields">
        <kv-field label="Name" for="f-name" [error]="sending.fields()['name']">
          <input
            pInputText
            id="f-name"
            name="name"
            maxlength="120"
            [ngModel]="name()"
            (ngModelChange)="name.set($event)" />
        </kv-field>
        <kv-field label="For" for="f-family" [error]="sending.fields()['family']">
          <p-select
            inputId="f-family"
            name="family"
            [options]="families"
            optionLabel="label"
            optionValue="code"
            [ngModel]="family()"
            (ngModelChange)="family.set($event)"
            appendTo="body" />
        </kv-field>
        <kv-field label="Usable" unit="kg" for="f-usableKg" [error]="sending.fields()['usableKg']">
          <kv-quantity inputId="f-usableKg" unit="kg" [decimals]="0" [(value)]="usableKg" />
        </kv-field>
        <kv-field label="To the rim" unit="kg" for="f-holdsKg" [error]="sending.fields()['holdsKg']">
          <kv-quantity inputId="f-holdsKg" unit="kg" [decimals]="0" [(value)]="holdsKg" />
        </kv-field>
        <kv-field label="Empty" unit="kg" for="f-emptyKg" [error]="sending.fields()['emptyKg']">
          <kv-quantity inputId="f-emptyKg" unit="kg" [decimals]="1" [(value)]="emptyKg" />
        </kv-field>
        <kv-field label="Heats it is given" unit="" for="f-lifeHeats" [error]="sending.fields()['lifeHeats']">
          <kv-quantity inputId="f-lifeHeats" unit="" [decimals]="0" [(value)]="lifeHeats" />
        </kv-field>
        <kv-field label="Heats before Kalvet" unit="" for="f-heatsBefore" [error]="sending.fields()['heatsBefore']">
          <kv-quantity inputId="f-heatsBefore" unit="" [decimals]="0" [(value)]="heatsBefore" />
        </kv-field>
        <kv-field label="In use since" for="f-since" [error]="sending.fields()['since']">
          <kv-when inputId="f-since" [(value)]="day" />
        </kv-field>
        <kv-field label="State" for="f-state" [error]="sending.fields()['state']">
          <p-select
            inputId="f-state"
            name="state"
            [options]="states"
            optionLabel="label"
            optionValue="code"
            [ngModel]="state()"
            (ngModelChange)="state.set($event)"
            appendTo="body" />
        </kv-field>
      </div>
      <kv-refusal [submission]="sending" (reload)="done.emit()" (override)="save()" />
      <div class="row">
        <button pButton type="submit" size="small" data-test="save-crucible" [disabled]="sending.busy()">Enter</button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="cancelled.emit()">
          Back
        </button>
      </div>
    </form>
  `,
  styleUrl: './form.css',
})
export class CrucibleForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly done = output();
  readonly cancelled = output();
  readonly crucible = input<Crucible>();
  private id = newId();
  protected readonly families = ALLOY_FAMILIES.map((code) => ({ code, label: FAMILY_NAMES[code] }));
  protected readonly states = CRUCIBLE_STATES.map((code) => ({ code, label: code }));
  protected readonly name = signal('');
  protected readonly family = signal<string>(ALLOY_FAMILIES[0]);
  protected readonly usableKg = signal<number | null>(null);
  protected readonly holdsKg = signal<number | null>(null);
  protected readonly emptyKg = signal<number | null>(null);
  protected readonly lifeHeats = signal<number | null>(null);
  protected readonly heatsBefore = signal<number | null>(0);
  protected readonly day = signal<Date | null>(null);
  protected readonly state = signal<CrucibleState>('in use');

  constructor() {
    effect(() => {
      const pot = this.crucible();
      untracked(() => this.begin(pot));
    });
  }

  private begin(pot: Crucible | undefined): void {
    this.id = pot?.id ?? newId();
    this.day.set(pot ? dayPicker(pot.since) : this.shop.pickerNow());
    if (!pot) return;
    this.name.set(pot.name);
    this.family.set(pot.family);
    this.usableKg.set(pot.usableKg);
    this.holdsKg.set(pot.holdsKg);
    this.emptyKg.set(pot.emptyKg);
    this.lifeHeats.set(pot.lifeHeats);
    this.heatsBefore.set(pot.heatsBefore);
    this.state.set(pot.state);
  }

  protected save(): void {
    const body = {
      id: this.id,
      version: this.crucible()?.version ?? 0,
      name: this.name().trim(),
      family: this.family(),
      holdsKg: this.holdsKg(),
      usableKg: this.usableKg(),
      emptyKg: this.emptyKg(),
      lifeHeats: this.lifeHeats(),
      heatsBefore: this.heatsBefore(),
      state: this.state(),
      since: asDay(this.day()),
    };
    this.sending.send('/metal/crucibles', body, () => this.done.emit(), { said: 'Crucible entered' });
  }
}
