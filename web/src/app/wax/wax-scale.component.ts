import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { isOutside, toShown } from '@kalvet/core';
import { max, scaleLinear } from 'd3';
import { ShopService } from '../shared/shop.service';
import { AmountPipe } from '../shared/words.pipe';

const WIDTH = 250;

/** Plan against scale: a bar for the plan with its allowed band, dots for what waxes of this section weighed, a mark for this one. */
@Component({
  selector: 'kv-wax-scale',
  imports: [AmountPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (planned() !== null || earlier().length > 0) {
      <svg [attr.viewBox]="'0 0 ' + width + ' 54'" role="img" [attr.aria-label]="words()">
        @if (planned(); as plan) {
          <rect
            class="band"
            [attr.x]="x()(plan * (1 - band()))"
            y="12"
            [attr.width]="x()(plan * (1 + band())) - x()(plan * (1 - band()))"
            height="22" />
          <rect class="plan" x="0" y="18" [attr.width]="x()(plan)" height="10" />
          <text [attr.x]="x()(plan)" y="9" text-anchor="middle">plan {{ plan | amount: 'kg' : 2 }}</text>
        }
        @for (each of earlier(); track $index) {
          <circle class="earlier" [attr.cx]="x()(each.kg)" cy="23" r="3.6">
            <title>{{ each.label }}: {{ each.kg | amount: 'kg' : 3 }}</title>
          </circle>
        }
        @if (kg(); as own) {
          <path
            class="own"
            [class.outside]="outside()"
            [attr.transform]="'translate(' + x()(own) + ',34)'"
            d="M0 0 6 11 -6 11z" />
        }
        <line x1="0" [attr.x2]="width" y1="46" y2="46" />
        @for (tick of ticks(); track tick.text) {
          <text [attr.x]="tick.x" y="53" class="tick" text-anchor="middle">{{ tick.text }}</text>
        }
      </svg>
      <p class="kv-soft">
        {{ sign() }} of wax · band ±{{ (band() * 100).toFixed(0) }} % · dots: {{ earlier().length }} earlier
        {{ earlier().length === 1 ? 'wax' : 'waxes' }} of this section
      </p>
    }
  `,
  styles: `
    svg {
      width: 100%;
      overflow: visible;
    }
    .band {
      fill: color-mix(in srgb, var(--room-wax) 22%, var(--kv-paper));
    }
    .plan {
      fill: color-mix(in srgb, var(--room-wax) 55%, var(--kv-paper));
    }
    .earlier {
      fill: var(--kv-paper);
      stroke: var(--kv-ink-soft);
      stroke-width: 1.4;
    }
    .own {
      fill: var(--kv-ink);
    }
    .outside {
      fill: var(--kv-alert);
    }
    line {
      stroke: var(--kv-line-strong);
    }
    text {
      font-size: 9.5px;
      fill: var(--kv-ink-soft);
    }
    p {
      margin: 2px 0 10px;
      font-size: 0.85rem;
    }
  `,
})
export class WaxScale {
  private readonly shop = inject(ShopService);
  readonly planned = input.required<number | null>();
  readonly band = input.required<number>();
  readonly earlier = input.required<readonly { readonly label: string; readonly kg: number }[]>();
  readonly kg = input<number | null>(null);
  protected readonly width = WIDTH;

  protected readonly x = computed(() => {
    const most = max([this.planned() ?? 0, this.kg() ?? 0, ...this.earlier().map(({ kg }) => kg)]) ?? 1;
    return scaleLinear([0, Math.max(0.01, most) * 1.25], [8, WIDTH - 8]);
  });
  protected readonly sign = computed(() => this.shop.sign('kg'));
  /** Round numbers of the reader's unit, where they lie. */
  protected readonly ticks = computed(() => {
    const units = this.shop.units();
    const [from, to] = this.x().domain() as [number, number];
    const own = scaleLinear([toShown(from, 'kg', units), toShown(to, 'kg', units)], this.x().range());
    return own.ticks(5).map((tick) => ({ x: own(tick), text: String(tick) }));
  });
  /** By the very rule that the record is flagged with. */
  protected readonly outside = computed(() => {
    const plan = this.planned();
    const own = this.kg();
    return plan !== null && own !== null && isOutside((own - plan) / plan, this.band());
  });
  protected readonly words = computed(() => {
    const plan = this.planned();
    const parts = [
      plan === null ? 'no plan' : `plan ${this.shop.amount(plan, 'kg', 2)}`,
      this.kg() === null ? '' : `this wax ${this.shop.amount(this.kg()!, 'kg', 3)}`,
      ...this.earlier().map(({ label, kg }) => `${label} ${this.shop.amount(kg, 'kg', 3)}`),
    ];
    return parts.filter(Boolean).join(', ');
  });
}
