import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Room } from '@kalvet/core';
import { shortMarkOf } from '@kalvet/core';
import { arc } from 'd3';
import { ringArcs } from './ring';
import { roomColour } from './rooms';

/** What a disc needs to know of a piece. */
export interface DiscPiece {
  readonly series: 'edition' | 'ap' | 'fp' | 'unique';
  readonly number: number;
  readonly state: string;
  readonly late: boolean;
  readonly behind: Room;
  readonly sections: readonly { readonly room: Room; readonly recast: boolean }[];
}

const RING = { inner: 15.5, outer: 18.5, gap: 0.022 };

/** One piece, with its edition number: the same on every screen. What it shows is said in words by whoever places it. */
@Component({
  selector: 'kv-disc',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.width]="size()" [attr.height]="size()" viewBox="-22 -22 44 44" aria-hidden="true">
      @if (arcs().length > 0) {
        <circle r="12.5" [attr.fill]="tint()" />
        @for (part of arcs(); track $index) {
          <path [attr.d]="part.path" [attr.fill]="part.colour" />
        }
      } @else {
        <circle r="14.5" [attr.fill]="tint()" [attr.stroke]="colour()" stroke-width="2.5" />
      }
      @if (recast()) {
        <circle r="20.4" fill="none" [attr.stroke]="colour()" stroke-width="1.4" />
      }
      @if (piece().state === 'hold') {
        <rect
          x="-9.5"
          y="-9.5"
          width="19"
          height="19"
          fill="var(--kv-paper)"
          stroke="var(--kv-ink)"
          stroke-width="1.6"
          stroke-dasharray="3.2 2.4" />
      }
      @if (piece().state === 'lost') {
        <path d="M-13 13 13 -13" stroke="var(--kv-alert)" stroke-width="2.5" />
      }
      <text text-anchor="middle" dominant-baseline="central" [attr.font-size]="mark().length > 2 ? 9.5 : 12.5">
        {{ mark() }}
      </text>
      @if (piece().late) {
        <path d="M10 -20.5 h10.5 v10.5 z" fill="var(--kv-alert)" />
      }
    </svg>
  `,
  styles: `
    :host {
      display: inline-block;
      line-height: 0;
    }
    text {
      font-weight: 600;
      fill: var(--kv-ink);
    }
  `,
})
export class Disc {
  readonly piece = input.required<DiscPiece>();
  readonly size = input(40);

  protected readonly mark = computed(() => shortMarkOf(this.piece()));
  protected readonly colour = computed(() => roomColour(this.piece().behind));
  protected readonly tint = computed(() => `color-mix(in srgb, ${this.colour()} 18%, var(--kv-paper))`);
  protected readonly recast = computed(() => this.piece().sections.some((section) => section.recast));
  protected readonly arcs = computed(() => {
    const draw = arc<{ from: number; to: number }>()
      .innerRadius(RING.inner)
      .outerRadius(RING.outer)
      .startAngle(({ from }) => (from + RING.gap / 2) * 2 * Math.PI)
      .endAngle(({ to }) => (to - RING.gap / 2) * 2 * Math.PI);
    return ringArcs(this.piece().sections).map((part) => ({
      path: draw(part) ?? '',
      colour: roomColour(part.room),
    }));
  });
}
