import { Pipe, inject } from '@angular/core';
import type { PipeTransform } from '@angular/core';
import type { Text, Unit } from '@kalvet/core';
import { ShopService } from './shop.service';

/** A text in the reader's units and by the shop's clock. Not pure: the reader may change the units at any moment. */
@Pipe({ name: 'words', pure: false })
export class WordsPipe implements PipeTransform {
  private readonly shop = inject(ShopService);

  transform(text: Text | null | undefined): string {
    return text === null || text === undefined ? '' : this.shop.words(text);
  }
}

/** A number of a unit as the reader reads it: `{{ 8.54 | amount: 'kg' : 1 }}` is 8.5 kg, or 18.8 lb. */
@Pipe({ name: 'amount', pure: false })
export class AmountPipe implements PipeTransform {
  private readonly shop = inject(ShopService);

  transform(value: number, unit: Unit, decimals?: number): string {
    return this.shop.amount(value, unit, decimals);
  }
}
