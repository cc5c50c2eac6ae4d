import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import type { PlaceAir } from '@kalvet/core';
import { toMs, wetBulbDepression } from '@kalvet/core';
import { area, curveStepAfter, line, scaleLinear } from 'd3';
import { ShopService } from '../shared/shop.service';
import type { TimeTrack } from './time-track';

const HEIGHT = 46;
/** Drawn up to so many kelvin; below the damp line hardly anything dries. */
const [MOST_K, DAMP_K] = [10, 2];

/** How thirsty the air of a place was and will be, on the axis that the trees share: filled what was read, light what is expected. */
@Component({
  selector: 'kv-air-band',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="'0 0 100 ' + height" preserveAspectRatio="none" role="img" [attr.aria-label]="said()">
      <path class="read" [attr.d]="drawn().read" />
      <path class="expected" [attr.d]="drawn().expected" />
      <path class="edge" [attr.d]="drawn().edge" vector-effect="non-scaling-stroke" />
      <path class="edge light" [attr.d]="drawn().edgeAhead" vector-effect="non-scaling-stroke" />
      <line
        class="damp"
        x1="0"
        x2="100"
        [attr.y1]="drawn().damp"
        [attr.y2]="drawn().damp"
        vector-effect="non-scaling-stroke" />
      <line
        class="now"
        [attr.x1]="track().now"
        [attr.x2]="track().now"
        y1="0"
        [attr.y2]="height"
        vector-effect="non-scaling-stroke" />
    </svg>
  `,
  styles: `
    :host {
      display: block;
    }
    svg {
      display: block;
      width: 100%;
      height: 46px;
      background: var(--kv-paper);
    }
    .read {
      fill: var(--room-shell);
      fill-opacity: 0.55;
    }
    .expected {
      fill: var(--room-shell);
      fill-opacity: 0.2;
    }
    .edge {
      fill: none;
      stroke: #7d683d;
      stroke-width: 1.6;
    }
    .light {
      stroke-dasharray: 4 3;
    }
    .damp {
      stroke: var(--kv-alert);
      stroke-dasharray: 2 4;
    }
    .now {
      stroke: var(--kv-ink);
      stroke-width: 1.5;
    }
  `,
})
export class AirBand {
  private readonly shop = inject(ShopService);
  readonly air = input.required<PlaceAir>();
  readonly track = input.required<TimeTrack>();
  protected readonly height = HEIGHT;

  protected readonly drawn = computed(() => {
    const { readings, expected, kelvin } = this.air();
    const { x, from, until } = this.track();
    const y = scaleLinear([0, MOST_K], [HEIGHT, 2]).clamp(true);
    const inside = readings.filter(({ at }, i) => toMs(readings[i + 1]?.at ?? at) >= from);
    const read = inside.map((each): [number, number] => [
      x(each.at),
      y(wetBulbDepression(each.celsius, each.humidityPercent)),
    ]);
    const last = read.at(-1);
    const ahead: [number, number][] = [
      ...(last ? [last] : []),
      ...expected.filter(({ at }) => toMs(at) <= until).map(({ at, kelvin: k }): [number, number] => [x(at), y(k)]),
    ];
    const filled = area<[number, number]>()
      .x(([at]) => at)
      .y0(HEIGHT)
      .y1(([, k]) => k)
      .curve(curveStepAfter);
    const edged = line<[number, number]>().curve(curveStepAfter);
    return {
      read: filled(read) ?? '',
      expected: filled(ahead) ?? '',
      edge: edged(read) ?? '',
      edgeAhead: edged(ahead) ?? '',
      damp: y(DAMP_K),
      kelvin,
    };
  });

  protected readonly said = computed(() => {
    const { place, kelvin, readings } = this.air();
    const last = readings.at(-1);
    return last && kelvin !== null
      ? `${place.name}: ${this.shop.amount(kelvin, 'K', 1)} wet bulb depression at ${this.shop.when(last.at)}`
      : `${place.name}: nothing read`;
  });
}
