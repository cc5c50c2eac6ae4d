import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { Day, PlanAnswer } from '@kalvet/core';
import { area, curveStepAfter, scaleLinear } from 'd3';
import { roomColour } from '../../shared/rooms';
import { ShopService } from '../../shared/shop.service';
import { dayBegins, roomLoads } from './plan-drawing';
import { LABEL_PX, OverTime, PlanAxis } from './plan-axis';

const ROW_PX = 74;
const TOP_PX = 10;
const WORK_PX = 40;
const PIECES_PX = 14;
const WEEK_DAYS = 7;
/** From this share on a week has no room for anything more. */
const FULL = 0.95;

/** Each room week by week: how much work there is for its hands, beside what they can do, and how many pieces are in it. */
@Component({
  selector: 'kv-room-weeks',
  imports: [OverTime],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg class="names" [attr.width]="label" [attr.height]="rows().length * rowPx">
      @for (row of rows(); track row.resourceId; let i = $index) {
        <g [attr.transform]="'translate(0,' + i * rowPx + ')'">
          <rect x="12" y="10" width="4" [attr.height]="rowPx - 20" [style.fill]="colour(row.room)" />
          <text x="22" y="24" class="name">{{ row.name }}</text>
          <text x="22" y="41" class="soft">{{ row.now }}</text>
          <text x="22" y="58" class="soft">{{ row.pieces }}</text>
          <line class="rule" x1="0" [attr.x2]="label" [attr.y1]="rowPx - 0.5" [attr.y2]="rowPx - 0.5" />
        </g>
      }
    </svg>
    <div class="over-time">
      <svg kvOverTime #time="overTime" [attr.height]="rows().length * rowPx" role="img" [attr.aria-label]="words()">
        <g [attr.transform]="time.origin()">
          @for (band of axis.pourDays(); track band.from) {
            <rect
              class="pour-day"
              [attr.x]="band.x"
              y="0"
              [attr.width]="band.width"
              [attr.height]="rows().length * rowPx" />
          }
          @for (row of rows(); track row.resourceId; let i = $index) {
            <g [attr.transform]="'translate(0,' + i * rowPx + ')'">
              @for (week of row.weeks; track week.monday) {
                <rect
                  class="there"
                  [attr.x]="week.x + 1.5"
                  [attr.y]="week.thereY"
                  [attr.width]="week.width"
                  [attr.height]="base - week.thereY" />
                <rect
                  [attr.x]="week.x + 1.5"
                  [attr.y]="week.plannedY"
                  [attr.width]="week.width"
                  [attr.height]="base - week.plannedY"
                  [style.fill]="colour(row.room)"
                  [class.full]="week.isFull">
                  <title>{{ week.title }}</title>
                </rect>
                @if (week.text) {
                  <text class="hours" [attr.x]="week.x + 6" [attr.y]="topPx + 2">{{ week.text }}</text>
                }
              }
              <path [attr.d]="row.path" [style.fill]="colour(row.room)" opacity="0.4" />
              <line
                class="rule"
                [attr.x1]="-axis.beyond()"
                [attr.x2]="axis.chart() + axis.beyond()"
                [attr.y1]="rowPx - 0.5"
                [attr.y2]="rowPx - 0.5" />
            </g>
          }
          <line
            class="today"
            [attr.x1]="axis.today()"
            [attr.x2]="axis.today()"
            y1="0"
            [attr.y2]="rows().length * rowPx" />
        </g>
      </svg>
    </div>
  `,
  styleUrls: ['./plan-marks.css'],
  styles: `
    :host {
      display: grid;
      grid-template-columns: auto minmax(0, 1fr);
      line-height: 0;
    }
    .name {
      font-size: 14px;
    }
    .there {
      fill: var(--kv-plaster);
      stroke: var(--kv-line-strong);
    }
    .full {
      stroke: var(--kv-alert);
      stroke-width: 2;
    }
    .hours {
      font-size: 11px;
    }
    .rule {
      stroke: var(--kv-line);
    }
  `,
})
export class RoomWeeks {
  private readonly shop = inject(ShopService);
  protected readonly axis = inject(PlanAxis);
  readonly answer = input.required<PlanAnswer>();
  protected readonly label = LABEL_PX;
  protected readonly rowPx = ROW_PX;
  protected readonly topPx = TOP_PX;
  protected readonly base = TOP_PX + WORK_PX;
  protected readonly colour = roomColour;

  private readonly inRooms = computed(() => roomLoads(this.answer().rows, this.axis.at()));

  protected readonly rows = computed(() => {
    const x = this.axis.x();
    const weekPx = this.axis.dayPx() * WEEK_DAYS;
    const hours = (minutes: number) => `${Math.round(minutes / 60)}`;
    return this.answer().hands.map(({ resourceId, name, room, count, weeks }) => {
      const most = Math.max(1, ...weeks.map(({ there, planned }) => Math.max(there, planned)));
      const y = scaleLinear([0, most], [this.base, TOP_PX + 4]);
      const inRoom = this.inRooms().find((each) => each.room === room);
      const pieceY = scaleLinear([0, Math.max(1, inRoom?.most ?? 1)], [ROW_PX - 4, ROW_PX - 4 - PIECES_PX]);
      const draw = area<{ at: number; count: number }>()
        .x(({ at }) => x(at))
        .y0(ROW_PX - 4)
        .y1(({ count: pieces }) => pieceY(pieces))
        .curve(curveStepAfter);
      // On a Saturday the week that begins is the one to look at.
      const first = weeks.findIndex(({ there }) => there > 0);
      const week = weeks[first];
      return {
        resourceId,
        name: `${name}${count > 1 ? `, ${count}` : ''}`,
        room,
        now: week ? `${hours(week.planned)} of ${hours(week.there)} h ${this.weekWords(first, week.monday)}` : '',
        pieces: inRoom ? `up to ${inRoom.most} ${inRoom.most === 1 ? 'piece' : 'pieces'} at once` : 'no piece comes',
        path: draw(inRoom?.steps ?? []) ?? '',
        weeks: weeks.map(({ monday, planned, there }) => ({
          monday,
          x: x(dayBegins(monday)),
          width: Math.max(1, weekPx - 3),
          thereY: y(there),
          plannedY: y(planned),
          isFull: there > 0 && planned >= FULL * there,
          text:
            planned + there === 0
              ? ''
              : weekPx > 84
                ? `${hours(planned)} / ${hours(there)} h`
                : weekPx > 34
                  ? hours(planned)
                  : '',
          title: `${name}, week of ${this.shop.day(monday)}: ${hours(planned)} h of work, ${hours(there)} h of hands`,
        })),
      };
    });
  });
  /** What a screen reader says of the drawing: where the shop is full. */
  protected readonly words = computed(() => {
    const full = this.rows().flatMap(({ weeks }) => weeks.filter(({ isFull }) => isFull).map(({ title }) => title));
    return full.length === 0
      ? 'Work by room and week; no room is full'
      : `Work by room and week. Full: ${full.join('; ')}`;
  });

  private weekWords(ahead: number, monday: Day): string {
    return ['this week', 'next week'][ahead] ?? `in the week of ${this.shop.day(monday)}`;
  }
}
