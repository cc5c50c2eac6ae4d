import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { PourDayAnswer, PourStretch } from '@kalvet/core';
import { fromMs, toMs } from '@kalvet/core';
import { scaleLinear } from 'd3';
import { ShopService } from '../../shared/shop.service';
import { dayExtent, dayRows } from './day-rows';

const WIDTH = 1180;
const LEFT = 190;
const ROW = 20;
const HEAD = 24;
const TITLE = 22;
const HOUR = 3_600_000;
/** A pour of a minute and a half still has to be seen. */
const LEAST_PX = 4;

const PARTS: Readonly<Record<PourStretch['part'], string>> = {
  preheat: 'in the kiln',
  lining: 'lining warms, or wash',
  melt: 'melts',
  skim: 'skim, last reading',
  pour: 'pour',
  pig: 'pig',
  look: 'early look',
};

/** The day on one axis: each heat's furnace and trees, from the first shell in the kiln to the last early look. */
@Component({
  selector: 'kv-day-axis',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (drawn(); as d) {
      <svg [attr.viewBox]="'0 0 ' + width + ' ' + d.height" role="img" aria-label="The pour day hour by hour">
        @for (hour of d.hours; track hour.x) {
          <line class="grid" [attr.x1]="hour.x" [attr.x2]="hour.x" [attr.y1]="head - 6" [attr.y2]="d.height" />
          <text [attr.x]="hour.x" y="13" text-anchor="middle">{{ hour.label }}</text>
        }
        @for (title of d.titles; track title.y) {
          <text class="title" x="0" [attr.y]="title.y">{{ title.text }}</text>
          <text [attr.x]="left" [attr.y]="title.y">{{ title.crew }}</text>
        }
        @for (row of d.rows; track row.key) {
          <text x="0" [attr.y]="row.y + 14" [class.alert]="row.noKiln">{{ row.label }}</text>
          @for (bar of row.bars; track $index) {
            <rect
              [attr.class]="bar.part"
              [attr.x]="bar.x"
              [attr.y]="row.y + 3"
              [attr.width]="bar.width"
              [attr.height]="row.height">
              <title>{{ bar.said }}</title>
            </rect>
            @if (bar.width > 74) {
              <text class="in" [attr.x]="bar.x + 6" [attr.y]="row.y + 14">{{ bar.words }}</text>
            }
          }
        }
        @if (d.now !== null) {
          <line class="now" [attr.x1]="d.now" [attr.x2]="d.now" [attr.y1]="head - 8" [attr.y2]="d.height" />
        }
      </svg>
    }
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      min-width: 760px;
      height: auto;
    }
    text {
      font-size: 12px;
      fill: var(--kv-ink);
    }
    .in {
      font-size: 11px;
      pointer-events: none;
    }
    .title {
      font-size: 13px;
      font-weight: 600;
    }
    .alert {
      fill: var(--kv-alert);
    }
    .grid {
      stroke: var(--kv-line);
    }
    .now {
      stroke: var(--kv-alert);
      stroke-width: 1.5;
    }
    .preheat {
      fill: color-mix(in srgb, var(--room-burnout) 45%, var(--kv-paper));
    }
    .lining {
      fill: var(--kv-strip);
      stroke: var(--kv-line-strong);
    }
    .melt {
      fill: color-mix(in srgb, var(--room-pour) 55%, var(--kv-paper));
    }
    .skim {
      fill: var(--kv-line-strong);
    }
    .pour {
      fill: var(--kv-alert);
    }
    .pig {
      fill: var(--room-chasing);
    }
    .look {
      fill: var(--kv-paper);
      stroke: var(--room-chasing);
      stroke-width: 1.5;
    }
    @media print {
      svg {
        min-width: 0;
      }
      rect {
        print-color-adjust: exact;
      }
    }
  `,
})
export class DayAxis {
  private readonly shop = inject(ShopService);
  readonly day = input.required<PourDayAnswer>();
  /** Said beside each heat: who pours it. */
  readonly crews = input.required<Readonly<Record<string, string>>>();
  protected readonly width = WIDTH;
  protected readonly left = LEFT;
  protected readonly head = HEAD;

  protected readonly drawn = computed(() => {
    const day = this.day();
    const extent = dayExtent(day.stretches);
    if (!extent) return undefined;
    const [from, to] = extent.map(toMs) as [number, number];
    const x = scaleLinear([from, to], [LEFT, WIDTH - 20]);
    const clock = (ms: number) => this.shop.at(fromMs(ms)).slice(-5);
    let y = HEAD;
    const titles: { y: number; text: string; crew: string }[] = [];
    const rows = dayRows(day).flatMap(({ heat, rows: own }) => {
      titles.push({
        y: y + 15,
        text: `H-${heat.number}, ${clock(toMs(heat.startedAt ?? heat.plannedFor!))}`,
        crew: this.crews()[heat.id] ?? '',
      });
      y += TITLE;
      const placed = own.map((row) => {
        const at = y;
        y += ROW;
        return {
          ...row,
          label: row.noKiln ? `${row.label}: no place in the kiln` : row.label,
          y: at,
          height: ROW - 6,
          bars: row.stretches.map((stretch) => {
            const begins = x(toMs(stretch.from));
            const times = `${clock(toMs(stretch.from))}–${clock(toMs(stretch.to))}`;
            return {
              part: stretch.part,
              x: begins,
              width: Math.max(LEAST_PX, x(toMs(stretch.to)) - begins),
              words: `${PARTS[stretch.part]} ${clock(toMs(stretch.from))}`,
              said: `${row.label}: ${PARTS[stretch.part]} ${times}`,
            };
          }),
        };
      });
      y += 8;
      return placed;
    });
    const now = toMs(this.shop.now());
    return {
      height: y,
      titles,
      rows,
      hours: Array.from({ length: Math.round((to - from) / HOUR) + 1 }, (_, i) => from + i * HOUR).map((ms) => ({
        x: x(ms),
        label: clock(ms),
      })),
      now: now >= from && now <= to ? x(now) : null,
    };
  });
}
