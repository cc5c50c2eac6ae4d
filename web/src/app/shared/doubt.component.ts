import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { Asked } from '@kalvet/core';
import { ShopService } from './shop.service';

/** An unlikely reading: what is known against it, and what was probably meant, to be put in by one tap. */
@Component({
  selector: 'kv-doubt',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p role="status">
      {{ says() }}.
      @if (asked().instead; as meant) {
        <button type="button" class="kv-link" data-test="meant" (click)="mend.emit(meant.value)">
          {{ shop.quantity(meant) }}?
        </button>
      }
    </p>
  `,
  styles: `
    p {
      margin: -4px 0 10px;
      padding: 5px 9px;
      border-left: 4px solid var(--kv-accent);
      background: var(--kv-warn-pale);
      font-size: 0.93rem;
    }
    button {
      font-weight: 600;
    }
  `,
})
export class Doubt {
  protected readonly shop = inject(ShopService);
  readonly asked = input.required<Asked>();
  readonly mend = output<number>();
  protected readonly says = computed(() => this.shop.words(this.asked().says));
}
