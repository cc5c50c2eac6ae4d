import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  effect,
  inject,
  input,
  untracked,
} from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Lane, LaneBar, LanesAnswer, PlanRow } from '@kalvet/core';
import { addDays, dayNumber, weekday } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { pageData } from '../../shared/page-data';
import { Refusal } from '../../shared/refusal.component';
import { roomColour } from '../../shared/rooms';
import { Roving } from '../../shared/roving.directive';
import { ShopService } from '../../shared/shop.service';
import { Moving, beginOf } from './moving';
import { packLane } from './pack-lane';
import { isFound } from './plan-drawing';
import { LABEL_PX, OverTime, PlanAxis } from './plan-axis';

const ROW_PX = 20;
const GAP_PX = 12;
/** Days that are asked for at once, as many as are answered. */
export const MOST_DAYS = 42;
/** Narrower work is drawn together: nobody could hit it. */
const LEAST_PX = 2.5;
const LETTER_PX = 6.1;
const HOUR_MS = 3_600_000;
const DAY_MS = 24 * HOUR_MS;
/** A press that moves less is no drag. */
const DRAG_PX = 4;

/** Work on its lane, as it is drawn. */
interface Drawn {
  readonly key: string;
  readonly bar: LaneBar | undefined;
  readonly x: number;
  readonly width: number;
  readonly y: number;
  readonly text: string;
  /** Where its text begins: in sight, also where the work began before. */
  readonly textX: number;
  readonly title: string;
  readonly isFirst: boolean;
}

/** The hands of each room and each fire on a lane of their own, with every piece of work that is planned on them; work can be moved here. */
@Component({
  selector: 'kv-hand-lanes',
  imports: [ButtonModule, OverTime, Refusal, RouterLink, Roving],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './hand-lanes.component.html',
  styleUrls: ['./plan-marks.css', './hand-lanes.component.css'],
})
export class HandLanes {
  protected readonly shop = inject(ShopService);
  protected readonly axis = inject(PlanAxis);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** The pieces of the plan: what is late when something moves. */
  readonly rows = input.required<readonly PlanRow[]>();
  readonly find = input('');

  protected readonly label = LABEL_PX;
  protected readonly colour = roomColour;
  protected readonly moving = new Moving(() => this.rows());

  /** Whole weeks around what is in sight, so that moving a little asks for nothing. */
  private readonly asked = computed(() => {
    const { from, to, count } = this.axis.days();
    if (count > MOST_DAYS) return undefined;
    const monday = addDays(from, 1 - weekday(dayNumber(from)!));
    const sunday = addDays(to, 7 - weekday(dayNumber(to)!));
    const most = addDays(monday, MOST_DAYS - 1);
    return { from: monday, to: sunday > most ? most : sunday };
  });
  private readonly path = computed(() => {
    const { from, to } = this.asked() ?? { from: this.shop.today(), to: this.shop.today() };
    return `/plan/lanes?from=${from}&to=${to}`;
  });
  private lastRead = '';
  private readonly page = pageData<LanesAnswer>(() => (this.lastRead = this.path()));
  protected readonly wrong = this.page.wrong;
  protected readonly isFar = computed(() => this.asked() === undefined);
  private readonly at = computed(() => this.axis.at());

