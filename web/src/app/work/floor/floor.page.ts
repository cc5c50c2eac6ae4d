import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { FloorAnswer, FloorPiece, FloorWork, Room } from '@kalvet/core';
import { ROOM_NAMES, alloyOf, formatFigure, railCounts } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { fromEvent, map, startWith } from 'rxjs';
import { Drawer } from '../../shared/drawer.component';
import { PopoverModule } from 'primeng/popover';
import { SelectModule } from 'primeng/select';
import { Disc } from '../../shared/disc.component';
import { Hints } from '../../shared/hints.directive';
import { Roving } from '../../shared/roving.directive';
import { PlanStandText } from '../../shared/plan-stand.component';
import { Question } from '../../shared/question.component';
import { pageData } from '../../shared/page-data';
import { pieceInWords } from '../../shared/piece-words';
import { RAIL, roomColour } from '../../shared/rooms';
import { WAY_INTO } from '../../shared/way-into';
import { ShopService } from '../../shared/shop.service';
import { WorkGlyph } from '../work-glyph.component';
import { NO_FILTER, filterFrom, filterWorks, isFiltered, queryOf } from './floor.filter';
import type { FloorFilter } from './floor.filter';
import { FloorStrip } from './floor-strip.component';
import { Rail } from '../../shared/rail.component';
import { FloorLegend } from './legend.component';
import { PieceCard } from './piece-card.component';
import { columnOf, rowLayout } from './row-layout';
import { Field } from '../../shared/field.component';

/** As the style sheet has it. */
const NARROW_PX = 1000;

/** Columns up to the burnout room stay in view beside a card at the right. */
const LAST_COLUMN_LEFT_FREE = 4;

