import { ChangeDetectionStrategy, Component, booleanAttribute, computed, inject, input } from '@angular/core';
import type { LearnedLine } from '@kalvet/core';
import { toMs } from '@kalvet/core';
import { extent, scaleLinear } from 'd3';
import { ShopService } from '../shared/shop.service';

const [WIDTH, HEIGHT, PAD] = [250, 34, 4];
/** A share is drawn from here to all. */
const LEAST_SHARE = 0.5;

/** The cases behind a figure in the order of time; solid their middle, broken what is reckoned with. */
@Component({
  selector: 'kv-case-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as drawn) {
      <svg [attr.viewBox]="box" role="img" [attr.aria-label]="drawn.says">
        @if (drawn.inUse !== null) {
          <line class="in-use" x1="0" [attr.x2]="width" [attr.y1]="drawn.inUse" [attr.y2]="drawn.inUse" />
        }
        @if (drawn.middle !== null) {
          <line class="middle" x1="0" [attr.x2]="width" [attr.y1]="drawn.middle" [attr.y2]="drawn.middle" />
        }
        @for (dot of drawn.dots; track $index) {
          <circle [attr.cx]="dot.x" [attr.cy]="dot.y" r="2.6">
            <title>{{ dot.said }}</title>
          </circle>
        }
      </svg>
    }
  `,
  styles: `
    svg {
      display: block;
      width: 250px;
      height: 34px;
    }
    circle {
      fill: var(--kv-ink);
      fill-opacity: 0.65;
    }
    .middle {
      stroke: var(--kv-ink);
      stroke-width: 1.2;
    }
    .in-use {
      stroke: var(--kv-accent);
      stroke-width: 2;
      stroke-dasharray: 5 3;
    }
  `,
})
export class CaseStrip {
  private readonly shop = inject(ShopService);
  readonly line = input.required<LearnedLine>();
  readonly decimals = input(2);
  /** Shown in per cent. */
  readonly percent = input(false, { transform: booleanAttribute });
  protected readonly width = WIDTH;
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;

  protected readonly drawn = computed(() => {
    const { points, learned, inUse } = this.line();
    if (points.length === 0) return undefined;
    const values = [
      ...points.map(({ value }) => value),
      ...(learned ? [learned.value] : []),
      ...(inUse ? [inUse] : []),
    ];
    const [low, high] = extent(values) as [number, number];
    const domain = this.percent() ? [LEAST_SHARE, 1] : [low, high === low ? low + 1e-9 : high];
    const y = scaleLinear(domain, [HEIGHT - PAD, PAD]).clamp(true);
    const [first, last] = extent(points, ({ at }) => toMs(at)) as [number, number];
    const x = scaleLinear([first, last === first ? first + 1 : last], [PAD, WIDTH - PAD]);
    return {
      inUse: inUse === null ? null : y(inUse),
      middle: learned && !this.percent() ? y(learned.value) : null,
      dots: points.map(({ at, value }) => ({
        x: x(toMs(at)),
        y: y(value),
        said: `${this.shop.dayOf(at)}: ${this.percent() ? `${Math.round(value * 100)} %` : value.toFixed(this.decimals())}`,
      })),
      says: `${points.length} from ${this.shop.dayOf(points[0]!.at)} to ${this.shop.dayOf(points.at(-1)!.at)}`,
    };
  });
}
