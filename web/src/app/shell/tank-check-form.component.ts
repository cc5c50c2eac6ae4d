import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { InstrumentsAnswer, TankView, TopUpKind } from '@kalvet/core';
import { TOP_UPS, minutesBetween } from '@kalvet/core';
import { catchError, map, of } from 'rxjs';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Api } from '../shared/api.service';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { When } from '../shared/when/when.component';

/** What was said longer ago is silence, minutes. */
const HEARD_MIN = 5;

/** What somebody found at a tank: three taps where all is well, and the numbers that were read. */
@Component({
  selector: 'kv-tank-check-form',
  imports: [ButtonModule, Choices, Field, FormsModule, InputTextModule, QuantityInput, Refusal, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <h2>{{ view().tank.name }}</h2>
      <kv-field label="The mixer" labelId="k-mixer" [error]="sending.fields()['mixer']">
        <kv-choices [options]="mixers" [value]="mixer()" (valueChange)="mixer.set($any($event))" labelledBy="k-mixer" />
      </kv-field>
      <div class="fields">
        <kv-field
          [label]="'Viscosity, ' + view().tank.cup"
          unit="s"
          for="k-s"
          optional
          [error]="sending.fields()['viscosityS']">
          <kv-quantity inputId="k-s" unit="s" [decimals]="1" [(value)]="viscosity" />
        </kv-field>
        <kv-field label="Slurry" unit="°C" for="k-t" optional [error]="sending.fields()['celsius']">
          <kv-quantity inputId="k-t" unit="°C" [decimals]="1" [(value)]="celsius" />
        </kv-field>
        <kv-field label="pH" for="k-ph" optional [error]="sending.fields()['ph']">
          <kv-quantity inputId="k-ph" unit="" [decimals]="1" [(value)]="ph" />
        </kv-field>
        <kv-field label="Density" unit="g/cm3" for="k-d" optional [error]="sending.fields()['densityGPerCm3']">
          <kv-quantity inputId="k-d" unit="g/cm3" [decimals]="2" [(value)]="density" />
        </kv-field>
        <kv-field label="How full" unit="%" for="k-level" optional [error]="sending.fields()['level']">
          <kv-quantity inputId="k-level" unit="%" [decimals]="0" [(value)]="level" />
        </kv-field>
        <kv-field label="Looked at" for="k-at" [error]="sending.fields()['at']">
          <kv-when inputId="k-at" [time]="true" [(value)]="at" />
        </kv-field>
      </div>
      @for (said of heard(); track said.name) {
        <p>
          {{ said.name }}: <b>{{ said.words }}</b>
          <button type="button" class="kv-link" [attr.data-test]="'take-' + said.kind" (click)="takeOver(said)">
            Take it
          </button>
        </p>
      }
      <label class="tick">
        <input
          type="checkbox"
          class="kv-tick"
          name="sieved"
          [ngModel]="sieved()"
          (ngModelChange)="sieved.set($event)" />
        Sieved
      </label>
      <h3>Added</h3>
      <div class="fields">
        @for (what of topUps; track what) {
          <kv-field [label]="what" unit="kg" [for]="'k-' + what" [error]="wrongOf(what)">
            <kv-quantity
              [inputId]="'k-' + what"
              unit="kg"
              [decimals]="1"
              [value]="added()[what] ?? null"
              (valueChange)="add(what, $event)" />
          </kv-field>
        }
        <kv-field label="Lot" for="k-lot" [error]="sending.fields()['toppedUp.0.lot']">
          <input pInputText id="k-lot" name="lot" maxlength="60" [ngModel]="lot()" (ngModelChange)="lot.set($event)" />
        </kv-field>
      </div>
      <kv-field label="Note" for="k-note" [error]="sending.fields()['note']">
        <input
          pInputText
          id="k-note"
          name="note"
          maxlength="1000"
          [ngModel]="note()"
          (ngModelChange)="note.set($event)" />
      </kv-field>
      @if (mixer() === 'stopped') {
        <p class="kv-alert" role="alert">
          Nothing is dipped in this tank from then on until somebody who leads the room decides it, and what was dipped
          since it was last found good is in doubt.
        </p>
      }
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      <div class="row">
        <button pButton type="submit" data-test="save-check" [disabled]="sending.busy()">Write down</button>
        <button pButton type="button" severity="secondary" [text]="true" (click)="cancelled.emit()">Back</button>
      </div>
    </form>
  `,
  styleUrl: '../shared/panel-form.css',
})
export class TankCheckForm {
  private readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly view = input.required<TankView>();
  readonly done = output();
  readonly cancelled = output();
  protected readonly mixers = [
    { code: 'running', label: 'turns' },
    { code: 'stopped', label: 'stands still' },
  ];
  protected readonly topUps = TOP_UPS;
  protected readonly mixer = signal<'running' | 'stopped' | undefined>(undefined);
  protected readonly viscosity = signal<number | null>(null);
  protected readonly celsius = signal<number | null>(null);
  protected readonly ph = signal<number | null>(null);
  protected readonly density = signal<number | null>(null);
  protected readonly level = signal<number | null>(null);
  protected readonly at = signal<Date | null>(this.shop.pickerNow());
  protected readonly sieved = signal(false);
  protected readonly added = signal<Partial<Record<TopUpKind, number | null>>>({});
  protected readonly lot = signal('');
  protected readonly note = signal('');
  /** What the tank's own cup and scale said in the last minutes. */
  protected readonly heard = toSignal(
    inject(Api)
      .get<InstrumentsAnswer>('/instruments')
      .pipe(
        map(({ instruments, now }) =>
          instruments.flatMap(({ name, kind, ofId, last }) =>
            ofId === this.view().tank.id && last && minutesBetween(last.at, now) < HEARD_MIN
              ? [{ name, kind, value: last.value, words: this.shop.amount(last.value, kind === 'cup' ? 's' : 'kg', 1) }]
              : [],
          ),
        ),
        catchError(() => of([])),
      ),
    { initialValue: [] },
  );
  private readonly id = newId();
  private readonly said = computed(() =>
    TOP_UPS.flatMap((what) => {
      const kg = this.added()[what];
      return kg === undefined || kg === null ? [] : [{ what, kg, lot: this.lot().trim() }];
    }),
  );

  protected takeOver({ kind, value }: { readonly kind: string; readonly value: number }): void {
    if (kind === 'cup') this.viscosity.set(value);
    else this.level.set(Math.round((value / this.view().fullKg) * 100));
  }

  protected add(what: TopUpKind, kg: number | null): void {
    this.added.update((added) => ({ ...added, [what]: kg }));
  }

  protected wrongOf(what: TopUpKind): string | undefined {
    const place = this.said().findIndex((each) => each.what === what);
    return place < 0 ? undefined : this.sending.fields()[`toppedUp.${place}.kg`];
  }

  protected save(): void {
    if (this.mixer() === undefined)
      return this.sending.refuse('Say whether the mixer turns.', { mixer: 'does it turn?' });
    const at = this.at();
    const level = this.level();
    const body = {
      id: this.id,
      tankId: this.view().tank.id,
      at: at ? this.shop.instantOf(at) : this.shop.exactNow(),
      mixer: this.mixer(),
      viscosityS: this.viscosity(),
      celsius: this.celsius(),
      densityGPerCm3: this.density(),
      ph: this.ph(),
      level: level === null ? null : level / 100,
      sieved: this.sieved(),
      toppedUp: this.said(),
      note: this.note().trim(),
    };
    this.sending.send('/shell/tank-checks', body, () => this.done.emit(), {
      said: `${this.view().tank.name} looked at`,
    });
  }
}