  private readonly packed = computed(() => {
    let y = 0;
    return (this.page.answer()?.lanes ?? []).map((lane) => {
      const { placed, rows } = packLane(lane, this.at());
      const height = Math.max(lane.kind === 'people' ? Math.min(lane.count, 2) : 1, rows) * ROW_PX + GAP_PX;
      const top = y;
      y += height;
      return { lane, placed, top, height };
    });
  });
  protected readonly height = computed(() => {
    const last = this.packed().at(-1);
    return last ? last.top + last.height : 60;
  });
  protected readonly lanes = computed(() => {
    const x = this.axis.x();
    const chart = this.axis.chart();
    const [first, last] = x.range() as [number, number];
    return this.packed().map(({ lane, placed, top, height }) => {
      const drawn: Drawn[] = [];
      /** What is too narrow by itself, by its row. */
      const narrow = new Map<number, { from: number; to: number; count: number }>();
      const close = (row: number) => {
        const few = narrow.get(row);
        narrow.delete(row);
        if (!few) return;
        drawn.push({
          key: `few ${row} ${few.from}`,
          bar: undefined,
          x: few.from,
          width: Math.max(LEAST_PX, few.to - few.from),
          y: row * ROW_PX,
          text: '',
          textX: 0,
          title: `${few.count} together; zoom in to see each`,
          isFirst: true,
        });
      };
      for (const { bar, from, to, row, isFirst } of placed) {
        const [left, right] = [x(from), x(to)];
        if (right < first || left > last) continue;
        const width = right - left;
        if (width < LEAST_PX) {
          const few = narrow.get(row);
          if (few && left - few.to < LEAST_PX) narrow.set(row, { from: few.from, to: right, count: few.count + 1 });
          else {
            close(row);
            narrow.set(row, { from: left, to: right, count: 1 });
          }
          continue;
        }
        const isOutside = right <= 0 || left >= chart;
        const [textFrom, textTo] = isOutside ? [left, right] : [Math.max(left, 0), Math.min(right, chart)];
        const letters = Math.floor((textTo - textFrom - 8) / LETTER_PX);
        const words = isFirst ? `${bar.on} · ${bar.what}` : bar.on;
        drawn.push({
          key: `${bar.name} ${from}`,
          bar,
          x: left,
          width,
          y: row * ROW_PX,
          text: letters < 4 ? '' : words.length <= letters ? words : `${words.slice(0, letters - 1)}…`,
          textX: textFrom + 6,
          title: this.titleOf(bar),
          isFirst,
        });
      }
      for (const row of [...narrow.keys()]) close(row);
      const closed = closedBetween(lane.open, this.at(), x.domain().map(Number) as [number, number]);
      return {
        lane,
        top,
        height,
        drawn,
        closed: this.axis.dayPx() < 14 ? [] : closed.map(([from, to]) => ({ x: x(from), width: x(to) - x(from) })),
        words: this.laneWords(lane),
      };
    });
  });
  protected readonly ghost = computed(() => {
    const chosen = this.moving.chosen();
    const packed = chosen && this.packed().find(({ lane }) => lane.resourceId === chosen.lane.resourceId);
    if (!chosen || !packed) return undefined;
    const row = packed.placed.find(({ bar }) => bar.name === chosen.bar.name)?.row ?? 0;
    const [from, to] = [chosen.at, this.moving.end()].map((at) => this.axis.x()(this.at()(at))) as [number, number];
    return { x: from, width: Math.max(4, to - from), y: packed.top + GAP_PX / 2 + row * ROW_PX, height: ROW_PX - 3 };
  });
  protected readonly isHard = computed(() => this.moving.breaks().some(({ isHard }) => isHard));

  constructor() {
    // The first reading is the page's own.
    effect(() => {
      const path = this.path();
      untracked(() => {
        if (this.lastRead !== '' && path !== this.lastRead) this.page.read();
      });
    });
    // The plan was made anew: what was chosen is where it is now.
    effect(() => {
      const lanes = this.page.answer()?.lanes ?? [];
      untracked(() => {
        const chosen = this.moving.chosen();
        if (!chosen || this.moving.isMoved()) return;
        const lane = lanes.find(({ resourceId }) => resourceId === chosen.lane.resourceId);
        const bar = lane?.bars.find((each) => each.steps[0]?.id === chosen.bar.steps[0]?.id);
        if (lane && bar) this.moving.choose(bar, lane);
      });
    });
  }

  protected isFaint(bar: LaneBar | undefined): boolean {
    return bar === undefined ? this.find() !== '' : !isFound(this.find(), bar.on, bar.what);
  }

  protected isChosen(bar: LaneBar | undefined): boolean {
    return bar !== undefined && this.moving.chosen()?.bar.name === bar.name;
  }

  protected read(): void {
    this.page.read();
  }

  /** Keys walk to work beyond the edge too. */
  protected bringInSight({ target }: FocusEvent, bar: LaneBar): void {
    if ((target as Element).matches(':focus-visible')) this.axis.reveal(beginOf(bar));
  }

