import { DestroyRef, Directive, Injectable, computed, inject, signal } from '@angular/core';
import type { Day, Instant, PlanAnswer } from '@kalvet/core';
import { addDays, dayIn, daysBetween, formatWall, fromMs } from '@kalvet/core';
import type { ZoomBehavior, ZoomTransform } from 'd3';
import { scaleUtc, select, utcDay, utcMonday, zoom, zoomIdentity } from 'd3';
import { ShopService } from '../../shared/shop.service';
import { axisOf, dayBegins, reach, stripes } from './plan-drawing';

export const LABEL_PX = 226;
const DAY_MS = 86_400_000;
/** A day in a foundry: from six to eight. */
const DAY_FROM_MS = DAY_MS / 4;
const LONG_DAY_MS = (14 / 24) * DAY_MS;
/** What a day's name takes at its mark. */
const TICK_PX = 68;
/** From an hour a screen to all there is. */
const MOST_ZOOM = 4000;
/** Drawn beyond each edge of what is in sight, as a share of it: so far it is moved without drawing anything anew. */
const BEYOND = 0.7;
/** Once it has not moved for so long, it is drawn anew around what is in sight. */
const STILL_MS = 140;

/** The time axis that all drawings of the plan share: what it shows, its marks, and how it is moved. */
@Injectable()
export class PlanAxis {
  private readonly shop = inject(ShopService);
  readonly answer = signal<PlanAnswer | undefined>(undefined);
  /** The whole width, names included. */
  readonly width = signal(900);
  /** Where the axis is, and where it was when everything was drawn: between the two the drawings are only pushed along. */
  private readonly transform = signal<ZoomTransform>(zoomIdentity);
  private readonly drawn = signal<ZoomTransform>(zoomIdentity);
  private still: ReturnType<typeof setTimeout> | undefined;
  private surface: HTMLElement | undefined;

  /** The axis is the shop's clock, so that a day's line stands where the shop's day begins. */
  readonly at = computed(() => axisOf(this.shop.zone()));
  private readonly reach = computed(() => reach(this.answer() ?? { now: this.shop.now(), rows: [] }, this.at()));
  readonly chart = computed(() => Math.max(300, this.width() - LABEL_PX));
  private readonly base = computed(() => scaleUtc(this.reach(), [0, this.chart()]));
  /** How much is drawn beyond each edge. */
  readonly beyond = computed(() => Math.round(this.chart() * BEYOND));
  /** From instants on the shop's clock to the drawing, over all that is drawn: 0 is at the left edge of what was in sight. */
  readonly x = computed(() => {
    const sight = this.drawn().rescaleX(this.base());
    const ends: [number, number] = [-this.beyond(), this.chart() + this.beyond()];
    return scaleUtc(
      ends.map((px) => sight.invert(px)),
      ends,
    );
  });
  /** How far the drawings are pushed along. */
  readonly shift = computed(() => this.transform().x - this.drawn().x);
  readonly today = computed(() => this.x()(this.at()(this.shop.now())));
  readonly dayPx = computed(() => this.x()(DAY_MS) - this.x()(0));

  /** The days that are in sight, the first and the last one whole. */
  readonly days = computed(() => this.daysBetween(0, this.chart()));
  private readonly drawnDays = computed(() => this.daysBetween(-this.beyond(), this.chart() + this.beyond()));
  readonly ticks = computed(() => {
    const x = this.x();
    const [from, to] = x.domain() as [Date, Date];
    const days = (to.getTime() - from.getTime()) / DAY_MS;
    const most = Math.max(3, Math.floor((this.chart() + 2 * this.beyond()) / TICK_PX));
    if (this.days().count < 5)
      return x.ticks(Math.floor(most * 0.7)).map((date) => ({ x: x(date), text: formatWall(date.getTime(), 'hour') }));
    // Weeks begin on Monday; where there is room, every day is named.
    const every = days <= most ? utcDay : utcMonday.every(Math.ceil(days / 7 / most))!;
    return x.ticks(every).map((date) => ({ x: x(date), text: this.shop.day(dayIn(fromMs(date.getTime()), 'UTC')) }));
  });
  private readonly allDays = computed(() => {
    const { from, count } = this.drawnDays();
    return Array.from({ length: count }, (_, i) => addDays(from, i));
  });
  readonly pourDays = computed(() => {
    const days = this.shop.days().pourDays;
    return this.bands(
      this.allDays().filter((day) => days.has(day)),
      1,
    );
  });
  /** Days on which nobody works; as long as they can be told apart, and longer spells always. */
  readonly closedDays = computed(() => {
    const days = this.shop.days().closedDays;
    return this.bands(
      this.allDays().filter((day) => days.has(day)),
      this.dayPx() < 5 ? 3 : 1,
    );
  });

