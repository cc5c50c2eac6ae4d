import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { HeatReading, HeatRecord, Instant } from '@kalvet/core';
import { alloyOf, cooledTo, coolingPerMinOf, cupStands, minutesBetween } from '@kalvet/core';
import { line, scaleLinear } from 'd3';
import { ShopService } from '../shared/shop.service';
import { PLACE_WORDS } from './pour-words';

const WIDTH = 720;
const HEIGHT = 230;
const LEFT = 56;
const BOTTOM = 40;
const TOP = 14;

/** A temperature of the heat, wherever it was kept. */
interface Point {
  readonly at: Instant;
  readonly celsius: number;
  readonly plusMinusK: number;
  readonly where: HeatReading['where'];
  readonly label: string;
}

/** The heat's temperatures over its minutes: crucible and cups as they were read, each cup's target, and how the crucible was thought to cool. */
@Component({
  selector: 'kv-heat-curve',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as d) {
      <svg [attr.viewBox]="box" role="img" [attr.aria-label]="d.said">
        @for (tick of d.ticks; track tick.y) {
          <line class="grid" [attr.x1]="left" [attr.x2]="width - 8" [attr.y1]="tick.y" [attr.y2]="tick.y" />
          <text [attr.x]="left - 8" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.label }}</text>
        }
        @for (tick of d.minutes; track tick.x) {
          <text [attr.x]="tick.x" [attr.y]="height - 22" text-anchor="middle">{{ tick.label }}</text>
        }
        <text [attr.x]="width - 8" [attr.y]="height - 6" text-anchor="end">minutes from the first cup</text>
        <path class="cools" [attr.d]="d.cools" />
        @for (target of d.targets; track target.x) {
          <rect class="target" [attr.x]="target.x - 7" [attr.y]="target.top" width="14" [attr.height]="target.height" />
        }
        @for (point of d.points; track $index) {
          <line class="sure" [attr.x1]="point.x" [attr.x2]="point.x" [attr.y1]="point.top" [attr.y2]="point.bottom" />
          @if (point.where === 'cup') {
            <circle [class.off]="point.off" [attr.cx]="point.x" [attr.cy]="point.y" r="5">
              <title>{{ point.said }}</title>
            </circle>
          } @else {
            <rect class="pot" [attr.x]="point.x - 4.5" [attr.y]="point.y - 4.5" width="9" height="9">
              <title>{{ point.said }}</title>
            </rect>
          }
        }
      </svg>
      <p class="kv-soft">
        Squares: crucible; circles: at the cups, red where too cold for the wall or hotter than the alloy is poured;
        bars: each cup’s target; the line: how the crucible was thought to cool.
      </p>
    } @else {
      <p class="kv-soft">No temperature was read.</p>
    }
  `,
  styles: `
    svg {
      width: 100%;
      height: auto;
    }
    text {
      font-size: 12px;
      fill: var(--kv-ink-soft);
    }
    .grid {
      stroke: var(--kv-line);
    }
    .cools {
      fill: none;
      stroke: var(--kv-ink-soft);
      stroke-dasharray: 5 4;
    }
    .target {
      fill: var(--room-pour);
      opacity: 0.35;
    }
    .sure {
      stroke: var(--kv-ink-soft);
    }
    circle {
      fill: var(--room-pour);
      stroke: var(--kv-paper);
    }
    circle.off {
      fill: var(--kv-alert);
    }
    .pot {
      fill: var(--kv-ink);
    }
  `,
})
export class HeatCurve {
  private readonly shop = inject(ShopService);
  readonly heat = input.required<HeatRecord>();
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly left = LEFT;

  private readonly points = computed((): Point[] => {
    const { readings, pourings } = this.heat();
    const names = new Map(pourings.map(({ treeId, label }) => [treeId, label]));
    return [
      ...readings
        .filter(({ where }) => where !== 'mould')
        .map(({ at, celsius, plusMinusK, where, treeId }) => ({
          at,
          celsius,
          plusMinusK,
          where,
          label: treeId === null ? PLACE_WORDS[where] : (names.get(treeId) ?? ''),
        })),
      ...pourings.flatMap(({ startedAt, metalC, tempWhere, label }) =>
        startedAt !== null && metalC !== null
          ? [{ at: startedAt, celsius: metalC, plusMinusK: 0, where: (tempWhere ?? 'cup') as Point['where'], label }]
          : [],
      ),
    ].sort((a, b) => a.at.localeCompare(b.at));
  });

  protected readonly drawn = computed(() => {
    const points = this.points();
    const { pourings } = this.heat();
    const poured = pourings.filter(({ startedAt }) => startedAt !== null);
    const first = poured.map(({ startedAt }) => startedAt!).sort()[0] ?? points[0]?.at;
    if (points.length === 0 || first === undefined) return undefined;
    const minute = (at: Instant) => minutesBetween(first, at);
    const targets = poured.map(({ startedAt, cup }) => ({ at: minute(startedAt!), cup }));
    const from = Math.min(...points.map(({ at }) => minute(at)), -1);
    const to = Math.max(...points.map(({ at }) => minute(at)), ...targets.map(({ at }) => at), 1) + 1;
    const values = [
      ...points.flatMap(({ celsius, plusMinusK }) => [celsius - plusMinusK, celsius + plusMinusK]),
      ...targets.flatMap(({ cup }) => [cup.value - (cup.plusMinus ?? 0), cup.value + (cup.plusMinus ?? 0)]),
    ];
    const x = scaleLinear([from, to], [LEFT, WIDTH - 14]);
    const y = scaleLinear([Math.min(...values) - 10, Math.max(...values) + 10], [HEIGHT - BOTTOM, TOP]);
    const k = coolingPerMinOf(this.shop.settings().crucibleLossK);
    const hot = points.filter(({ where }) => where === 'furnace' || where === 'ladle').at(-1);
    const cools = hot
      ? Array.from({ length: 24 }, (_, i): [number, number] => {
          const begins = minute(hot.at);
          const at = begins + ((to - begins) * i) / 23;
          return [x(at), y(cooledTo(hot.celsius, at - begins, k))];
        })
      : [];
    const cupOf = new Map(poured.map(({ label, cup }) => [label, cup]));
    return {
      ticks: y.ticks(5).map((tick) => ({ y: y(tick), label: this.shop.amount(tick, '°C', 0) })),
      minutes: x.ticks(8).map((tick) => ({ x: x(tick), label: String(tick) })),
      cools: line()(cools),
      targets: targets.map(({ at, cup }) => {
        const half = cup.plusMinus ?? 0;
        return { x: x(at), top: y(cup.value + half), height: y(cup.value - half) - y(cup.value + half) };
      }),
      points: points.map((point) => {
        const cup = point.where === 'cup' ? cupOf.get(point.label) : undefined;
        return {
          where: point.where,
          x: x(minute(point.at)),
          y: y(point.celsius),
          top: y(point.celsius + point.plusMinusK),
          bottom: y(point.celsius - point.plusMinusK),
          off: cup !== undefined && cupStands(point.celsius, cup, alloyOf(this.heat().alloyId)) !== 'good',
          said: `${point.label}: ${this.shop.amount(point.celsius, '°C', 0)}`,
        };
      }),
      said: `Temperatures from ${this.shop.at(points[0]!.at)}: ${points.map(({ label, celsius }) => `${label} ${this.shop.amount(celsius, '°C', 0)}`).join(', ')}`,
    };
  });
}