  /** Keys on work: Enter chooses it, and then moves it by hours or days, saves and lets go. */
  protected key(event: KeyboardEvent, bar: LaneBar, lane: Lane): void {
    const isChosen = this.isChosen(bar);
    if ((event.key === 'Enter' || event.key === ' ') && !isChosen) this.moving.choose(bar, lane);
    else if (event.key === 'Enter' && this.moving.isMoved()) this.moving.save();
    else if (event.key === 'Escape' && isChosen) this.moving.letGo();
    else if (isChosen && (event.key === 'ArrowLeft' || event.key === 'ArrowRight')) {
      const by = (event.key === 'ArrowLeft' ? -1 : 1) * (event.shiftKey ? DAY_MS : HOUR_MS);
      this.moving.moveTo(this.at()(this.moving.chosen()!.at) + by);
      this.axis.reveal(this.moving.chosen()!.at);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  }

  /** Pressed on work: chosen, and dragged along its lane as long as it is held. */
  protected press(event: PointerEvent, bar: LaneBar, lane: Lane): void {
    if (event.button !== 0) return;
    this.moving.choose(bar, lane);
    const from = event.clientX;
    const start = this.at()(beginOf(bar));
    const perPx = DAY_MS / this.axis.dayPx();
    const step = this.step();
    let dragged = false;
    const target = event.target as Element;
    target.setPointerCapture(event.pointerId);
    const go = (move: PointerEvent) => {
      const px = move.clientX - from;
      if (!dragged && Math.abs(px) < DRAG_PX) return;
      dragged = true;
      this.moving.moveTo(start + Math.round((px * perPx) / step) * step);
    };
    const drop = () => {
      target.removeEventListener('pointermove', go as EventListener);
      if (!dragged) return;
      this.moving.save();
    };
    target.addEventListener('pointermove', go as EventListener);
    target.addEventListener('pointerup', drop, { once: true });
    target.addEventListener('pointercancel', () => this.moving.moveBack(), { once: true });
  }

  /** As fine as can be told apart: a quarter of an hour, an hour, or whole days at the same hour. */
  private step(): number {
    const px = this.axis.dayPx();
    return px > 300 ? HOUR_MS / 4 : px > 80 ? HOUR_MS : DAY_MS;
  }

  /** Brings what is looked for into sight. */
  showFirst(): void {
    const bars = (this.page.answer()?.lanes ?? []).flatMap(({ bars: each }) => each);
    const [first] = bars
      .filter(({ on, what }) => isFound(this.find(), on, what))
      .sort((a, b) => a.spells[0]![0].localeCompare(b.spells[0]![0]));
    if (!first) return;
    this.axis.reveal(first.spells[0]![0]);
    setTimeout(() => this.host.querySelector<SVGElement>(`[data-name="${first.name}"]`)?.focus());
  }

  private titleOf(bar: LaneBar): string {
    const [from, to] = [bar.spells[0]![0], bar.spells.at(-1)![1]];
    const full = bar.full === null ? '' : `, ${Math.round(bar.full * 100)} % full`;
    const [step] = bar.steps;
    const pin = step?.pinKind ? `, pinned ${step.pinKind} ${this.shop.when(step.pinAt)}` : '';
    const running = bar.isRunning ? ', begun' : '';
    return `${bar.what}, ${bar.on}: ${this.shop.when(from)} to ${this.shop.when(to)}${full}${pin}${running}`;
  }

  private laneWords(lane: Lane): string {
    if (lane.kind === 'people') return lane.count === 1 ? 'one pair of hands' : `${lane.count} pairs of hands`;
    return lane.count === 1 ? 'one load at a time' : `${lane.count} loads at once`;
  }
}

/** The stretches in which something is closed, on the axis. */
function closedBetween(
  open: Lane['open'],
  at: (instant: string) => number,
  [from, to]: [number, number],
): [from: number, to: number][] {
  if (open === null) return [];
  const found: [number, number][] = [];
  let end = from;
  for (const [opens, closes] of open) {
    const [a, b] = [at(opens), at(closes)];
    if (b < from) continue;
    if (a > to) break;
    if (a > end) found.push([end, a]);
    end = Math.max(end, b);
  }
  if (end < to) found.push([end, to]);
  return found;
}
