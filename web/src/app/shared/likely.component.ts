import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Likely } from '@kalvet/core';
import { ShopService } from './shop.service';

/** When something leaves, with its chances: `about Mon 14 Dec; nine chances in ten by Thu 24 Dec`. */
@Component({
  selector: 'kv-likely',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: '{{ words() }}',
})
export class LikelyText {
  private readonly shop = inject(ShopService);
  readonly likely = input.required<Likely>();
  protected readonly words = computed(() => {
    const [even, ninety] = [this.shop.dayOf(this.likely().evenAt), this.shop.dayOf(this.likely().ninetyAt)];
    const dates =
      even === ninety ? `nine chances in ten on ${even}` : `leaves about ${even}; nine chances in ten by ${ninety}`;
    const { assumes } = this.likely();
    return assumes ? `${dates}, if it is decided by ${this.shop.when(assumes)}` : dates;
  });
}
