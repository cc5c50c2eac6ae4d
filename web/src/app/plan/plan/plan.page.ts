import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterRenderEffect,
  computed,
  effect,
  inject,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { ActivatedRoute, Router, RouterLink } from '@angular/router';
import type { PlanAnswer, PlannedLoad, PlanRow } from '@kalvet/core';
import { alloyOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Choices } from '../../shared/choices.component';
import { May } from '../../shared/may.directive';
import { pageData } from '../../shared/page-data';
import { PlanStandText } from '../../shared/plan-stand.component';
import { Question } from '../../shared/question.component';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { HandLanes, MOST_DAYS } from './hand-lanes.component';
import { PieceRows } from './piece-rows.component';
import { LABEL_PX, OverTime, PlanAxis } from './plan-axis';
import { isFound } from './plan-drawing';
import { RoomWeeks } from './room-weeks.component';

const VIEWS = [
  { code: 'pieces', label: 'Pieces' },
  { code: 'rooms', label: 'Rooms by week' },
  { code: 'hands', label: 'People and machines' },
] as const;
type View = (typeof VIEWS)[number]['code'];

const SPANS = [
  { days: 1, label: 'Day' },
  { days: 14, label: '2 weeks' },
  { days: 56, label: '8 weeks' },
  { days: 365, label: 'Year' },
];
const ZOOMS = [
  { by: 1.5, sign: '+', words: 'Zoom in' },
  { by: 1 / 1.5, sign: '−', words: 'Zoom out' },
];
/** The first look: eight weeks of pieces and rooms, two weeks of single work. */
const FIRST_DAYS: Readonly<Record<View, number>> = { pieces: 56, rooms: 56, hands: 14 };
const LOAD_PX = 17;
/** Below this there is no room in a bar for how full it is. */
const WORDS_PX = 92;

/** Time across; pieces, rooms, or people and machines down: what is when, pour days, what becomes late, and what can be moved. */
@Component({
  selector: 'kv-plan',
  imports: [
    ButtonModule,
    Choices,
    FormsModule,
    HandLanes,
    InputTextModule,
    May,
    OverTime,
    PieceRows,
    PlanStandText,
    Question,
    RoomWeeks,
    RouterLink,
  ],
  providers: [PlanAxis],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan.page.html',
  styleUrls: ['./plan-marks.css', './plan.page.css'],
})
export class PlanPage {
  protected readonly shop = inject(ShopService);
  protected readonly axis = inject(PlanAxis);
  private readonly router = inject(Router);
  private readonly page = pageData<PlanAnswer>(() => '/plan');
  private readonly query = toSignal(inject(ActivatedRoute).queryParamMap);
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  private readonly body = viewChild<ElementRef<HTMLElement>>('body');
  private readonly surface = viewChild<ElementRef<HTMLElement>>('surface');
  private readonly lanes = viewChild(HandLanes);

  protected readonly label = LABEL_PX;
  protected readonly loadPx = LOAD_PX;
  protected readonly views = [...VIEWS];
  protected readonly spans = SPANS;
  protected readonly zooms = ZOOMS;
  protected readonly colour = roomColour;
  protected readonly height = signal(500);
  protected readonly scroll = signal(0);
  protected readonly lateOnly = signal(false);
  protected readonly movedOnly = signal(false);
  protected readonly find = signal('');

