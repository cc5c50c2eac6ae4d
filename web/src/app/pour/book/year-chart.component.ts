import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { BookedHeat } from '@kalvet/core';
import { alloyOf, heatSums, toMs } from '@kalvet/core';
import { line, scaleLinear, scaleUtc, utcMonth } from 'd3';
import { ShopService } from '../../shared/shop.service';
import type { Measure } from './measures';

const WIDTH = 1160;
const HEIGHT = 200;
const LEFT = 52;
const BOTTOM = 24;
/** The line is the mean of so many heats, by their kilograms. */
const TOGETHER = 5;
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** A measure of each heat over the year, with the mean of the last five. */
@Component({
  selector: 'kv-year-chart',
  imports: [RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="box" role="group" [attr.aria-label]="measure().label + ' of each heat over the year'">
      @for (tick of drawn().ticks; track tick.label) {
        <line class="grid" [attr.x1]="left" [attr.x2]="width" [attr.y1]="tick.y" [attr.y2]="tick.y" />
        <text [attr.x]="left - 8" [attr.y]="tick.y + 4" text-anchor="end">{{ tick.label }}</text>
      }
      @for (month of drawn().months; track month.label) {
        <text [attr.x]="month.x" [attr.y]="height - 6">{{ month.label }}</text>
      }
      @if (drawn().mean) {
        <path class="mean" [attr.d]="drawn().mean" />
      }
      @for (dot of drawn().dots; track dot.id) {
        <a [routerLink]="['/heats', dot.id]" [attr.aria-label]="dot.said">
          <circle [class.other]="dot.other" [attr.cx]="dot.x" [attr.cy]="dot.y" r="5">
            <title>{{ dot.said }}</title>
          </circle>
        </a>
      }
    </svg>
    <p class="kv-soft">Each heat, {{ drawn().alloys }}; the line is the mean of five by their kilograms.</p>
  `,
  styles: `
    svg {
      width: 100%;
      min-width: 620px;
      height: auto;
    }
    text {
      font-size: 12px;
      fill: var(--kv-ink-soft);
    }
    .grid {
      stroke: var(--kv-line);
    }
    .mean {
      fill: none;
      stroke: var(--kv-ink);
      stroke-width: 1.5;
    }
    circle {
      fill: var(--room-pour);
      stroke: var(--kv-paper);
    }
    circle.other {
      fill: var(--kv-paper);
      stroke: var(--room-pour);
      stroke-width: 2;
    }
  `,
})
export class YearChart {
  private readonly shop = inject(ShopService);
  readonly heats = input.required<readonly BookedHeat[]>();
  readonly measure = input.required<Measure>();
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly left = LEFT;

  protected readonly drawn = computed(() => {
    const { key, unit } = this.measure();
    const inTime = [...this.heats()].reverse();
    const known = inTime.flatMap((heat) => {
      const value = heatSums([heat])[key];
      return value === null ? [] : [{ heat, value: unit === '%' ? value * 100 : value }];
    });
    const ms = known.map(({ heat }) => toMs(heat.at));
    const DAY = 86_400_000;
    const x = scaleUtc([Math.min(...ms) - 3 * DAY, Math.max(...ms) + 3 * DAY], [LEFT, WIDTH - 10]);
    const most = Math.max(...known.map(({ value }) => value), 0);
    const least = Math.min(...known.map(({ value }) => value), 0);
    const y = scaleLinear([least, most || 1], [HEIGHT - BOTTOM, 10]).nice(4);
    const said = (value: number) => (unit === '%' ? `${value.toFixed(1)} %` : `${value.toFixed(2)} ${unit}`);
    const usual = known[0] ? mostOf(known.map(({ heat }) => heat.alloyId)) : '';
    // A point a pour day: the last five heats by then.
    const mean = known.flatMap(({ heat }, i): [number, number][] => {
      if (known[i + 1]?.heat.at.slice(0, 10) === heat.at.slice(0, 10)) return [];
      const last = known.slice(Math.max(0, i - TOGETHER + 1), i + 1).map((each) => each.heat);
      const together = heatSums(last)[key]!;
      return [[x(toMs(heat.at)), y(unit === '%' ? together * 100 : together)]];
    });
    const others = [...new Set(known.map(({ heat }) => heat.alloyId))].filter((id) => id !== usual);
    return {
      ticks: y.ticks(4).map((tick) => ({ y: y(tick), label: unit === '%' ? `${tick} %` : String(tick) })),
      months:
        known.length === 0
          ? []
          : utcMonth.range(utcMonth.floor(x.domain()[0]!), x.domain()[1]!).flatMap((month) => {
              const at = x(month);
              return [{ x: Math.max(LEFT, at), label: MONTHS[month.getUTCMonth()]! }];
            }),
      mean: known.length > TOGETHER ? line()(mean) : null,
      dots: known.map(({ heat, value }) => ({
        id: heat.id,
        x: x(toMs(heat.at)),
        y: y(value),
        other: heat.alloyId !== usual,
        said: `H-${heat.number}, ${this.shop.dayOf(heat.at)}: ${said(value)}`,
      })),
      alloys:
        usual === ''
          ? ''
          : `${alloyOf(usual).name} filled${others.length > 0 ? `, ${others.map((id) => alloyOf(id).name).join(', ')} as a ring` : ''}`,
    };
  });
}

/** What there is most of. */
function mostOf(values: readonly string[]): string {
  const counts = new Map<string, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1])[0]![0];
}
