import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { CoatRow, CoatView, CoatsAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { CheckboxModule } from 'primeng/checkbox';
import { DrawerModule } from 'primeng/drawer';
import { TooltipModule } from 'primeng/tooltip';
import { RecordMany } from '../route/record-many.component';
import { StepPanel } from '../route/step-panel.component';
import { FigureText } from '../shared/figure.component';
import { pageData } from '../shared/page-data';
import { PlanStandText } from '../shared/plan-stand.component';
import { WordsPipe } from '../shared/words.pipe';
import { ShopService } from '../shared/shop.service';
import { May } from '../shared/may.directive';

type Stand = 'ready' | 'drying' | 'too old' | 'waits';

/** The coat ledger: every tree that is being dipped, its coats as beads, what is dry and what has lain too long. */
@Component({
  selector: 'kv-coats',
  imports: [
    May,
    FormsModule,
    RouterLink,
    ButtonModule,
    CheckboxModule,
    DrawerModule,
    TooltipModule,
    FigureText,
    PlanStandText,
    RecordMany,
    StepPanel,
    WordsPipe,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './coats.page.html',
  styleUrl: './coats.page.css',
})
export class CoatsPage {
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<CoatsAnswer>(() => '/coats');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly ticked = signal<ReadonlySet<string>>(new Set());
  protected readonly panel = signal<string | 'together' | null>(null);

  protected readonly rows = computed(() =>
    (this.answer()?.rows ?? []).map((row) => ({
      row,
      next: row.coats.find(({ state }) => state === 'next')!,
      stand: this.stand(row),
    })),
  );
  protected readonly counts = computed(() => {
    const count = (stand: Stand) => this.rows().filter((each) => each.stand === stand).length;
    return { ready: count('ready'), drying: count('drying'), tooOld: count('too old') };
  });
  /** The next coats of the ticked trees, as they are recorded together. */
  protected readonly chosen = computed(() =>
    this.rows()
      .filter(({ next }) => this.ticked().has(next.stepId))
      .map(({ row, next }) => ({
        stepId: next.stepId,
        version: next.version,
        kind: next.kind,
        name: next.name,
        on: row.label,
      })),
  );

  private stand({ waits, readyAt, tooOldAt }: CoatRow): Stand {
    const now = this.shop.now();
    if (waits.length > 0) return 'waits';
    if (tooOldAt !== null && tooOldAt < now) return 'too old';
    return readyAt !== null && readyAt > now ? 'drying' : 'ready';
  }

  protected standWords({ row, stand }: { row: CoatRow; stand: Stand }): string {
    if (stand === 'waits') {
      const words = row.waits.join(', ');
      return words.startsWith('on hold') ? words : `waits for ${words}`;
    }
    if (stand === 'too old') return `too old since ${this.shop.when(row.tooOldAt)}`;
    if (stand === 'drying') return `dry ${this.shop.when(row.readyAt)}`;
    return row.tooOldAt ? `ready; too old from ${this.shop.when(row.tooOldAt)}` : 'ready';
  }

  protected coatWords(coat: CoatView): string {
    if (coat.state !== 'done') return `${coat.name}: ${coat.state === 'next' ? 'next' : 'to come'}`;
    return [
      `${coat.name}: ${this.shop.at(coat.at)}`,
      coat.by.length > 0 ? `by ${coat.by.join(', ')}` : '',
      this.shop.words(coat.readings),
      ...coat.flags,
    ]
      .filter(Boolean)
      .join('; ');
  }

  protected tick(stepId: string, on: boolean): void {
    this.ticked.update((ticked) => {
      const next = new Set(ticked);
      if (on) next.add(stepId);
      else next.delete(stepId);
      return next;
    });
  }

  protected tickReady(): void {
    this.ticked.set(
      new Set(
        this.rows()
          .filter(({ stand }) => stand === 'ready')
          .map(({ next }) => next.stepId),
      ),
    );
  }

  protected close(): void {
    this.panel.set(null);
  }

  protected recorded(): void {
    this.ticked.set(new Set());
    this.panel.set(null);
  }

  protected read(): void {
    this.page.read();
  }
}
