import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { CoatRow, DrynessMeans, PlaceAir } from '@kalvet/core';
import { DRYNESS_MEANS, REFERENCE_K } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { newId } from '../shared/ids';
import { May } from '../shared/may.directive';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { ShopService } from '../shared/shop.service';
import { Submission } from '../shared/submission';
import { shareAt } from './coat-rows';
import { HangForm } from './hang-form.component';
import { ShapeForm } from './shape-form.component';
import { TreeCoatsForm } from './tree-coats-form.component';

const MEANS: Readonly<Record<DrynessMeans, string>> = {
  conductivity: 'conductivity',
  scale: 'scale',
  touch: 'by hand',
};

/** How a tree's last coat dries: the sum, what somebody found, and the wall that it adds to. */
@Component({
  selector: 'kv-drying-card',
  imports: [
    ButtonModule,
    Choices,
    Field,
    FormsModule,
    HangForm,
    InputTextModule,
    May,
    QuantityInput,
    Refusal,
    ShapeForm,
    TreeCoatsForm,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>{{ row().label }}</h2>
    <p class="kv-soft">{{ row().title }}</p>
    @if (sum(); as sum) {
      <table class="sum">
        <tbody>
          @for (line of sum.lines; track line.what) {
            <tr>
              <th scope="row">{{ line.what }}</th>
              <td>{{ line.value }}</td>
            </tr>
          }
        </tbody>
        <tfoot>
          <tr>
            <th scope="row">{{ sum.what }}</th>
            <td>
              <b>{{ sum.value }}</b>
            </td>
          </tr>
        </tfoot>
      </table>
      @for (look of looks(); track look) {
        <p class="look">{{ look }}</p>
      }
    } @else {
      <p class="kv-soft">No coat dries on it, or nobody reads the air it hangs in.</p>
    }
    @if (row().drying) {
      <form *kvMay="'look at coat'; room: 'shell'" (ngSubmit)="(false)" autocomplete="off">
        <h3>Somebody looked</h3>
        <kv-field label="By" labelId="d-means">
          <kv-choices [options]="means" [value]="by()" (valueChange)="by.set($any($event))" labelledBy="d-means" />
        </kv-field>
        <div class="fields">
          <kv-field label="So far dry" unit="%" for="d-share" optional [error]="sending.fields()['share']">
            <kv-quantity inputId="d-share" unit="%" [decimals]="0" [(value)]="percent" />
          </kv-field>
          <kv-field label="Where, what" for="d-note" optional [error]="sending.fields()['note']">
            <input
              pInputText
              id="d-note"
              name="note"
              maxlength="500"
              [ngModel]="note()"
              (ngModelChange)="note.set($event)" />
          </kv-field>
        </div>
        <kv-refusal [submission]="sending" (reload)="cancelled.emit()" />
        <div class="row">
          <button pButton type="button" size="small" data-test="dry" [disabled]="sending.busy()" (click)="look(true)">
            It is dry
          </button>
          <button
            pButton
            type="button"
            size="small"
            severity="secondary"
            data-test="wet"
            [disabled]="sending.busy()"
            (click)="look(false)">
            Still wet
          </button>
        </div>
      </form>
    }
    <h3>Wall and weight</h3>
    <table class="sum">
      <tbody>
        <tr>
          <th scope="row">Wall so far{{ row().wall.measured ? ', from what was measured' : '' }}</th>
          <td>{{ shop.amount(row().wall.nowMm, 'mm', 1) }}</td>
        </tr>
        <tr>
          <th scope="row">When it is sealed</th>
          <td>{{ shop.amount(row().wall.sealedMm, 'mm', 1) }}</td>
        </tr>
        @if (row().lift; as lift) {
          <tr>
            <th scope="row">Wax and sealed shell</th>
            <td [class.kv-alert]="lift.tooHeavy">
              {{ shop.amount(lift.weight.value, 'kg', 1) }}{{ lift.tooHeavy ? ': two people or a hoist' : '' }}
            </td>
          </tr>
        }
        @if (row().poured; as poured) {
          <tr>
            <th scope="row">Shell and metal after the pour</th>
            <td [class.kv-alert]="poured.tooHeavy">
              {{ shop.amount(poured.weight.value, 'kg', 1) }}{{ poured.tooHeavy ? ': two people or a hoist' : '' }}
            </td>
          </tr>
        }
        @for (each of strength(); track each.what) {
          <tr>
            <th scope="row">{{ each.what }}</th>
            <td [class.kv-alert]="each.weak">{{ each.words }}</td>
          </tr>
        }
      </tbody>
    </table>
    @for (section of row().sections; track section.id) {
      <kv-shape-form *kvMay="'set shape'; room: 'shell'" [section]="section" />
    }
    <h3>Where it hangs</h3>
    @if (places().length > 0) {
      <kv-hang-form
        *kvMay="'hang trees'; room: 'shell'"
        [treeIds]="[row().treeId]"
        [places]="places()"
        [now]="row().hangs"
        [inCard]="true" />
    }
    <h3>Its coats</h3>
    <p>
      {{ row().coats.length }} coats{{
        row().coatPlan ? ' by ' + row().coatPlan!.name + ', number ' + row().coatPlan!.number : ''
      }}
      @if (row().coatPlan?.why; as why) {
        <span>, differs: {{ why }}</span>
      }
    </p>
    <kv-tree-coats-form *kvMay="'change coats'; room: 'shell'" [row]="row()" />
  `,
  styleUrl: '../shared/panel-form.css',
})
export class DryingCard {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly row = input.required<CoatRow>();
  readonly places = input.required<readonly PlaceAir[]>();
  readonly cancelled = output();
  protected readonly means = DRYNESS_MEANS.map((code) => ({ code, label: MEANS[code] }));
  protected readonly by = signal<DrynessMeans>('conductivity');
  protected readonly percent = signal<number | null>(null);
  protected readonly note = signal('');
  private id = newId();

  protected readonly sum = computed(() => {
    const { drying } = this.row();
    if (!drying) return undefined;
    const { referenceMinutes, referenceK, learned, airflow, meanK, dryAt, dippedAt } = drying;
    const hours = (minutes: number) => this.shop.amount(minutes / 60, 'h', 1);
    const share = shareAt(this.row(), this.shop.now()) ?? 0;
    const needs = (referenceMinutes / 60) * referenceK * learned.factor * airflow;
    return {
      lines: [
        { what: 'Dipped', value: this.shop.when(dippedAt) },
        {
          what: `Takes in air of ${this.shop.amount(referenceK, 'K', referenceK === REFERENCE_K ? 2 : 1)}, by coat and hollow`,
          value: hours(referenceMinutes),
        },
        ...(learned.n > 0
          ? [{ what: `Learned here, from ${learned.n} looks`, value: `× ${learned.factor.toFixed(2)}` }]
          : []),
        ...(airflow === 1 ? [] : [{ what: 'Draught where it hangs', value: `× ${airflow.toFixed(2)}` }]),
        { what: 'So it takes', value: `${needs.toFixed(1)} K·h` },
        { what: `Until now, ${(share * needs).toFixed(1)} K·h`, value: `${Math.floor(share * 100)} %` },
        ...(meanK === null ? [] : [{ what: 'Its air, on the mean until dry', value: this.shop.amount(meanK, 'K', 1) }]),
      ],
      what: share >= 1 ? 'Dry since' : 'Dry',
      value: dryAt ? this.shop.when(dryAt) : 'never in this air',
    };
  });

  protected readonly looks = computed(() =>
    (this.row().drying?.looks ?? []).map(({ at, means, dry, share }) => {
      const far = share === null ? '' : ` (${Math.round(share * 100)} %)`;
      return `${this.shop.when(at)}: ${dry ? 'dry' : 'still wet'}${far}, ${MEANS[means]}`;
    }),
  );

  protected readonly strength = computed(() =>
    this.row().strength.map(({ part, sizeMm, stress, share, coatsMore }) => ({
      what: `${part === 'round' ? 'Round, radius' : 'Flat, side'} ${this.shop.amount(sizeMm, 'mm', 0)}`,
      weak: share > 1,
      words: `${this.shop.amount(stress.value, 'MPa', 2)}, ${Math.round(share * 100)} % of what it may${share > 1 ? `: ${coatsMore} coats more, or ribs` : ''}`,
    })),
  );

  protected look(dry: boolean): void {
    const percent = this.percent();
    const body = {
      id: this.id,
      stepId: this.row().drying!.stepId,
      at: this.shop.exactNow(),
      means: this.by(),
      dry,
      share: percent === null ? null : percent / 100,
      note: this.note().trim(),
    };
    this.sending.send(
      '/shell/looks',
      body,
      () => {
        this.id = newId();
        this.percent.set(null);
        this.note.set('');
      },
      { said: dry ? 'Dry' : 'Still wet' },
    );
  }
}
