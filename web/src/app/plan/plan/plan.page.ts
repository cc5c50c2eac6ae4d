import {
  ChangeDetectionStrategy,
  Component,
  DestroyRef,
  ElementRef,
  afterRenderEffect,
  computed,
  inject,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PlanAnswer, PlannedLoad, PlanRow } from '@kalvet/core';
import { ROOM_NAMES, alloyOf, dayIn, formatWall, fromMs } from '@kalvet/core';
import { area, curveStepAfter, scaleLinear, scaleUtc, select, utcDay, utcMonday, zoom, zoomIdentity } from 'd3';
import type { ZoomBehavior, ZoomTransform } from 'd3';
import { ButtonModule } from 'primeng/button';
import { May } from '../../shared/may.directive';
import { pageData } from '../../shared/page-data';
import { PlanStandText } from '../../shared/plan-stand.component';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { axisOf, dayBegins, dayEnds, reach, roomLoads, rowWords, visibleRows } from './plan-drawing';

const LABEL_PX = 226;
const ROW_PX = 26;
const ROOM_PX = 22;
const DAY_MS = 86_400_000;

/** Time across, rooms and pieces down: when each piece is where, pour days, due dates, and what becomes late. */
@Component({
  selector: 'kv-plan',
  imports: [RouterLink, ButtonModule, May, PlanStandText],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './plan.page.html',
  styleUrl: './plan.page.css',
})
export class PlanPage {
  protected readonly shop = inject(ShopService);
  private readonly page = pageData<PlanAnswer>(() => '/plan');
  protected readonly answer = this.page.answer;
  protected readonly wrong = this.page.wrong;
  private readonly body = viewChild<ElementRef<HTMLElement>>('body');
  private readonly surface = viewChild<ElementRef<SVGSVGElement>>('surface');

  protected readonly label = LABEL_PX;
  protected readonly rowPx = ROW_PX;
  protected readonly roomPx = ROOM_PX;
  protected readonly colour = roomColour;
  protected readonly roomName = ROOM_NAMES;
  protected readonly width = signal(900);
  private readonly height = signal(500);
  private readonly scroll = signal(0);
  private readonly transform = signal<ZoomTransform>(zoomIdentity);
  protected readonly lateOnly = signal(false);
  protected readonly movedOnly = signal(false);
  /** Pieces that are out on another day than the last plan of the day before said. */
  protected readonly moved = computed(() => (this.answer()?.rows ?? []).filter((row) => row.moved !== null));

  /** The axis is the shop's clock, so that a day's line stands where the shop's day begins. */
  private readonly at = computed(() => axisOf(this.shop.zone()));
  private readonly reach = computed(() => reach(this.answer() ?? { now: this.shop.now(), rows: [] }, this.at()));
  protected readonly chart = computed(() => Math.max(300, this.width() - LABEL_PX));
  private readonly base = computed(() => scaleUtc(this.reach(), [0, this.chart()]));
  protected readonly x = computed(() => this.transform().rescaleX(this.base()));

  protected readonly rows = computed(() =>
    (this.answer()?.rows ?? []).filter(
      ({ lateDays, moved }) => (!this.lateOnly() || lateDays > 0) && (!this.movedOnly() || moved !== null),
    ),
  );
  protected readonly late = computed(() => (this.answer()?.rows ?? []).filter(({ lateDays }) => lateDays > 0).length);
  protected readonly fullHeight = computed(() => this.rows().length * ROW_PX);
  /** Only what can be seen is drawn: a shop of four hundred pieces scrolls as one of ten. */
  protected readonly drawn = computed(() => {
    const [first, last] = visibleRows(this.rows().length, ROW_PX, this.scroll(), this.height());
    const x = this.x();
    const at = this.at();
    const [from, to] = x.domain().map((date) => date.getTime()) as [number, number];
    return this.rows()
      .slice(first, last)
      .map((row, i) => ({
        row,
        y: (first + i) * ROW_PX,
        words: rowWords(row, this.shop),
        bars: row.spans
          .filter(([, start, end]) => at(end) > from && at(start) < to)
          .map(([room, start, end]) => ({
            room,
            x: x(at(start)),
            width: Math.max(2, x(at(end)) - x(at(start))),
            title: `${ROOM_NAMES[room]}: ${this.shop.planned(start)} to ${this.shop.planned(end)}`,
          })),
        due: row.dueDate ? x(dayEnds(row.dueDate)) : null,
        end: row.finishesAt ? x(at(row.finishesAt)) : null,
        was: row.moved ? x(at(row.moved.from)) : null,
        ninety: row.likely ? x(at(row.likely.ninetyAt)) : null,
      }));
  });
  protected readonly rooms = computed(() => {
    const x = this.x();
    return roomLoads(this.answer()?.rows ?? [], this.at()).map(({ room, steps, most }) => {
      const y = scaleLinear([0, Math.max(1, most)], [ROOM_PX - 3, 3]);
      const draw = area<{ at: number; count: number }>()
        .x(({ at }) => x(at))
        .y0(ROOM_PX - 3)
        .y1(({ count }) => y(count))
        .curve(curveStepAfter);
      return { room, most, path: draw(steps) ?? '' };
    });
  });
  protected readonly loads = computed(() => {
    const x = this.x();
    return (this.answer()?.loads ?? []).map((load) => ({
      load,
      x: x(this.at()(load.startsAt)),
      width: Math.max(3, x(this.at()(load.endsAt)) - x(this.at()(load.startsAt))),
      words: this.loadWords(load),
    }));
  });
  protected readonly today = computed(() => this.x()(this.at()(this.shop.now())));
  protected readonly ticks = computed(() => {
    const x = this.x();
    const days = (x.domain()[1]!.getTime() - x.domain()[0]!.getTime()) / DAY_MS;
    const most = Math.max(3, Math.floor(this.chart() / 110));
    if (days < 4) return x.ticks(most).map((date) => ({ x: x(date), text: formatWall(date.getTime(), 'hour') }));
    // Weeks begin on Monday; where there is room, every day is named.
    const every = days <= most ? utcDay : utcMonday.every(Math.ceil(days / 7 / most))!;
    return x.ticks(every).map((date) => ({ x: x(date), text: this.shop.day(dayIn(fromMs(date.getTime()), 'UTC')) }));
  });
  protected readonly pourDays = computed(() => {
    const x = this.x();
    const width = x(DAY_MS) - x(0);
    return (this.answer()?.pourDays ?? [])
      .map((day) => ({ day, x: x(dayBegins(day)), width }))
      .filter((each) => each.x > -each.width && each.x < this.chart());
  });

