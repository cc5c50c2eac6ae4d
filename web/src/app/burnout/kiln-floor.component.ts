import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { KilnAnswer, StandsOn } from '@kalvet/core';
import { ShopService } from '../shared/shop.service';

/** What stands on the floor, with what is said of it. */
export interface OnFloor {
  readonly treeId: string;
  readonly label: string;
  readonly floor: StandsOn;
}

/** The kiln's floor from above, its door at the front: each tree where it stands, with the gap that the fire needs. */
@Component({
  selector: 'kv-kiln-floor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="box()" role="img" [attr.aria-label]="said()">
      <rect class="floor" x="0" y="0" [attr.width]="floor().acrossMm" [attr.height]="floor().deepMm" />
      @for (tree of drawn(); track tree.treeId) {
        <g>
          <rect class="tree" [attr.x]="tree.x" [attr.y]="tree.y" [attr.width]="tree.w" [attr.height]="tree.d" />
          <text [attr.x]="tree.x + tree.w / 2" [attr.y]="tree.y + tree.d / 2 + 12" [style.font-size.px]="tree.size">
            {{ tree.name }}
          </text>
          <title>{{ tree.label }}</title>
        </g>
      }
      <text class="door" [attr.x]="floor().acrossMm / 2" [attr.y]="floor().deepMm + 44">door · {{ measures() }}</text>
    </svg>
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      max-height: 380px;
    }
    .floor {
      fill: var(--kv-paper);
      stroke: var(--kv-ink);
      stroke-width: 8;
    }
    .tree {
      fill: var(--room-burnout);
      fill-opacity: 0.28;
      stroke: var(--room-burnout);
      stroke-width: 4;
    }
    text {
      fill: var(--kv-ink);
      text-anchor: middle;
    }
    .door {
      font-size: 34px;
      fill: var(--kv-ink-soft);
    }
  `,
})
export class KilnFloor {
  private readonly shop = inject(ShopService);
  readonly floor = input.required<KilnAnswer['floor']>();
  readonly trees = input.required<readonly OnFloor[]>();
  protected readonly box = computed(() => `-10 -10 ${this.floor().acrossMm + 20} ${this.floor().deepMm + 70}`);
  protected readonly measures = computed(
    () => `${this.shop.amount(this.floor().acrossMm, 'mm', 0)} × ${this.shop.amount(this.floor().deepMm, 'mm', 0)}`,
  );
  protected readonly drawn = computed(() =>
    this.trees().map(({ treeId, label, floor: { xMm, yMm, acrossMm, deepMm } }) => ({
      treeId,
      label,
      name: label.split(' ')[0],
      x: xMm,
      // The door is at the front, below.
      y: this.floor().deepMm - yMm - deepMm,
      w: acrossMm,
      d: deepMm,
      size: Math.max(22, Math.min(44, acrossMm / 4)),
    })),
  );
  protected readonly said = computed(
    () =>
      `The kiln’s floor from above: ${
        this.trees()
          .map(({ label }) => label)
          .join(', ') || 'empty'
      }`,
  );
}
