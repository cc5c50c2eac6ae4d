import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { HeatRecord } from '@kalvet/core';
import { alloyOf } from '@kalvet/core';
import { pageData } from '../shared/page-data';
import { RecordHistory } from '../shared/record-history.component';
import { ShopService } from '../shared/shop.service';
import { AmountPipe } from '../shared/words.pipe';

const WHAT: Readonly<Record<HeatRecord['chargeLines'][number]['what'], string>> = {
  ingot: 'ingot',
  returns: 'returns',
  addition: 'addition',
};
const TAKEN: Readonly<Record<string, string>> = { cup: 'at the cup', ladle: 'in the ladle', furnace: 'in the furnace' };

/** A heat with everything that is on record of it: charge, crew, each tree as it was poured, what was pigged. */
@Component({
  selector: 'kv-heat-page',
  imports: [AmountPipe, RecordHistory, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './heat.page.html',
  styleUrl: '../shared/record.page.css',
})
export class HeatPage {
  protected readonly shop = inject(ShopService);
  readonly id = input.required<string>();
  private readonly page = pageData<HeatRecord>(() => `/heats/${this.id()}/record`);
  protected readonly heat = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly what = WHAT;
  protected readonly taken = (code: string | null) => (code === null ? '' : (TAKEN[code] ?? ''));
  protected readonly alloy = computed(() => alloyOf(this.heat()?.alloyId ?? 'C87300').name);
  protected readonly alloyName = (id: string | null) => (id === null ? 'unknown alloy' : alloyOf(id).name);
  protected readonly charged = computed(() => (this.heat()?.chargeLines ?? []).reduce((sum, { kg }) => sum + kg, 0));
  protected readonly poured = computed(() =>
    (this.heat()?.pourings ?? []).reduce((sum, { pouredKg }) => sum + (pouredKg ?? 0), 0),
  );
}