  private readonly zooming: ZoomBehavior<SVGSVGElement, unknown> = zoom<SVGSVGElement, unknown>()
    .scaleExtent([1, 200])
    // The wheel alone scrolls the rows; with a key held it zooms, and dragging moves in time.
    .filter((event: WheelEvent | MouseEvent) =>
      event.type === 'wheel' ? event.ctrlKey || event.shiftKey || event.altKey : !event.button,
    )
    .on('zoom', ({ transform }: { transform: ZoomTransform }) => this.transform.set(transform));

  /** The first look shows eight weeks. */
  private readonly fitted = linkedSignal(() => this.answer() === undefined);

  constructor() {
    const watch = new ResizeObserver(() => {
      const body = this.body()?.nativeElement;
      if (!body) return;
      this.width.set(body.clientWidth);
      this.height.set(body.clientHeight);
    });
    inject(DestroyRef).onDestroy(() => watch.disconnect());
    afterRenderEffect(() => {
      const body = this.body()?.nativeElement;
      const surface = this.surface()?.nativeElement;
      if (!body || !surface) return;
      watch.observe(body);
      this.zooming.translateExtent([
        [0, 0],
        [this.chart(), 0],
      ]);
      this.zooming.extent([
        [0, 0],
        [this.chart(), 1],
      ]);
      const drawing = select(surface).call(this.zooming);
      drawing.on('dblclick.zoom', null);
      if (!this.fitted() && this.answer() && this.width() > 0) {
        this.fitted.set(true);
        this.weeks(8);
      }
    });
  }

  protected scrolled(event: Event): void {
    this.scroll.set((event.target as HTMLElement).scrollTop);
  }

  protected read(): void {
    this.page.read();
  }

  /** Shows so many weeks from today on; all of it where they are more than there is. */
  protected weeks(count: number): void {
    const surface = this.surface()?.nativeElement;
    if (!surface) return;
    const [from, to] = this.base().domain() as [Date, Date];
    const scale = Math.max(1, (to.getTime() - from.getTime()) / (count * 7 * DAY_MS));
    const at = this.base()(this.at()(this.shop.now()) - 2 * DAY_MS);
    select(surface).call((drawing) =>
      this.zooming.transform(drawing, zoomIdentity.scale(scale).translate(-Math.max(0, at), 0)),
    );
  }

  protected zoomBy(factor: number): void {
    const surface = this.surface()?.nativeElement;
    if (surface) select(surface).call((drawing) => this.zooming.scaleBy(drawing, factor));
  }

  protected move(weeks: number): void {
    const surface = this.surface()?.nativeElement;
    const px = this.x()(weeks * 7 * DAY_MS) - this.x()(0);
    if (surface) select(surface).call((drawing) => this.zooming.translateBy(drawing, -px / this.transform().k, 0));
  }

  protected key(event: KeyboardEvent): void {
    const act: Record<string, () => void> = {
      ArrowLeft: () => this.move(-1),
      ArrowRight: () => this.move(1),
      '+': () => this.zoomBy(1.5),
      '-': () => this.zoomBy(1 / 1.5),
    };
    if (!act[event.key]) return;
    event.preventDefault();
    act[event.key]!();
  }

  protected finish(row: PlanRow): string {
    return row.finishesAt ? this.shop.dayOf(row.finishesAt) : 'not planned';
  }

  private loadWords(load: PlannedLoad): string {
    const what =
      load.kind === 'heat'
        ? `Heat of ${this.shop.amount(load.kg ?? 0, 'kg', 0)} ${alloyOf(load.alloyId ?? 'C87300').name}`
        : 'Kiln load';
    return `${what}, ${this.shop.planned(load.startsAt)}: ${load.labels.join(', ')}`;
  }
}
