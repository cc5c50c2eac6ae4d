import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  computed,
  inject,
  input,
  signal,
} from '@angular/core';
import type { LaneView } from '@kalvet/core';
import type { Figure } from '@kalvet/core';
import { formatFigure, fromShown, toShown } from '@kalvet/core';
import { scaleLinear } from 'd3';
import { ShopService } from '../../shared/shop.service';

const LABEL_PX = 92;
const TEXT_PX = 250;
const ROW_PX = 34;

/** Plan against scale: a tick for the plan with its allowed band, a dot for what the wax says, a diamond for the casting. */
@Component({
  selector: 'kv-weights-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './weights-chart.component.html',
  styles: `
    :host {
      display: block;
    }
    text {
      font-size: 12.5px;
      fill: var(--kv-ink);
    }
    .name {
      font-weight: 600;
      font-size: 13px;
    }
    .soft {
      fill: var(--kv-ink-soft);
      font-size: 11.5px;
    }
    .grid {
      stroke: var(--kv-line);
    }
    .band {
      fill: var(--kv-strip);
    }
    .plan {
      stroke: var(--kv-ink);
      stroke-width: 2;
    }
    .wax {
      fill: var(--room-wax);
    }
    .spread {
      stroke: var(--room-wax);
      stroke-width: 2;
    }
    .cast {
      fill: var(--room-pour);
      stroke: var(--kv-ink);
    }
    .bad {
      fill: var(--kv-alert);
      font-weight: 600;
    }
  `,
})
export class WeightsChart {
  private readonly shop = inject(ShopService);
  readonly lanes = input.required<readonly LaneView[]>();
  readonly band = input.required<number>();
  protected readonly width = signal(680);
  protected readonly label = LABEL_PX;
  protected readonly rowPx = ROW_PX;

  protected readonly scale = computed(() => {
    const most = Math.max(
      0.1,
      ...this.lanes().flatMap((lane) =>
        [lane.plannedCast, lane.castFromWax, lane.cast].map((figure) => figure?.value ?? 0),
      ),
    );
    return scaleLinear()
      .domain([0, most * (1 + this.band())])
      .range([0, Math.max(120, this.width() - LABEL_PX - TEXT_PX)])
      .nice(4);
  });
  protected readonly textX = computed(() => (this.scale().range()[1] ?? 0) + 14);
  /** Round numbers of the reader's unit, where they lie. */
  protected readonly ticks = computed(() => {
    const units = this.shop.units();
    const [from, to] = this.scale().domain() as [number, number];
    return scaleLinear([toShown(from, 'kg', units), toShown(to, 'kg', units)], [0, 1])
      .ticks(4)
      .map((value) => ({
        text: `${value} ${this.shop.sign('kg')}`,
        x: this.scale()(fromShown(value, 'kg', units)),
      }));
  });
  protected readonly rows = computed(() =>
    this.lanes().map((lane) => {
      const x = this.scale();
      const print = (figure: Figure, decimals: number) => formatFigure(figure, decimals, this.shop.units());
      const plan = lane.plannedCast?.value;
      const wax = lane.castFromWax
        ? `wax says ${print(lane.castFromWax, 1)}`
        : plan
          ? `plan ${this.shop.amount(plan, 'kg', 1)}`
          : 'no plan';
      const share = lane.deviation
        ? ` · ${lane.deviation.share < 0 ? '−' : '+'}${Math.abs(Math.round(lane.deviation.share * 100))} % of plan`
        : '';
      const wall = lane.wall
        ? `wall about ${print(lane.wall, 1)} of ${this.shop.amount(lane.wallTargetMm ?? 0, 'mm', 1)}`
        : '';
      return {
        name: lane.name,
        says: lane.cast ? `cast ${print(lane.cast, 2)}` : `${wax}${share}`,
        also: [...(lane.cast ? [`${wax}${share}`] : []), wall].filter(Boolean)[0] ?? '',
        flagged: lane.deviation?.flagged ?? false,
        why: [
          lane.castFromWax ? this.shop.words(lane.castFromWax.inWords) : '',
          lane.plannedCast ? `plan: ${this.shop.words(lane.plannedCast.inWords)}` : '',
          wall,
        ]
          .filter(Boolean)
          .join('; '),
        plan:
          plan === undefined
            ? null
            : { x: x(plan), low: x(plan * (1 - this.band())), high: x(plan * (1 + this.band())) },
        wax: lane.castFromWax ? { x: x(lane.castFromWax.value), spread: x(lane.castFromWax.plusMinus ?? 0) } : null,
        cast: lane.cast ? x(lane.cast.value) : null,
      };
    }),
  );

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(() => this.width.set(host.clientWidth));
    watch.observe(host);
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }
}
