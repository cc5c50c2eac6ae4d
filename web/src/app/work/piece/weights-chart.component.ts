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
import { formatFigure } from '@kalvet/core';
import { scaleLinear } from 'd3';

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
  protected readonly ticks = computed(() =>
    this.scale()
      .ticks(4)
      .map((kg) => ({ kg, x: this.scale()(kg) })),
  );
  protected readonly rows = computed(() =>
    this.lanes().map((lane) => {
      const x = this.scale();
      const plan = lane.plannedCast?.value;
      const wax = lane.castFromWax
        ? `wax says ${formatFigure(lane.castFromWax, 1)}`
        : plan
          ? `plan ${plan.toFixed(1)} kg`
          : 'no plan';
      const share = lane.deviation
        ? ` · ${lane.deviation.share < 0 ? '−' : '+'}${Math.abs(Math.round(lane.deviation.share * 100))} % of plan`
        : '';
      const wall = lane.wall ? `wall about ${formatFigure(lane.wall, 1)} of ${lane.wallTargetMm} mm` : '';
      return {
        name: lane.name,
        says: lane.cast ? `cast ${formatFigure(lane.cast, 2)}` : `${wax}${share}`,
        also: [...(lane.cast ? [`${wax}${share}`] : []), wall].filter(Boolean)[0] ?? '',
        flagged: lane.deviation?.flagged ?? false,
        why: [lane.castFromWax?.inWords, lane.plannedCast ? `plan: ${lane.plannedCast.inWords}` : '', wall]
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
