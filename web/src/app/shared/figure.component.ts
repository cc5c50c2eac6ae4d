import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Figure } from '@kalvet/core';
import { formatFigure } from '@kalvet/core';
import { TooltipModule } from 'primeng/tooltip';
import { ShopService } from './shop.service';

const SOURCES = {
  measured: 'weighed or measured',
  computed: 'worked out',
  estimated: 'estimated',
  default: 'entered or shop default',
};

/** A number that says on hover and focus how it came about; what is not measured is lighter and carries its ±. */
@Component({
  selector: 'kv-figure',
  imports: [TooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<span
    class="figure"
    [class.estimate]="figure().source !== 'measured'"
    tabindex="0"
    [pTooltip]="words()"
    tooltipPosition="top"
    tooltipEvent="both"
    [attr.aria-label]="text() + ', ' + words()"
    >{{ text() }}</span
  >`,
  styles: `
    .figure {
      cursor: help;
      border-bottom: 1px dotted var(--kv-line-strong);
      font-weight: 600;
      white-space: nowrap;
    }
    .estimate {
      font-weight: 400;
    }
  `,
})
export class FigureText {
  private readonly shop = inject(ShopService);
  readonly figure = input.required<Figure>();
  readonly decimals = input(1);
  protected readonly text = computed(() => formatFigure(this.figure(), this.decimals(), this.shop.units()));
  protected readonly words = computed(
    () => `${SOURCES[this.figure().source]}: ${this.shop.words(this.figure().inWords)}`,
  );
}
