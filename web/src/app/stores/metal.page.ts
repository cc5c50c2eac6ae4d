import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Lot, MetalAnswer, Movement } from '@kalvet/core';
import { ALLOYS, FAMILY_NAMES, alloyOf, dayIn } from '@kalvet/core';
import { May } from '../shared/may.directive';
import { pageData } from '../shared/page-data';
import { ShopService } from '../shared/shop.service';
import { AmountPipe, WordsPipe } from '../shared/words.pipe';
import { CountForm } from './count-form.component';
import { CrucibleForm } from './crucible-form.component';
import { LookForm } from './look-form.component';
import { LotForm } from './lot-form.component';
import { metalRows } from './metal-rows';

/** So many movements are shown before somebody asks for more. */
const FEW = 12;
const FEW_DAYS = 5;

const KINDS: Readonly<Record<Movement['kind'], string>> = {
  receipt: 'delivered',
  charge: 'charged',
  pig: 'pigged',
  'cut off': 'cut off',
  count: 'counted',
  'sent back': 'sent back',
};

/** Metal that lies there, what the coming heats take of it, the deliveries, and the pots. */
@Component({
  selector: 'kv-metal',
  imports: [AmountPipe, CountForm, CrucibleForm, LookForm, LotForm, May, RouterLink, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './metal.page.html',
  styleUrls: ['../shared/list.page.css', './metal.page.css'],
})
export class MetalPage {
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<MetalAnswer>(() => '/metal');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly kinds = KINDS;
  protected readonly families: Readonly<Record<string, string>> = FAMILY_NAMES;

  protected readonly allDays = signal(false);
  protected readonly rows = computed(() => {
    const { stock = [], needs = [] } = this.answer() ?? {};
    const ids = ALLOYS.map(({ id }) => id);
    const days = this.allDays() ? Infinity : FEW_DAYS;
    return metalRows(stock, needs, ids, (at) => dayIn(at, this.shop.zone())).map((row) => ({
      ...row,
      shown: row.steps.slice(0, days),
      more: Math.max(0, row.steps.length - days),
    }));
  });
  protected readonly balance = computed(() =>
    (this.answer()?.balance ?? []).map((each) => ({ ...each, isOpen: Math.abs(each.openKg) >= 0.05 })),
  );
  protected readonly allMoves = signal(false);
  protected readonly moves = computed(() =>
    (this.answer()?.movements ?? []).slice(0, this.allMoves() ? undefined : FEW),
  );
  protected readonly hasMore = computed(() => (this.answer()?.movements.length ?? 0) > FEW && !this.allMoves());

  /** What is being entered: a delivery, a count, a pot or a look at one. */
  protected readonly entering = signal<
    | { readonly what: 'lot'; readonly lot?: Lot }
    | { readonly what: 'count'; readonly alloyId: string }
    | { readonly what: 'crucible'; readonly crucible?: MetalAnswer['crucibles'][number] }
    | { readonly what: 'look'; readonly crucibleId: string; readonly name: string }
    | null
  >(null);

  protected readonly alloyName = (id: string | null) => (id === null ? 'unknown' : alloyOf(id).name);

  protected analysisWords({ analysis }: Lot): string {
    return Object.entries(analysis)
      .map(([element, percent]) => `${element} ${percent}`)
      .join(' · ');
  }

  protected lifeShare({ heats, lifeHeats }: MetalAnswer['crucibles'][number]): number {
    return Math.min(100, (heats / lifeHeats) * 100);
  }

  /** A day is kept as its first instant, and said as that day. */
  protected dayOf({ at, kind }: Movement): string {
    return kind === 'receipt' ? this.shop.day(at.slice(0, 10)) : this.shop.dayOf(at);
  }

  protected saved(): void {
    this.entering.set(null);
    this.page.read();
  }
}
