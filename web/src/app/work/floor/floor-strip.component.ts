import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { FloorAnswer, TreeLine } from '@kalvet/core';
import { alloyOf, kindOf } from '@kalvet/core';
import { AmountPipe, WordsPipe } from '../../shared/words.pipe';
import { ShopService } from '../../shared/shop.service';

const MOST = 4;

/** Under the rows: what wants a decision, the next dips, the kiln, the next pour. */
@Component({
  selector: 'kv-floor-strip',
  imports: [AmountPipe, WordsPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './floor-strip.component.html',
  styleUrl: './floor-strip.component.css',
})
export class FloorStrip {
  protected readonly shop = inject(ShopService);
  readonly floor = input.required<FloorAnswer>();
  readonly show = output<string>();
  /** The whole list of what wants a decision. */
  readonly decide = output();

  protected readonly most = MOST;
  protected readonly questions = computed(() => this.floor().questions);
  protected readonly shown = computed(() => this.questions().slice(0, MOST - 1));
  protected readonly dips = computed(() => this.floor().dips.filter((line) => line.waits.length === 0));
  protected readonly fire = computed(() => this.floor().fire.filter((line) => line.waits.length === 0));
  protected readonly heats = computed(() =>
    this.floor().heats.map((heat) => ({
      ...heat,
      alloy: alloyOf(heat.alloyId).name,
      free: heat.usableKg - heat.chargeKg,
    })),
  );
  /** Trees that could be poured and stand in no heat yet. */
  protected readonly waiting = computed(() => {
    const placed = new Set(this.floor().heats.flatMap(({ trees }) => trees.map(({ treeId }) => treeId)));
    return this.floor().pour.filter(
      (line) => kindOf(line.kind).through === 'heat' && line.waits.length === 0 && !placed.has(line.carrierId),
    );
  });

  protected ready(line: TreeLine): string {
    return line.readyAt === null || line.readyAt <= this.shop.now() ? 'now' : this.shop.when(line.readyAt);
  }

  protected open(line: { readonly pieceIds: readonly string[] }): void {
    if (line.pieceIds[0]) this.show.emit(line.pieceIds[0]);
  }

  protected kg(line: TreeLine): string {
    return line.pourKg === null ? 'weight not known' : this.shop.amount(line.pourKg, 'kg', 1);
  }
}
