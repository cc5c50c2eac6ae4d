import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { HeatRecord } from '@kalvet/core';
import { alloyOf, balanceOf, cupStands } from '@kalvet/core';
import { pageData } from '../shared/page-data';
import { RecordHistory } from '../shared/record-history.component';
import { ShopService } from '../shared/shop.service';
import { AmountPipe, WordsPipe } from '../shared/words.pipe';
import { Files } from '../files/files.component';
import { HeatCurve } from './heat-curve.component';

const WHAT: Readonly<Record<HeatRecord['chargeLines'][number]['what'], string>> = {
  ingot: 'ingot',
  returns: 'returns',
  addition: 'addition',
};
const TAKEN: Readonly<Record<string, string>> = { cup: 'at the cup', ladle: 'in the ladle', furnace: 'in the furnace' };

/** A heat with everything that is on record of it: charge, crew, each tree as it was poured, what was pigged. */
@Component({
  selector: 'kv-heat-page',
  imports: [AmountPipe, Files, HeatCurve, RecordHistory, RouterLink, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './heat.page.html',
  styleUrl: '../shared/record.page.css',
  styles: `
    .loss {
      display: block;
    }
    th,
    td {
      vertical-align: top;
    }
    tbody td:not(:last-child) {
      white-space: nowrap;
    }
  `,
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
  protected readonly trees = computed(() =>
    (this.heat()?.pourings ?? []).map((tree) => {
      const { pouredKg, castsKg, returnsKg, metalC, tempWhere, cup } = tree;
      const isKnown = pouredKg !== null && castsKg !== null;
      return {
        tree,
        balance: isKnown ? balanceOf(pouredKg, castsKg + (returnsKg ?? 0)) : null,
        isOff:
          metalC !== null && tempWhere === 'cup' && cupStands(metalC, cup, alloyOf(this.heat()!.alloyId)) !== 'good',
      };
    }),
  );
  protected readonly usualLossKg = computed(() => this.charged() * (this.heat()?.meltLoss ?? 0));
  protected readonly balance = computed(() =>
    balanceOf(this.charged(), this.poured() + (this.heat()?.pigKg ?? 0), this.usualLossKg()),
  );
  protected readonly perKg = computed(() => {
    const { energyKwh } = this.heat() ?? {};
    return energyKwh && this.charged() > 0 ? energyKwh / this.charged() : null;
  });
  protected readonly charged = computed(() => (this.heat()?.chargeLines ?? []).reduce((sum, { kg }) => sum + kg, 0));
  protected readonly poured = computed(() =>
    (this.heat()?.pourings ?? []).reduce((sum, { pouredKg }) => sum + (pouredKg ?? 0), 0),
  );
}
