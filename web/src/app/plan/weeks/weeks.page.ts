import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { FeedsAnswer, LanesAnswer, PlanAnswer } from '@kalvet/core';
import { addDays, dayIn, formatTime, kindOf } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { pageData } from '../../shared/page-data';
import { PlanStandText } from '../../shared/plan-stand.component';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { cellOf } from './week-cells';

const DAYS = 14;
const LINES = 6;

/** The next two weeks on one page: a column a day, a row a room, what is due and who comes; made to be printed and hung up. */
@Component({
  selector: 'kv-weeks',
  imports: [ButtonModule, PlanStandText, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './weeks.page.html',
  styleUrl: './weeks.page.css',
})
export class WeeksPage {
  protected readonly shop = inject(ShopService);
  protected readonly colour = roomColour;
  private readonly until = () => addDays(this.shop.today(), DAYS - 1);
  private readonly page = pageData<LanesAnswer>(() => `/plan/lanes?from=${this.shop.today()}&to=${this.until()}`);
  private readonly plan = pageData<PlanAnswer>(() => '/plan');
  private readonly feeds = pageData<FeedsAnswer>(() => '/feeds');
  protected readonly answer = computed(() => (this.plan.answer() ? this.page.answer() : undefined));
  protected readonly stand = computed(() => this.plan.answer()?.plan);
  protected readonly wrong = computed(() => this.page.wrong() || this.plan.wrong());

  /** Days on which anybody works, or a fire may be lit for one; whole days that are closed take no column. */
  protected readonly days = computed(() => {
    const answer = this.answer();
    if (!answer) return [];
    const open = new Set(
      answer.lanes
        .filter(({ kind }) => kind === 'people')
        .flatMap((lane) => (lane.open ?? []).map(([from]) => dayIn(from, this.shop.zone()))),
    );
    const pours = this.shop.days().pourDays;
    return Array.from({ length: DAYS }, (_, i) => addDays(answer.from, i))
      .filter((day) => open.has(day))
      .map((day) => ({ day, text: this.shop.day(day), isPour: pours.has(day) }));
  });
  protected readonly due = computed(() =>
    this.days().map(({ day }) =>
      (this.plan.answer()?.rows ?? [])
        .filter(({ dueDate }) => dueDate === day)
        .map(({ title, mark, lateDays }) => ({ text: `${title} ${mark}`, isLate: lateDays > 0 })),
    ),
  );
  protected readonly out = computed(() =>
    this.days().map(({ day }) =>
      (this.plan.answer()?.rows ?? [])
        .filter(({ finishesAt }) => finishesAt !== null && dayIn(finishesAt, this.shop.zone()) === day)
        .map(({ title, mark }) => `${title} ${mark}`),
    ),
  );
  protected readonly visits = computed(() =>
    this.days().map(({ day }) => (this.feeds.answer()?.visits ?? []).filter((visit) => visit.day === day)),
  );
  protected readonly hasVisits = computed(() => this.visits().some((list) => list.length > 0));
  protected readonly rows = computed(() => {
    const zone = this.shop.zone();
    const says = {
      dayOf: (instant: string) => dayIn(instant, zone),
      nameOf: (kind: string) => kindOf(kind).name,
      hour: (instant: string) => formatTime(instant, zone),
    };
    return (this.answer()?.lanes ?? [])
      .map((lane) => ({
        lane,
        cells: this.days().map(({ day }) => {
          const lines = cellOf(lane, day, says);
          return { lines: lines.slice(0, LINES), more: Math.max(0, lines.length - LINES) };
        }),
      }))
      .filter(({ cells }) => cells.some(({ lines }) => lines.length > 0));
  });

  protected read(): void {
    this.page.read();
    this.plan.read();
  }

  protected print(): void {
    window.print();
  }
}