  private readonly zooming: ZoomBehavior<HTMLElement, unknown> = zoom<HTMLElement, unknown>()
    .scaleExtent([1, MOST_ZOOM])
    // The wheel alone scrolls the rows; with a key held it zooms, and dragging moves in time.
    .filter((event: WheelEvent | MouseEvent) =>
      event.type === 'wheel' ? event.ctrlKey || event.shiftKey || event.altKey : !event.button,
    )
    .on('zoom', ({ transform }: { transform: ZoomTransform }) => this.moved(transform));

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.still));
  }

  /** Takes what is dragged and turned on a drawing; again whenever its size changed. */
  attach(surface: HTMLElement): void {
    this.zooming.translateExtent([
      [0, 0],
      [this.chart(), 0],
    ]);
    this.zooming.extent([
      [0, 0],
      [this.chart(), 1],
    ]);
    if (this.surface === surface) return;
    this.surface = surface;
    select(surface).call(this.zooming).on('dblclick.zoom', null);
  }

  /** Shows so many days from a little before today on; of one day the hours in which anybody works. */
  show(days: number): void {
    const [from, to] = this.base().domain() as [Date, Date];
    const shown = days <= 1 ? LONG_DAY_MS : days * DAY_MS;
    const scale = Math.max(1, (to.getTime() - from.getTime()) / shown);
    const begin =
      days <= 1
        ? dayBegins(dayIn(this.shop.now(), this.shop.zone())) + DAY_FROM_MS
        : this.at()(this.shop.now()) - Math.min(2, days / 14) * DAY_MS;
    this.transformTo(zoomIdentity.scale(scale).translate(-Math.max(0, this.base()(begin)), 0));
  }

  /** Brings an instant into sight, a third from the left, where it is not. */
  reveal(instant: Instant): void {
    const px = this.x()(this.at()(instant)) + this.shift();
    if (px > 20 && px < this.chart() - 60) return;
    const { k } = this.transform();
    this.transformTo(
      zoomIdentity.scale(k).translate(-Math.max(0, this.base()(this.at()(instant)) - this.chart() / k / 3), 0),
    );
  }

  zoomBy(factor: number): void {
    if (this.surface) select(this.surface).call((drawing) => this.zooming.scaleBy(drawing, factor));
  }

  /** Moves by a share of what is in sight. */
  move(share: number): void {
    const { k } = this.transform();
    if (this.surface)
      select(this.surface).call((drawing) => this.zooming.translateBy(drawing, (-share * this.chart()) / k, 0));
  }

  private moved(to: ZoomTransform): void {
    this.transform.set(to);
    clearTimeout(this.still);
    if (to.k !== this.drawn().k || Math.abs(this.shift()) > this.beyond()) this.drawn.set(to);
    else this.still = setTimeout(() => this.drawn.set(to), STILL_MS);
  }

  private daysBetween(fromPx: number, toPx: number): { readonly from: Day; readonly to: Day; readonly count: number } {
    const [from, to] = [fromPx, toPx].map((px) => dayIn(fromMs(this.x().invert(px).getTime()), 'UTC')) as [Day, Day];
    return { from, to, count: daysBetween(from, to) + 1 };
  }

  private transformTo(transform: ZoomTransform): void {
    if (this.surface) select(this.surface).call((drawing) => this.zooming.transform(drawing, transform));
  }

  private bands(days: readonly Day[], least: number): { x: number; width: number; from: Day; count: number }[] {
    const x = this.x();
    return stripes(days, least).map(({ from, count }) => ({
      from,
      count,
      x: x(dayBegins(from)),
      width: count * this.dayPx(),
    }));
  }
}

/** A drawing over time: as wide as all that is drawn, in a frame (`over-time`) that shows what is in sight; its group begins at `origin`. */
@Directive({
  selector: 'svg[kvOverTime]',
  exportAs: 'overTime',
  host: {
    '[attr.width]': 'axis.chart() + 2 * axis.beyond()',
    '[style.transform]': 'pushed()',
    '[style.will-change]': '"transform"',
    '[style.display]': '"block"',
  },
})
export class OverTime {
  protected readonly axis = inject(PlanAxis);
  protected readonly pushed = computed(() => `translateX(${this.axis.shift() - this.axis.beyond()}px)`);
  readonly origin = computed(() => `translate(${this.axis.beyond()},0)`);
}
