import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Slurry, Tank, TankView } from '@kalvet/core';
import { SLURRIES, SLURRY_NAMES } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { When } from '../shared/when/when.component';

/** What a tank is: its slurry, size, cup and limits. */
@Component({
  selector: 'kv-tank-form',
  imports: [ButtonModule, Choices, Field, FormsModule, InputTextModule, QuantityInput, Refusal, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>{{ view() ? view()!.tank.name : 'A new tank' }}</h2>
      <kv-field label="Name" for="v-name" [error]="sending.fields()['name']">
        <input
          pInputText
          id="v-name"
          name="name"
          maxlength="120"
          [ngModel]="name()"
          (ngModelChange)="name.set($event)" />
      </kv-field>
      <kv-field label="Slurry" labelId="v-slurry" [error]="sending.fields()['slurry']">
        <kv-choices
          [options]="slurries"
          [value]="slurry()"
          (valueChange)="slurry.set($any($event))"
          labelledBy="v-slurry" />
      </kv-field>
      <div class="fields">
        <kv-field label="Holds" unit="l" for="v-l" [error]="sending.fields()['litres']">
          <kv-quantity inputId="v-l" unit="l" [decimals]="0" [(value)]="litres" />
        </kv-field>
        <kv-field label="Dipped in down to" unit="%" for="v-least" [error]="sending.fields()['leastShare']">
          <kv-quantity inputId="v-least" unit="%" [decimals]="0" [(value)]="least" />
        </kv-field>
        <kv-field label="Slurry weighs" unit="g/cm3" for="v-d" [error]="sending.fields()['densityGPerCm3']">
          <kv-quantity inputId="v-d" unit="g/cm3" [decimals]="2" [(value)]="density" />
        </kv-field>
        <kv-field label="Flow cup" for="v-cup" [error]="sending.fields()['cup']">
          <input pInputText id="v-cup" name="cup" maxlength="120" [ngModel]="cup()" (ngModelChange)="cup.set($event)" />
        </kv-field>
        <kv-field label="At least" unit="s" for="v-low" optional [error]="sending.fields()['lowS']">
          <kv-quantity inputId="v-low" unit="s" [decimals]="1" [(value)]="low" />
        </kv-field>
        <kv-field label="At most" unit="s" for="v-high" optional [error]="sending.fields()['highS']">
          <kv-quantity inputId="v-high" unit="s" [decimals]="1" [(value)]="high" />
        </kv-field>
        <kv-field label="pH at least" for="v-ph" optional [error]="sending.fields()['leastPh']">
          <kv-quantity inputId="v-ph" unit="" [decimals]="1" [(value)]="leastPh" />
        </kv-field>
        <kv-field label="Looked at every" unit="h" for="v-every" [error]="sending.fields()['checkEveryHours']">
          <kv-quantity inputId="v-every" unit="h" [decimals]="0" [(value)]="every" />
        </kv-field>
      </div>
      <h3>Base period of the chart</h3>
      <p class="kv-soft">
        Limits are x̄ ± 2.66 · mean range of what was read then: choose a time in which all was well.
      </p>
      <div class="fields">
        <kv-field label="From" for="v-from" optional [error]="sending.fields()['base']">
          <kv-when inputId="v-from" towards="past" [(value)]="from" />
        </kv-field>
        <kv-field label="Until" for="v-to" optional>
          <kv-when inputId="v-to" towards="past" [(value)]="to" />
        </kv-field>
      </div>
      @if (view()) {
        <kv-field label="State" labelId="v-state">
          <kv-choices
            [options]="states"
            [value]="state()"
            (valueChange)="state.set($any($event))"
            labelledBy="v-state" />
        </kv-field>
      }
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="save-tank" [disabled]="sending.busy()">Keep</button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="cancelled.emit()">Back</button>
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class TankForm {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly view = input<TankView>();
  readonly done = output();
  readonly cancelled = output();
  protected readonly slurries = SLURRIES.map((code) => ({ code, label: SLURRY_NAMES[code] }));
  protected readonly states = [
    { code: 'in use', label: 'in use' },
    { code: 'off', label: 'not in use' },
  ];
  private id = newId();
  protected readonly name = signal('');
  protected readonly slurry = signal<Slurry>('face');
  protected readonly litres = signal<number | null>(null);
  protected readonly least = signal<number | null>(55);
  protected readonly density = signal<number | null>(null);
  protected readonly cup = signal('4 mm cup');
  protected readonly low = signal<number | null>(null);
  protected readonly high = signal<number | null>(null);
  protected readonly leastPh = signal<number | null>(null);
  protected readonly every = signal<number | null>(24);
  protected readonly from = signal<Date | null>(null);
  protected readonly to = signal<Date | null>(null);
  protected readonly state = signal<Tank['state']>('in use');

  constructor() {
    effect(() => {
      const tank = this.view()?.tank;
      untracked(() => tank && this.take(tank));
    });
  }

  private take(tank: Tank): void {
    this.id = tank.id;
    this.name.set(tank.name);
    this.slurry.set(tank.slurry);
    this.litres.set(tank.litres);
    this.least.set(tank.leastShare * 100);
    this.density.set(tank.densityGPerCm3);
    this.cup.set(tank.cup);
    this.low.set(tank.lowS);
    this.high.set(tank.highS);
    this.leastPh.set(tank.leastPh);
    this.every.set(tank.checkEveryHours);
    this.from.set(tank.base ? this.shop.picker(tank.base.from) : null);
    this.to.set(tank.base ? this.shop.picker(tank.base.to) : null);
    this.state.set(tank.state);
  }

  protected save(): void {
    const [from, to, least] = [this.from(), this.to(), this.least()];
    const body = {
      id: this.id,
      version: this.view()?.tank.version ?? 0,
      name: this.name().trim(),
      slurry: this.slurry(),
      litres: this.litres(),
      leastShare: least === null ? null : least / 100,
      densityGPerCm3: this.density(),
      cup: this.cup().trim(),
      lowS: this.low(),
      highS: this.high(),
      leastPh: this.leastPh(),
      checkEveryHours: this.every(),
      base: from && to ? { from: this.shop.instantOf(from), to: this.shop.instantOf(to) } : null,
      state: this.state(),
    };
    this.sending.send('/shell/tanks', body, () => this.done.emit(), { said: 'Tank kept' });
  }
}
