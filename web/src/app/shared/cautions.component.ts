import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { StepKindCode, Text } from '@kalvet/core';
import { CAUTIONS, CAUTION_FOOT, kindOf } from '@kalvet/core';
import { ShopService } from './shop.service';

/** The cautions of a step, where it is done. */
@Component({
  selector: 'kv-cautions',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (texts().length > 0) {
      <aside aria-label="Caution">
        @for (text of texts(); track text) {
          <p>{{ text }}</p>
        }
        <p class="foot">{{ foot }}</p>
      </aside>
    }
  `,
  styles: `
    aside {
      background: var(--kv-warn-pale);
      border-left: 4px solid var(--kv-accent);
      padding: 8px 10px;
      margin: 8px 0 10px;
      font-size: 0.93rem;
      display: grid;
      gap: 3px;
    }
    .foot {
      color: var(--kv-ink-soft);
    }
  `,
})
export class Cautions {
  private readonly shop = inject(ShopService);
  readonly kind = input.required<StepKindCode>();
  /** What has to be said of this very step: a weight above the lift limit. */
  readonly also = input<readonly Text[]>([]);
  protected readonly foot = CAUTION_FOOT;
  protected readonly texts = computed(() => [
    ...this.also().map((text) => this.shop.words(text)),
    ...kindOf(this.kind()).cautions.map((code) => CAUTIONS[code]),
  ]);
}
