import { ChangeDetectionStrategy, Component, computed, inject, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EstimateKind, Figure } from '@kalvet/core';
import { waxFromDisplacement, waxFromSize, waxLikeAnother } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { SelectModule } from 'primeng/select';
import { Choices } from '../shared/choices.component';
import { Field } from '../shared/field.component';
import { FigureText } from '../shared/figure.component';
import { newId } from '../shared/ids';
import { QuantityInput } from '../shared/quantity-input.component';
import { Refusal } from '../shared/refusal.component';
import { Submission } from '../shared/submission';
import { ModelDesk } from './model-desk';

const KINDS = [
  { code: 'size', label: 'Its size' },
  { code: 'similar', label: 'Another work' },
  { code: 'displacement', label: 'Held under water' },
] as const;

/** Other ways to know what a wax will weigh, where there is no model, or to hold beside it. */
@Component({
  selector: 'kv-other-ways',
  imports: [ButtonModule, Choices, Field, FigureText, FormsModule, QuantityInput, Refusal, SelectModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <details>
      <summary data-test="other-ways">Without a model: a size, another work, water</summary>
      <form (ngSubmit)="save()" autocomplete="off">
        <kv-choices [options]="kinds" [value]="kind()" (valueChange)="kind.set($event)" ariaLabel="How it is known" />
        @if (kind() === 'size') {
          <div class="three">
            @for (side of sides; track side; let i = $index) {
              <kv-field [label]="side" unit="mm" [for]="'size-' + i">
                <kv-quantity
                  [inputId]="'size-' + i"
                  unit="mm"
                  [decimals]="0"
                  [value]="size()[i]!"
                  (valueChange)="putSize(i, $event)" />
              </kv-field>
            }
          </div>
        } @else if (kind() === 'similar') {
          <div class="two">
            <kv-field label="Like" for="similar-work">
              <p-select
                inputId="similar-work"
                name="similar"
                [options]="$any(similar())"
                optionLabel="label"
                [ngModel]="other()"
                (ngModelChange)="other.set($event)"
                appendTo="body" />
            </kv-field>
            <kv-field label="times as long" for="similar-ratio">
              <kv-quantity
                inputId="similar-ratio"
                unit="×"
                [decimals]="2"
                [value]="ratio()"
                (valueChange)="ratio.set($event)" />
            </kv-field>
          </div>
        } @else {
          <kv-field
            label="The wax displaces"
            unit="l"
            for="displaced"
            hint="A hollow wax is held under, its inside filled.">
            <kv-quantity
              inputId="displaced"
              unit="l"
              [decimals]="3"
              [value]="litres()"
              (valueChange)="litres.set($event)" />
          </kv-field>
        }
        @if (desk.sections().length > 1) {
          <kv-field label="Section" for="estimate-section">
            <p-select
              inputId="estimate-section"
              name="section"
              [options]="$any(desk.sections())"
              optionLabel="name"
              optionValue="id"
              [ngModel]="sectionId() ?? desk.section()?.id"
              (ngModelChange)="sectionId.set($event)"
              appendTo="body" />
          </kv-field>
        }
        @if (figure(); as wax) {
          <p>Wax <kv-figure [figure]="wax" [decimals]="2" /></p>
        }
        <kv-refusal [submission]="sending" (reload)="changed.emit(); sending.reset()" />
        <button pButton type="submit" size="small" data-test="save-estimate" [disabled]="!figure() || sending.busy()">
          Keep it
        </button>
      </form>
    </details>
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
      justify-items: start;
      padding-top: 8px;
    }
    .two,
    .three {
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      gap: 8px;
      width: 100%;
    }
    .two {
      grid-template-columns: 1fr 110px;
    }
  `,
})
export class OtherWays {
  protected readonly desk = inject(ModelDesk);
  protected readonly sending = new Submission();
  readonly changed = output();
  protected readonly kinds = KINDS;
  protected readonly sides = ['High', 'Wide', 'Deep'];
  protected readonly kind = signal<Exclude<EstimateKind, 'model'>>('size');
  protected readonly size = signal<readonly (number | null)[]>([null, null, null]);
  protected readonly litres = signal<number | null>(null);
  protected readonly ratio = signal<number | null>(1);
  protected readonly other = signal<{ title: string; waxKg: number } | null>(null);
  protected readonly sectionId = signal<string | null>(null);
  protected readonly similar = computed(() =>
    (this.desk.answer()?.similar ?? []).map((each) => ({
      ...each,
      label: `${each.title}, ${each.waxKg.toFixed(2)} kg`,
    })),
  );
  private readonly section = computed(
    () => this.desk.sections().find(({ id }) => id === this.sectionId()) ?? this.desk.section(),
  );

  protected readonly figure = computed<(Figure & { readonly areaCm2?: number }) | null>(() => {
    const is = (value: number | null): value is number => value !== null && value > 0;
    const [size, litres, ratio, other] = [this.size(), this.litres(), this.ratio(), this.other()];
    if (this.kind() === 'size')
      return size.every(is) ? waxFromSize(size as [number, number, number], this.section()?.wallMm ?? 5) : null;
    if (this.kind() === 'similar') return other && is(ratio) ? waxLikeAnother(other.waxKg, ratio, other.title) : null;
    return is(litres) ? waxFromDisplacement(litres) : null;
  });

  protected putSize(at: number, value: number | null): void {
    this.size.update((size) => size.map((each, i) => (i === at ? value : each)));
  }

  protected save(): void {
    const [wax, section] = [this.figure(), this.section()];
    if (!wax || !section) return;
    const add = {
      ...{ id: newId(), kind: this.kind(), waxKg: wax.value, plusMinusKg: wax.plusMinus ?? null, curve: null },
      ...{ areaCm2: wax.areaCm2 ?? null, says: wax.inWords, modelId: null },
    };
    this.sending.send(
      `/sections/${section.id}/estimates`,
      { version: section.version, add, putAway: null },
      () => this.changed.emit(),
      { method: 'put', said: `What ${section.name} will weigh is kept` },
    );
  }
}
