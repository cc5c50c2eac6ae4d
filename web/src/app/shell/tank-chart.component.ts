import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { TankView } from '@kalvet/core';
import { CHART_RULES, toMs } from '@kalvet/core';
import { line, scaleLinear } from 'd3';
import { ShopService } from '../shared/shop.service';

const [WIDTH, HEIGHT, LEFT, RIGHT, BOTTOM] = [620, 150, 46, 66, 20];

/** A tank's viscosity, check by check, with its limits: a value beyond them is a square, a sign of change a ring. */
@Component({
  selector: 'kv-tank-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="box" role="group" [attr.aria-label]="view().tank.name + ': viscosity of each check'">
      @if (drawn().limits; as limits) {
        <rect
          class="within"
          [attr.x]="left"
          [attr.width]="right - left"
          [attr.y]="limits.high"
          [attr.height]="limits.low - limits.high" />
        @for (each of limits.lines; track each.label) {
          <line [class]="each.kind" [attr.x1]="left" [attr.x2]="right" [attr.y1]="each.y" [attr.y2]="each.y" />
          <text [attr.x]="right + 6" [attr.y]="each.y + 4">{{ each.label }}</text>
        }
      }
      @if (drawn().base; as base) {
        <rect class="base" [attr.x]="base.x" [attr.width]="base.width" [attr.y]="height - 18" height="3">
          <title>The base period of the limits</title>
        </rect>
      }
      <path class="way" [attr.d]="drawn().path" />
      @for (dot of drawn().dots; track dot.id) {
        @if (dot.faulty) {
          <rect class="bad" [attr.x]="dot.x - 4.5" [attr.y]="dot.y - 4.5" width="9" height="9">
            <title>{{ dot.said }}</title>
          </rect>
        } @else {
          <circle [class.sign]="dot.signed" [attr.cx]="dot.x" [attr.cy]="dot.y" [attr.r]="dot.signed ? 5 : 3.4">
            <title>{{ dot.said }}</title>
          </circle>
        }
      }
      @for (stop of drawn().stops; track stop.id) {
        <path class="stop" [attr.d]="'M' + (stop.x - 5) + ',' + (top + 2) + 'l10,10m0,-10l-10,10'">
          <title>{{ stop.said }}</title>
        </path>
      }
      @for (day of drawn().days; track day.x) {
        <text class="day" [attr.x]="day.x" [attr.y]="height - 3">{{ day.label }}</text>
      }
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: auto;
    }
    text {
      font-size: 11.5px;
      fill: var(--kv-ink-soft);
    }
    .within {
      fill: var(--room-shell);
      fill-opacity: 0.14;
    }
    .limit {
      stroke: var(--kv-alert);
      stroke-dasharray: 5 3;
    }
    .mean {
      stroke: var(--kv-line-strong);
    }
    .base {
      fill: var(--room-shell);
    }
    .way {
      fill: none;
      stroke: var(--kv-ink-soft);
      stroke-width: 1;
    }
    circle {
      fill: var(--kv-ink);
    }
    .sign {
      fill: var(--kv-paper);
      stroke: var(--kv-ink);
      stroke-width: 2;
    }
    .bad {
      fill: var(--kv-alert);
    }
    .stop {
      fill: none;
      stroke: var(--kv-alert);
      stroke-width: 2.5;
    }
  `,
})
export class TankChart {
  private readonly shop = inject(ShopService);
  readonly view = input.required<TankView>();
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;
  protected readonly left = LEFT;
  protected readonly right = WIDTH - RIGHT;
  protected readonly height = HEIGHT;
  protected readonly top = 4;

  protected readonly drawn = computed(() => {
    const { checks, limits, tank } = this.view();
    const read = checks.filter(({ check }) => check.viscosityS !== null);
    const low = Math.max(tank.lowS ?? -Infinity, limits?.low ?? -Infinity);
    const high = Math.min(tank.highS ?? Infinity, limits?.high ?? Infinity);
    const values = [...read.map(({ check }) => check.viscosityS!), ...[low, high].filter(Number.isFinite)];
    const [least, most] = [Math.min(...values), Math.max(...values)];
    const room = Math.max(0.5, (most - least) * 0.15);
    const y = scaleLinear([least - room, most + room], [HEIGHT - BOTTOM, 6]);
    const ms = checks.map(({ check }) => toMs(check.at));
    const [first, last] = [ms[0] ?? 0, ms.at(-1) ?? 1];
    const x = scaleLinear([first, Math.max(last, first + 1)], [LEFT + 8, WIDTH - RIGHT - 8]);
    const s = (value: number) => this.shop.amount(value, 's', 1);
    const lines = [
      ...(Number.isFinite(high) ? [{ kind: 'limit', y: y(high), label: s(high) }] : []),
      ...(limits ? [{ kind: 'mean', y: y(limits.mean), label: s(limits.mean) }] : []),
      ...(Number.isFinite(low) ? [{ kind: 'limit', y: y(low), label: s(low) }] : []),
    ];
    const said = (each: TankView['checks'][number]) =>
      [
        this.shop.at(each.check.at),
        each.check.viscosityS === null ? '' : s(each.check.viscosityS),
        ...each.faults.map((fault) => this.shop.words(fault)),
        ...each.signs.map((sign) => CHART_RULES[sign]),
        each.by,
      ]
        .filter(Boolean)
        .join(', ');
    const { base } = tank;
    const [from, to] = base ? [Math.max(first, toMs(base.from)), Math.min(last, toMs(base.to))] : [0, 0];
    return {
      limits:
        lines.length > 0
          ? { lines, high: y(Number.isFinite(high) ? high : most), low: y(Number.isFinite(low) ? low : least) }
          : null,
      base: base && to > from ? { x: x(from), width: x(to) - x(from) } : null,
      path: line<(typeof read)[number]>()
        .x(({ check }) => x(toMs(check.at)))
        .y(({ check }) => y(check.viscosityS!))(read),
      dots: read.map((each) => ({
        id: each.check.id,
        x: x(toMs(each.check.at)),
        y: y(each.check.viscosityS!),
        faulty: each.faults.length > 0,
        signed: each.signs.length > 0,
        said: said(each),
      })),
      stops: checks
        .filter(({ check }) => check.mixer === 'stopped')
        .map((each) => ({ id: each.check.id, x: x(toMs(each.check.at)), said: said(each) })),
      days: [0, 1, 2, 3]
        .filter((i) => ms.length > 3 || i === 0)
        .map((i) => {
          const at = first + ((last - first) * i) / 4;
          return { x: x(at), label: checks.length > 0 ? this.shop.dayOf(new Date(at).toJSON()) : '' };
        }),
    };
  });
}
