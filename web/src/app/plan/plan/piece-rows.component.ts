import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { PlanRow } from '@kalvet/core';
import { ROOM_NAMES } from '@kalvet/core';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { dayEnds, rowWords, visibleRows } from './plan-drawing';
import { LABEL_PX, OverTime, PlanAxis } from './plan-axis';

const ROW_PX = 26;

/** Each piece on a row of its own: when it is in which room, when it is due, and when it is out. */
@Component({
  selector: 'kv-piece-rows',
  imports: [OverTime, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="rows" [style.height.px]="height()">
      @for (each of drawn(); track each.row.pieceId) {
        <a
          class="row-label"
          [routerLink]="['/pieces', each.row.pieceId]"
          [style.top.px]="each.y"
          [style.height.px]="rowPx"
          [style.width.px]="label - 8"
          [title]="each.words">
          <span class="name">{{ each.row.title }}</span>
          <span class="mark">{{ each.row.mark }}</span>
          <span [class.kv-alert]="each.row.lateDays > 0" class="when">{{ each.when }}</span>
          <span class="kv-hidden">{{ each.words }}</span>
        </a>
      }
      <div class="over-time" [style.margin-left.px]="label" [style.padding-top.px]="top()">
        <svg kvOverTime #time="overTime" [attr.height]="drawnHeight()" aria-hidden="true">
          <g [attr.transform]="time.origin()">
            @for (band of axis.closedDays(); track band.from) {
              <rect
                class="closed-day"
                [attr.x]="band.x"
                y="0"
                [attr.width]="band.width"
                [attr.height]="drawnHeight()" />
            }
            @for (band of axis.pourDays(); track band.from) {
              <rect class="pour-day" [attr.x]="band.x" y="0" [attr.width]="band.width" [attr.height]="drawnHeight()" />
            }
            @for (tick of axis.ticks(); track $index) {
              <line class="tick" [attr.x1]="tick.x" [attr.x2]="tick.x" y1="0" [attr.y2]="drawnHeight()" />
            }
            @for (each of drawn(); track each.row.pieceId) {
              <g [attr.transform]="'translate(0,' + (each.y - top()) + ')'" [class.held]="each.row.state === 'hold'">
                @for (bar of each.bars; track bar.room) {
                  <rect
                    class="bar"
                    [class.assumed]="each.assumed"
                    [attr.x]="bar.x"
                    y="7"
                    [attr.width]="bar.width"
                    height="12"
                    [style.fill]="colour(bar.room)"
                    [style.stroke]="each.assumed ? colour(bar.room) : null">
                    <title>{{ bar.title }}</title>
                  </rect>
                }
                @if (each.asked !== null) {
                  <text class="asked" [attr.x]="each.asked - 10" y="17">?</text>
                }
                @if (each.end !== null && each.ninety !== null && each.ninety > each.end) {
                  <line class="tail" [attr.x1]="each.end" [attr.x2]="each.ninety" y1="13" y2="13">
                    <title>nine chances in ten by {{ shop.dayOf(each.row.likely!.ninetyAt) }}</title>
                  </line>
                }
                @if (each.was !== null) {
                  <circle class="was" [attr.cx]="each.was" cy="13" r="4.5">
                    <title>was out {{ shop.dayOf(each.row.moved!.from) }}</title>
                  </circle>
                }
                @if (each.due !== null && each.end !== null && each.row.lateDays > 0) {
                  <line class="over" [attr.x1]="each.due" [attr.x2]="each.end" y1="22.5" y2="22.5" />
                }
                @if (each.due !== null) {
                  <path class="due" [attr.transform]="'translate(' + each.due + ',13)'" d="M0 -7 5 0 0 7 -5 0z">
                    <title>due {{ shop.day(each.row.dueDate) }}</title>
                  </path>
                }
              </g>
            }
            <line class="today" [attr.x1]="axis.today()" [attr.x2]="axis.today()" y1="0" [attr.y2]="drawnHeight()" />
          </g>
        </svg>
      </div>
    </div>
  `,
  styleUrls: ['./plan-marks.css', './piece-rows.component.css'],
})
export class PieceRows {
  protected readonly shop = inject(ShopService);
  protected readonly axis = inject(PlanAxis);
  readonly rows = input.required<readonly PlanRow[]>();
  /** What is in sight of the scrolled board, in pixels from the first row's top. */
  readonly scroll = input(0);
  readonly sight = input(500);

  protected readonly label = LABEL_PX;
  protected readonly rowPx = ROW_PX;
  protected readonly colour = roomColour;
  protected readonly height = computed(() => this.rows().length * ROW_PX);

  /** Only what can be seen is drawn: a shop of four hundred pieces scrolls as one of ten. */
  private readonly inSight = computed(() => visibleRows(this.rows().length, ROW_PX, this.scroll(), this.sight()), {
    equal: ([a, b], [c, d]) => a === c && b === d,
  });
  protected readonly top = computed(() => this.inSight()[0] * ROW_PX);
  protected readonly drawnHeight = computed(() => (this.inSight()[1] - this.inSight()[0]) * ROW_PX);
  protected readonly drawn = computed(() => {
    const [first, last] = this.inSight();
    const x = this.axis.x();
    const at = this.axis.at();
    const [from, to] = x.domain().map((date) => date.getTime()) as [number, number];
    return this.rows()
      .slice(first, last)
      .map((row, i) => ({
        row,
        y: (first + i) * ROW_PX,
        words: rowWords(row, this.shop),
        when:
          row.lateDays > 0 ? `+${row.lateDays} d` : row.finishesAt ? this.shop.dayOf(row.finishesAt) : 'not planned',
        bars: row.spans
          .filter(([, start, end]) => at(end) > from && at(start) < to)
          .map(([room, start, end]) => ({
            room,
            x: x(at(start)),
            width: Math.max(2, x(at(end)) - x(at(start))),
            title: `${ROOM_NAMES[room]}: ${this.shop.planned(start)} to ${this.shop.planned(end)}`,
          })),
        assumed: row.likely?.assumes !== undefined,
        asked: row.likely?.assumes && row.spans[0] ? x(at(row.spans[0][1])) : null,
        due: row.dueDate ? x(dayEnds(row.dueDate)) : null,
        end: row.finishesAt ? x(at(row.finishesAt)) : null,
        was: row.moved ? x(at(row.moved.from)) : null,
        ninety: row.likely ? x(at(row.likely.ninetyAt)) : null,
      }));
  });
}
