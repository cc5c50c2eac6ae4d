import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { CoatRow, CoatView, CoatsAnswer } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { Drawer } from '../shared/drawer.component';
import { RecordMany } from '../route/record-many.component';
import { StepPanel } from '../route/step-panel.component';
import { FigureText } from '../shared/figure.component';
import { Hints } from '../shared/hints.directive';
import { More } from '../shared/more.directive';
import { Roving } from '../shared/roving.directive';
import { Session } from '../shared/session.service';
import { pageData } from '../shared/page-data';
import { PlanStandText } from '../shared/plan-stand.component';
import { WordsPipe } from '../shared/words.pipe';
import { ShopService } from '../shared/shop.service';
import { May } from '../shared/may.directive';

type Stand = 'ready' | 'drying' | 'too old' | 'waits';

const ROWS_AT_FIRST = 40;

/** The coat ledger: every tree that is being dipped, its coats as beads, what is dry and what has lain too long. */
@Component({
  selector: 'kv-coats',
  imports: [
    Hints,
    May,
    More,
    Roving,
    RouterLink,
    ButtonModule,
    Drawer,
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
  private readonly session = inject(Session);
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
  /** Only what is seen is drawn; the rest comes as one comes near it. */
  private readonly limit = signal(ROWS_AT_FIRST);
  protected readonly drawn = computed(() =>
    this.rows()
      .slice(0, this.limit())
      .map((each) => ({ ...each, words: this.standWords(each), beads: this.beadsWords(each.row) })),
  );
  protected readonly mayRecord = computed(() => this.session.may('record step', 'shell'));
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

  protected more(why: 'near' | 'print'): void {
    this.limit.update((limit) => (why === 'print' ? Infinity : limit + ROWS_AT_FIRST));
  }

  /** What is said of a bead under the pointer or in focus. */
  protected readonly hint = (element: HTMLElement) => {
    const at = element.closest<HTMLElement>('[data-coat]');
    return at ? { at, text: this.coatAt(at) } : undefined;
  };

  private coatAt(bead: HTMLElement): string {
    const [line, place] = bead.dataset['coat']!.split(' ').map(Number);
    return this.coatWords(this.drawn()[line!]!.row.coats[place!]!);
  }

  /** Who hears the page hears of a bead what others see of it, when they come to it. */
  protected name(bead: HTMLElement): void {
    bead.setAttribute('aria-label', this.coatAt(bead));
  }

  private beadsWords({ coats }: CoatRow): string {
    const dipped = coats.filter(({ state }) => state === 'done').length;
    return `${dipped} of ${coats.length} coats dipped`;
  }

  private stand({ waits, readyAt, tooOldAt }: CoatRow): Stand {
    const now = this.shop.now();
    if (waits.length > 0) return 'waits';
    if (tooOldAt !== null && tooOldAt < now) return 'too old';
    return readyAt !== null && readyAt > now ? 'drying' : 'ready';
  }

  private standWords({ row, stand }: { row: CoatRow; stand: Stand }): string {
    if (stand === 'waits') {
      const words = row.waits.join(', ');
      return words.startsWith('on hold') ? words : `waits for ${words}`;
    }
    if (stand === 'too old') return `too old since ${this.shop.when(row.tooOldAt)}`;
    if (stand === 'drying') return `dries until ${this.shop.when(row.readyAt)}`;
    return row.tooOldAt ? `ready; too old from ${this.shop.when(row.tooOldAt)}` : 'ready';
  }

  private coatWords(coat: CoatView): string {
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