  protected readonly view = computed<View>(() => {
    const asked = this.query()?.get('by');
    return VIEWS.find(({ code }) => code === asked)?.code ?? 'pieces';
  });
  /** Pieces that are out on another day than the last plan of the day before said. */
  protected readonly moved = computed(() => (this.answer()?.rows ?? []).filter((row) => row.moved !== null));
  protected readonly rows = computed(() =>
    (this.answer()?.rows ?? []).filter(
      ({ lateDays, moved, title, mark }) =>
        (!this.lateOnly() || lateDays > 0) &&
        (!this.movedOnly() || moved !== null) &&
        isFound(this.find(), `${title} ${mark}`),
    ),
  );
  protected readonly late = computed(() => (this.answer()?.rows ?? []).filter(({ lateDays }) => lateDays > 0).length);
  protected readonly loads = computed(() => {
    const x = this.axis.x();
    const at = this.axis.at();
    const [first, last] = x.range() as [number, number];
    return (this.answer()?.loads ?? [])
      .map((load) => ({ load, x: x(at(load.startsAt)), to: x(at(load.endsAt)) }))
      .filter((each) => each.to > first && each.x < last)
      .map(({ load, x: from, to }) => {
        const width = Math.max(4, to - from);
        const full = Math.min(1, load.full) * LOAD_PX;
        return {
          load,
          x: from,
          y: load.kind === 'heat' ? 44 : 22,
          width,
          full,
          words: this.loadWords(load),
          text: width > WORDS_PX ? this.fullWords(load) : '',
        };
      });
  });
  protected readonly key = computed(() =>
    this.view() === 'rooms'
      ? 'Bars: work planned for a room’s hands, in front of what they can do in the week · red edge: full · pale steps: pieces in the room'
      : 'Bars: from the first to the last step in a room, pale: what is undecided is decided in time · line behind them: out by its end with nine chances in ten · diamond: due · ring: out in the plan of the day before · red line: late by that much · gold: pour days · grey: closed',
  );

  /** Once there is something to look at, it is shown in the span that suits what is looked at. */
  private readonly fitted = linkedSignal<View | '' | undefined>(() => (this.answer() === undefined ? undefined : ''));

  constructor() {
    const watch = new ResizeObserver(() => {
      const body = this.body()?.nativeElement;
      if (!body) return;
      this.axis.width.set(body.clientWidth);
      this.height.set(body.clientHeight);
    });
    inject(DestroyRef).onDestroy(() => watch.disconnect());
    effect(() => this.axis.answer.set(this.answer()));
    afterRenderEffect(() => {
      const body = this.body()?.nativeElement;
      const surface = this.surface()?.nativeElement;
      if (!body || !surface) return;
      watch.observe(body);
      this.axis.attach(surface);
      const view = this.view();
      if (this.fitted() === view || this.axis.width() <= 0) return;
      const isTooFar = view === 'hands' && this.axis.days().count > MOST_DAYS;
      if (this.fitted() === '' || isTooFar) this.axis.show(FIRST_DAYS[view]);
      this.fitted.set(view);
    });
  }

  protected look(view: View): void {
    void this.router.navigate([], { queryParams: { by: view === 'pieces' ? null : view }, replaceUrl: true });
  }

  protected scrolled(event: Event): void {
    this.scroll.set((event.target as HTMLElement).scrollTop);
  }

  protected read(): void {
    this.page.read();
  }

  /** Enter in the finder brings the first that is found into sight. */
  protected findFirst(): void {
    if (this.view() === 'hands') this.lanes()?.showFirst();
    const [first] = this.rows()[0]?.spans ?? [];
    if (this.view() === 'pieces' && first) this.axis.reveal(first[1]);
  }

  protected keys(event: KeyboardEvent): void {
    if (event.target !== event.currentTarget) return;
    const act: Record<string, () => void> = {
      ArrowLeft: () => this.axis.move(-0.25),
      ArrowRight: () => this.axis.move(0.25),
      '+': () => this.axis.zoomBy(1.5),
      '-': () => this.axis.zoomBy(1 / 1.5),
    };
    if (!act[event.key]) return;
    event.preventDefault();
    act[event.key]!();
  }

  protected finish(row: PlanRow): string {
    return row.finishesAt ? this.shop.dayOf(row.finishesAt) : 'not planned';
  }

  private fullWords({ kind, count, kg, holds }: PlannedLoad): string {
    return kind === 'heat'
      ? `${this.shop.amount(kg ?? 0, 'kg', 0)} of ${this.shop.amount(holds, 'kg', 0)}`
      : `${count} of ${holds} places`;
  }

  private loadWords(load: PlannedLoad): string {
    const what = load.kind === 'heat' ? `Heat of ${alloyOf(load.alloyId ?? 'C87300').name}` : 'Kiln load';
    return `${what}, ${this.fullWords(load)}, ${this.shop.planned(load.startsAt)}: ${load.labels.join(', ')}`;
  }
}