/** The whole shop in one picture. */
@Component({
  selector: 'kv-floor',
  imports: [
    Field,
    FormsModule,
    RouterLink,
    ButtonModule,
    Drawer,
    PopoverModule,
    SelectModule,
    Disc,
    Hints,
    Roving,
    FloorLegend,
    FloorStrip,
    PieceCard,
    PlanStandText,
    Rail,
    Question,
    WorkGlyph,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './floor.page.html',
  styleUrl: './floor.page.css',
})
export class FloorPage {
  private readonly router = inject(Router);
  protected readonly shop = inject(ShopService);
  private readonly query = toSignal(inject(ActivatedRoute).queryParamMap);

  private readonly page = pageData<FloorAnswer>(() => '/floor');
  protected readonly floor = this.page.answer;
  protected readonly wrong = this.page.wrong;
  protected readonly roomName = ROOM_NAMES;
  protected readonly wayInto = inject(WAY_INTO);
  protected readonly colour = roomColour;
  protected readonly rail = RAIL;
  /** What a shop looks like with work in it, for whoever has none yet. */
  protected readonly examples = [
    {
      src: '/example/floor.png',
      says: 'The Floor: every piece stands as a disc in the room where it is; what wants a decision comes first at the foot.',
    },
    {
      src: '/example/piece.png',
      says: 'A piece: each section step by step, what it weighs against its plan, and what comes next.',
    },
  ];

  protected readonly filter = computed(() => {
    const query = this.query();
    return filterFrom(Object.fromEntries((query?.keys ?? []).map((key) => [key, query?.get(key) ?? null])));
  });
  protected readonly filtered = computed(() => isFiltered(this.filter()));
  protected readonly works = computed(() => filterWorks(this.floor()?.works ?? [], this.filter(), this.clientOf()));
  /** A tablet on end has no room for three discs in a cell. */
  private readonly narrow = toSignal(
    fromEvent(window, 'resize').pipe(
      startWith(undefined),
      map(() => window.innerWidth <= NARROW_PX),
    ),
    { initialValue: false },
  );
  protected readonly rows = computed(() =>
    this.works().map((work) => ({ work, text: this.workText(work), ...rowLayout(work.pieces, this.narrow()) })),
  );
  protected readonly counts = computed(() =>
    railCounts(
      (this.floor()?.works ?? []).flatMap(({ pieces }) => pieces),
      this.shop.now(),
    ),
  );
  protected readonly onFloor = computed(() =>
    (this.floor()?.works ?? []).reduce((sum, work) => sum + work.pieces.length, 0),
  );
  protected readonly out = computed(() => (this.floor()?.works ?? []).reduce((sum, work) => sum + work.delivered, 0));
  protected readonly workOptions = computed(() =>
    [...(this.floor()?.works ?? [])].sort((a, b) => a.title.localeCompare(b.title)),
  );
  private readonly clientOf = computed(
    () => new Map((this.floor()?.orders ?? []).map(({ id, clientId }) => [id, clientId])),
  );
  protected readonly clientOptions = computed(() => {
    const names = new Map((this.floor()?.orders ?? []).map(({ clientId, client }) => [clientId, client]));
    return [...names].map(([id, name]) => ({ id, name })).sort((a, b) => a.name.localeCompare(b.name));
  });
  protected readonly orderOptions = computed(() =>
    (this.floor()?.orders ?? []).map(({ id, number, title }) => ({ id, label: `O-${number} ${title}` })),
  );
  /** More rows than a desk's screen shows. */
  protected readonly manyRows = 24;
  protected readonly all = NO_FILTER;
  protected readonly roomOptions = RAIL.map((room) => ({ code: room, label: ROOM_NAMES[room] }));

  /** The piece whose card is open; kept in the address too. */
  protected readonly opened = computed(() => {
    const id = this.query()?.get('piece');
    for (const work of this.floor()?.works ?? []) {
      const piece = work.pieces.find((each) => each.id === id);
      if (piece) return { work, piece, order: this.floor()?.orders.find((order) => order.id === piece.orderId) };
    }
    return undefined;
  });

  /** The card opens on the side where it does not hide its own disc. */
  protected readonly side = computed(() =>
    columnOf(this.opened()?.piece.behind ?? 'mould') > LAST_COLUMN_LEFT_FREE ? 'left' : 'right',
  );

  /** The list of what wants a decision is open; kept in the address too. */
  protected readonly decides = computed(() => this.query()?.get('decide') === '1');

  protected deciding(on: boolean): void {
    const queryParams = { decide: on ? '1' : null, ...(on ? { piece: null } : {}) };
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge' });
  }

  protected read(): void {
    this.page.read();
  }

  /** The hint of a disc says what its label says. */
  protected readonly hint = (element: HTMLElement) => {
    const at = element.closest<HTMLElement>('[data-piece]');
    return at ? { at, text: at.getAttribute('aria-label') ?? '' } : undefined;
  };

  /** The pieces that the one small list shows: those of a "+9", or those not begun. */
  protected readonly listed = signal<readonly { id: string; text: string; onFloor: boolean }[]>([]);

  protected list(work: FloorWork, pieces: FloorWork['pieces'] | FloorWork['notBegun'], onFloor: boolean): void {
    this.listed.set(
      pieces.map((piece) => ({
        id: piece.id,
        text: 'mark' in piece ? `${work.title} ${piece.mark}` : this.words(work, piece),
        onFloor,
      })),
    );
  }

  protected words(work: FloorWork, piece: FloorPiece): string {
    return pieceInWords(work.title, piece, this.shop.today());
  }

  private workText(work: FloorWork): string {
    const edition =
      work.method === 'direct'
        ? 'unique'
        : `${work.editionSize}${work.artistProofs > 0 ? ` + ${work.artistProofs} AP` : ''}`;
    const sections = work.sectionCount > 1 ? ` · ${work.sectionCount} sections` : '';
    // Where the sections are said, the alloy stands on the piece's page.
    const alloy = work.sectionCount > 1 ? '' : ` · ${alloyOf(work.alloyId).name.replace(/ \d.*$/, '')}`;
    const what = work.method === 'shell' ? alloy : ` · ${work.method}`;
    const weight = work.plannedKg ? ` · ${formatFigure(work.plannedKg, work.plannedKg.value < 20 ? 1 : 0)}` : '';
    return `${edition}${sections}${what}${weight}`;
  }

  protected setFilter(patch: Partial<FloorFilter>): void {
    void this.router.navigate([], {
      queryParams: queryOf({ ...this.filter(), ...patch }),
      queryParamsHandling: 'merge',
    });
  }

  protected toggleRoom(room: Room): void {
    this.setFilter({ room: this.filter().room === room ? null : room });
  }

  protected openPiece(id: string | null): void {
    void this.router.navigate([], { queryParams: { piece: id }, queryParamsHandling: 'merge' });
  }

  /** From the strip: the card of a piece on the Floor. */
  protected show(id: string): void {
    this.openPiece(id);
  }
}
