import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { Couple, KilnProfile } from '@kalvet/core';
import { FULL_PER_HOUR_K, profileMinutes, toMs } from '@kalvet/core';
import { line, range, scaleLinear } from 'd3';
import { ShopService } from '../shared/shop.service';

const [WIDTH, HEIGHT, LEFT, RIGHT, TOP, BOTTOM] = [720, 210, 50, 12, 10, 24];
const TONES = ['#24211d', '#d9772b', '#6d7f96', '#2c8f80', '#b8463a'] as const;
/** Points of the profile are drawn in steps of so many, and moved so far by a key. */
const [STEP_C, STEP_MIN] = [5, 5];

/** A firing: its profile as a line, its thermocouples over it. Where it may be changed, its corners are moved by hand or by keys. */
@Component({
  selector: 'kv-fire-curve',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      [attr.viewBox]="box"
      role="group"
      [attr.aria-label]="said()"
      (pointermove)="move($event)"
      (pointerup)="held.set(null)"
      (pointerleave)="held.set(null)">
      @for (tick of drawn().ticks; track tick.label) {
        <line class="grid" [attr.x1]="left" [attr.x2]="width - right" [attr.y1]="tick.y" [attr.y2]="tick.y" />
        <text class="at-left" [attr.x]="left - 8" [attr.y]="tick.y + 4">{{ tick.label }}</text>
      }
      @for (hour of drawn().hours; track hour.x) {
        <text [attr.x]="hour.x" [attr.y]="height - 6">{{ hour.label }}</text>
      }
      <path class="plan" [attr.d]="drawn().plan" />
      @for (couple of drawn().couples; track couple.channel) {
        <path class="couple" [attr.d]="couple.path" [style.stroke]="couple.tone">
          <title>{{ couple.channel }}</title>
        </path>
      }
      @if (editable()) {
        @for (corner of drawn().corners; track corner.place) {
          <circle
            class="corner"
            r="8"
            tabindex="0"
            role="slider"
            [attr.aria-label]="corner.said"
            [attr.aria-valuenow]="corner.toC"
            aria-valuemin="40"
            aria-valuemax="1300"
            [attr.aria-valuetext]="corner.said"
            [attr.cx]="corner.x"
            [attr.cy]="corner.y"
            (pointerdown)="take(corner.place, $event)"
            (keydown)="nudge(corner.place, $event)" />
        }
      }
    </svg>
    @if (drawn().couples.length > 0) {
      <ul>
        <li><span class="key plan"></span> planned</li>
        @for (couple of drawn().couples; track couple.channel) {
          <li><span class="key" [style.background]="couple.tone"></span> {{ couple.channel }}, {{ couple.last }}</li>
        }
      </ul>
    }
  `,
  styles: `
    svg {
      display: block;
      width: 100%;
      height: auto;
      touch-action: none;
    }
    text {
      font-size: 12px;
      fill: var(--kv-ink-soft);
      text-anchor: middle;
    }
    .at-left {
      text-anchor: end;
    }
    .grid {
      stroke: var(--kv-line);
    }
    path {
      fill: none;
    }
    path.plan {
      stroke: var(--room-burnout);
      stroke-width: 5;
      stroke-opacity: 0.45;
      stroke-linejoin: round;
    }
    .couple {
      stroke-width: 1.5;
    }
    .corner {
      fill: var(--kv-paper);
      stroke: var(--room-burnout);
      stroke-width: 3;
      cursor: grab;
    }
    .corner:focus-visible {
      outline: 3px solid var(--kv-focus);
    }
    ul {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 18px;
      margin: 2px 0 0;
      padding: 0;
      list-style: none;
      font-size: 0.88rem;
    }
    .key {
      display: inline-block;
      width: 18px;
      height: 3px;
      margin-right: 4px;
      vertical-align: middle;
    }
    .key.plan {
      height: 6px;
      background: var(--room-burnout);
      opacity: 0.45;
    }
  `,
})
export class FireCurve {
  private readonly shop = inject(ShopService);
  readonly stretches = input.required<KilnProfile['stretches']>();
  readonly couples = input<readonly Couple[]>([]);
  readonly startedAt = input<string | null>(null);
  readonly editable = input(false);
  readonly changed = output<KilnProfile['stretches']>();
  protected readonly box = `0 0 ${WIDTH} ${HEIGHT}`;
  protected readonly left = LEFT;
  protected readonly width = WIDTH;
  protected readonly height = HEIGHT;
  protected readonly right = RIGHT;
  protected readonly held = signal<number | null>(null);

  private readonly scales = computed(() => {
    const begin = this.begin();
    const read = this.couples().flatMap(({ readings }) => readings);
    const until = Math.max(
      60,
      profileMinutes({ name: '', stretches: this.stretches() }),
      ...read.map(({ at }) => (toMs(at) - begin) / 60_000),
    );
    const most = Math.max(200, ...this.stretches().map(({ toC }) => toC), ...read.map(({ celsius }) => celsius));
    return {
      x: scaleLinear([0, until * 1.04], [LEFT, WIDTH - RIGHT]),
      y: scaleLinear([0, most * 1.06], [HEIGHT - BOTTOM, TOP]),
      until,
    };
  });

  private begin(): number {
    const first = this.couples()
      .flatMap(({ readings }) => readings[0]?.at ?? [])
      .sort()[0];
    const at = this.startedAt() ?? first;
    return at ? toMs(at) : 0;
  }

  protected readonly drawn = computed(() => {
    const { x, y, until } = this.scales();
    const corners = this.corners();
    const points: [number, number][] = [
      [0, 20],
      ...corners.flatMap(({ at, hold, toC }): [number, number][] => [
        [at, toC],
        [at + hold, toC],
      ]),
    ];
    const draw = line<[number, number]>()
      .x(([minute]) => x(minute))
      .y(([, celsius]) => y(celsius));
    const begin = this.begin();
    const every = until > 2880 ? 720 : until > 720 ? 120 : 60;
    return {
      plan: this.stretches().length > 0 ? draw(points) : '',
      ticks: y.ticks(4).map((tick) => ({ y: y(tick), label: this.shop.amount(tick, '°C', 0) })),
      hours: range(0, until + 1, every).map((minute) => ({
        x: x(minute),
        label: this.shop.amount(minute / 60, 'h', 0),
      })),
      couples: this.couples().map(({ channel, readings }, i) => ({
        channel,
        tone: TONES[i % TONES.length]!,
        path: draw(readings.map(({ at, celsius }): [number, number] => [(toMs(at) - begin) / 60_000, celsius])),
        last: readings.at(-1) ? this.shop.amount(readings.at(-1)!.celsius, '°C', 0) : '–',
      })),
      corners: corners.map(({ at, toC, hold, place }) => ({
        place,
        toC,
        x: x(at),
        y: y(toC),
        said: `${this.shop.amount(toC, '°C', 0)} after ${this.shop.amount(at / 60, 'h', 1)}${hold > 0 ? `, held ${this.shop.amount(hold / 60, 'h', 1)}` : ''}`,
      })),
    };
  });

  /** Where each stretch reaches its temperature, minutes from the beginning. */
  private corners() {
    let [at, now] = [0, 20];
    return this.stretches().map(({ toC, perHourK, holdMinutes }, place) => {
      at += (Math.abs(toC - now) / (perHourK ?? FULL_PER_HOUR_K)) * 60;
      now = toC;
      const corner = { place, at, toC, hold: holdMinutes };
      at += holdMinutes;
      return corner;
    });
  }

  protected readonly said = computed(() => {
    const words = this.corners().map(
      ({ toC, hold }) => `${this.shop.amount(toC, '°C', 0)}${hold > 0 ? ` held ${Math.round(hold)} min` : ''}`,
    );
    return `Firing: ${words.join(', then ')}`;
  });

  protected take(place: number, event: PointerEvent): void {
    (event.target as Element).releasePointerCapture?.(event.pointerId);
    event.preventDefault();
    this.held.set(place);
  }

  protected move(event: PointerEvent): void {
    const place = this.held();
    if (place === null) return;
    const svg = event.currentTarget as SVGSVGElement;
    const { left, top, width, height } = svg.getBoundingClientRect();
    const minute = this.scales().x.invert(((event.clientX - left) / width) * WIDTH);
    const celsius = this.scales().y.invert(((event.clientY - top) / height) * HEIGHT);
    this.put(place, minute, celsius);
  }

  protected nudge(place: number, event: KeyboardEvent): void {
    const moves: Record<string, readonly [number, number]> = {
      ArrowUp: [0, STEP_C],
      ArrowDown: [0, -STEP_C],
      ArrowLeft: [-STEP_MIN, 0],
      ArrowRight: [STEP_MIN, 0],
    };
    const move = moves[event.key];
    if (!move) return;
    event.preventDefault();
    const { at, toC } = this.corners()[place]!;
    this.put(place, at + move[0], toC + move[1]);
  }

  /** A corner is moved: its temperature, and how fast it is reached from the end of what lies before it. */
  private put(place: number, minute: number, celsius: number): void {
    const corners = this.corners();
    const before = corners[place - 1];
    const from = before ? before.at + before.hold : 0;
    const toC = Math.min(1300, Math.max(40, Math.round(celsius / STEP_C) * STEP_C));
    const minutes = Math.max(STEP_MIN, Math.round((minute - from) / STEP_MIN) * STEP_MIN);
    const rise = Math.abs(toC - (before?.toC ?? 20));
    const perHourK = Math.min(2000, Math.max(5, Math.round((rise / minutes) * 60)));
    this.changed.emit(this.stretches().map((each, i) => (i === place ? { ...each, toC, perHourK } : each)));
  }
}
