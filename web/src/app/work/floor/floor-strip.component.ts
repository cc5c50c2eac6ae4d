import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import type { FloorAnswer, Text, TreeLine } from '@kalvet/core';
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

  protected readonly most = MOST;
  /** Decisions that the records hold, and what became too old while nobody looked. */
  protected readonly decisions = computed(() => {
    const now = this.shop.now();
    const lines = [...this.floor().dips, ...this.floor().fire, ...this.floor().pour];
    const isTooOld = (line: TreeLine) => line.tooOldAt !== null && line.tooOldAt < now && line.waits.length === 0;
    const tooOld = lines.filter(isTooOld).map((line): { text: Text; urgent: boolean; pieceId: string | null } => ({
      text: `${line.on}: too old for ${line.name.toLowerCase()} since ${this.shop.when(line.tooOldAt)}`,
      urgent: true,
      pieceId: line.pieceIds[0] ?? null,
    }));
    // What the plan could not keep, but for what is said already.
    const said = new Set(lines.filter(isTooOld).map(({ stepId }) => stepId));
    const notes = this.floor()
      .plan.notes.filter(({ stepId }) => stepId === null || !said.has(stepId))
      .map(({ text, urgent, stepId }) => ({
        text,
        urgent,
        pieceId: lines.find((line) => line.stepId === stepId)?.pieceIds[0] ?? null,
      }));
    return [
      ...this.floor().decisions.filter(({ urgent }) => urgent),
      ...tooOld,
      ...notes,
      ...this.floor().decisions.filter(({ urgent }) => !urgent),
    ];
  });
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
