import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { KilnProfile, ProfileUse } from '@kalvet/core';
import { judgeBlockProfile, profileMinutes } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { FireCurve } from './fire-curve.component';

const FIRST: KilnProfile['stretches'] = [{ toC: 900, perHourK: 300, holdMinutes: 90 }];

/** A firing as ramps and holds: moved on the curve, or typed. What a block does not bear is said at once. */
@Component({
  selector: 'kv-profile-form',
  imports: [ButtonModule, Choices, Field, FireCurve, FormsModule, InputTextModule, QuantityInput, Refusal],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <div class="fields">
        <kv-field label="Name" for="r-name" [error]="sending.fields()['name']">
          <input
            pInputText
            id="r-name"
            name="name"
            maxlength="120"
            [ngModel]="name()"
            (ngModelChange)="name.set($event)" />
        </kv-field>
        <kv-field label="For" labelId="r-use">
          <kv-choices [options]="uses" [value]="use()" (valueChange)="use.set($any($event))" labelledBy="r-use" />
        </kv-field>
        @if (profile()) {
          <kv-field label="State" labelId="r-state">
            <kv-choices
              [options]="states"
              [value]="state()"
              (valueChange)="state.set($any($event))"
              labelledBy="r-state" />
          </kv-field>
        }
      </div>
      <kv-fire-curve [stretches]="stretches()" [editable]="true" (changed)="stretches.set($event)" />
      <p>
        <b>{{ takes() }}</b>
        @for (word of refused(); track word) {
          <span class="kv-alert" role="alert"> {{ word }}. </span>
        }
      </p>
      <table class="sum">
        <thead>
          <tr>
            <th scope="col">To</th>
            <th scope="col">K an hour</th>
            <th scope="col">Held</th>
            <th scope="col"><span class="kv-hidden">Take out</span></th>
          </tr>
        </thead>
        <tbody>
          @for (each of stretches(); track $index; let i = $index) {
            <tr>
              <td>
                <kv-quantity
                  [inputId]="'r-to-' + i"
                  ariaLabel="to"
                  unit="°C"
                  [decimals]="0"
                  [suffix]="true"
                  [value]="each.toC"
                  (valueChange)="put(i, { toC: $event ?? 0 })" />
              </td>
              <td>
                <kv-quantity
                  [inputId]="'r-rate-' + i"
                  ariaLabel="kelvin an hour"
                  unit=""
                  [decimals]="0"
                  placeholder="full"
                  [value]="each.perHourK"
                  (valueChange)="put(i, { perHourK: $event })" />
              </td>
              <td>
                <kv-quantity
                  [inputId]="'r-hold-' + i"
                  ariaLabel="held"
                  unit="min"
                  [decimals]="0"
                  [suffix]="true"
                  [value]="each.holdMinutes"
                  (valueChange)="put(i, { holdMinutes: $event ?? 0 })" />
              </td>
              <td>
                @if (stretches().length > 1) {
                  <button
                    type="button"
                    class="kv-link"
                    (click)="drop(i)"
                    [attr.aria-label]="'Take out stretch ' + (i + 1)">
                    Take out
                  </button>
                }
              </td>
            </tr>
          }
        </tbody>
      </table>
      <p><button type="button" class="kv-link" data-test="add-stretch" (click)="add()">Another stretch</button></p>
      @if (sending.fields()['stretches']; as text) {
        <p class="kv-alert" role="alert">{{ text }}</p>
      }
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="save-profile" [disabled]="sending.busy()">Keep</button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="done.emit()">Back</button>
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class ProfileForm {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly profile = input<KilnProfile>();
  readonly done = output();
  protected readonly uses = [
    { code: 'dewax', label: 'dewax' },
    { code: 'shell', label: 'shells' },
    { code: 'block', label: 'blocks' },
  ];
  protected readonly states = [
    { code: 'in use', label: 'in use' },
    { code: 'put away', label: 'put away' },
  ];
  private id = newId();
  protected readonly name = signal('');
  protected readonly use = signal<ProfileUse>('shell');
  protected readonly state = signal<KilnProfile['state']>('in use');
  protected readonly stretches = signal<KilnProfile['stretches']>(FIRST);
  protected readonly takes = computed(
    () => `takes ${this.shop.amount(profileMinutes({ name: '', stretches: this.stretches() }) / 60, 'h', 1)}`,
  );
  protected readonly refused = computed(() =>
    this.use() === 'block'
      ? judgeBlockProfile({ name: '', stretches: this.stretches() }).map(({ message }) => this.shop.words(message))
      : [],
  );

  constructor() {
    effect(() => {
      const profile = this.profile();
      untracked(() => {
        if (!profile) return;
        this.id = profile.id;
        this.name.set(profile.name);
        this.use.set(profile.use);
        this.state.set(profile.state);
        this.stretches.set(profile.stretches);
      });
    });
  }

  protected put(place: number, patch: Partial<KilnProfile['stretches'][number]>): void {
    this.stretches.update((all) => all.map((each, i) => (i === place ? { ...each, ...patch } : each)));
  }

  protected add(): void {
    this.stretches.update((all) => [
      ...all,
      { ...all.at(-1)!, holdMinutes: 60, toC: Math.min(1300, all.at(-1)!.toC + 50) },
    ]);
  }

  protected drop(place: number): void {
    this.stretches.update((all) => all.filter((_, i) => i !== place));
  }

  protected save(): void {
    const body = {
      id: this.id,
      version: this.profile()?.version ?? 0,
      name: this.name().trim(),
      use: this.use(),
      stretches: this.stretches(),
      state: this.state(),
    };
    this.sending.send('/kiln/profiles', body, () => this.done.emit(), { said: 'Profile kept' });
  }
}
