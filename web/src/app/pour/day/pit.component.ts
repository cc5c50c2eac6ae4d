import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import type { PourDayAnswer, SetInPit } from '@kalvet/core';
import { Session } from '../../shared/session.service';
import { ShopService } from '../../shared/shop.service';

const MARGIN = 60;
/** The furnace stands beside the corner from which places are counted. */
const FURNACE = 70;

/** The bed from above: numbered places with what stands in them, the crucible's way, and the onlookers' line. */
@Component({
  selector: 'kv-pit',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg [attr.viewBox]="drawn().box" role="group" [attr.aria-label]="said()">
      <text x="8" y="18">furnace</text>
      <rect class="furnace" x="8" y="24" [attr.width]="furnace - 16" [attr.height]="furnace - 30" rx="8" />
      <rect
        class="bed"
        [attr.x]="drawn().bed.x"
        [attr.y]="drawn().bed.y"
        [attr.width]="drawn().bed.width"
        [attr.height]="drawn().bed.height" />
      <path class="way" [attr.d]="drawn().way" />
      @for (place of drawn().places; track place.number) {
        <g [class.pick]="mayPick()" [class.target]="chosen() !== null && place.stands === 'free'">
          <circle
            [attr.class]="place.stands"
            [class.chosen]="place.treeId !== null && chosen() === place.treeId"
            [class.would]="place.would"
            [attr.role]="mayPick() ? 'button' : null"
            [attr.tabindex]="mayPick() ? 0 : null"
            [attr.aria-label]="mayPick() ? place.said : null"
            [attr.cx]="place.x"
            [attr.cy]="place.y"
            [attr.r]="place.r"
            (click)="pick(place.number)"
            (keydown.enter)="pick(place.number)"
            (keydown.space)="pick(place.number); $event.preventDefault()" />
          <text class="number" [attr.x]="place.x - place.r" [attr.y]="place.y - place.r + 4">{{ place.number }}</text>
          <text class="turn" [attr.x]="place.x" [attr.y]="place.y - 1" text-anchor="middle">{{ place.turn }}</text>
          <text class="label" [attr.x]="place.x" [attr.y]="place.y + 14" text-anchor="middle">{{ place.label }}</text>
        </g>
      }
      <line
        class="onlookers"
        [attr.x1]="drawn().line.x1"
        [attr.x2]="drawn().line.x2"
        [attr.y1]="drawn().line.y"
        [attr.y2]="drawn().line.y" />
      <text class="soft" [attr.x]="drawn().line.x1" [attr.y]="drawn().line.y + 15">{{ drawn().line.text }}</text>
    </svg>
  `,
  styles: `
    svg {
      width: 100%;
      max-width: 620px;
      height: auto;
    }
    text {
      font-size: 12px;
      fill: var(--kv-ink);
    }
    .soft,
    .number {
      fill: var(--kv-ink-soft);
    }
    .turn {
      font-size: 19px;
      font-weight: 600;
    }
    .label {
      font-size: 11px;
    }
    .furnace {
      fill: var(--kv-strip);
      stroke: var(--kv-line-strong);
    }
    .bed {
      fill: color-mix(in srgb, var(--room-shell) 22%, var(--kv-paper));
      stroke: var(--kv-line-strong);
    }
    .way {
      fill: none;
      stroke: var(--room-pour);
      stroke-width: 2;
      stroke-dasharray: 6 5;
    }
    circle {
      fill: var(--kv-paper);
      stroke: var(--kv-line-strong);
      stroke-dasharray: 4 3;
    }
    circle.set {
      stroke: var(--kv-ink);
      stroke-width: 2;
      stroke-dasharray: none;
    }
    circle.would {
      stroke: var(--kv-ink-soft);
    }
    circle.poured {
      fill: var(--room-pour);
      stroke: var(--kv-ink);
      stroke-dasharray: none;
    }
    circle.other {
      fill: var(--kv-strip);
      stroke-dasharray: none;
    }
    circle.chosen {
      stroke: var(--kv-focus);
      stroke-width: 4;
    }
    .pick circle {
      cursor: pointer;
    }
    g text {
      pointer-events: none;
    }
    .target circle {
      stroke: var(--kv-focus);
    }
    circle:focus-visible {
      outline: 2px solid var(--kv-focus);
    }
    .onlookers {
      stroke: var(--kv-alert);
      stroke-width: 2;
      stroke-dasharray: 14 6;
    }
    @media print {
      circle,
      .bed {
        print-color-adjust: exact;
      }
    }
  `,
})
export class Pit {
  private readonly shop = inject(ShopService);
  private readonly session = inject(Session);
  readonly day = input.required<PourDayAnswer>();
  readonly set = output<{ readonly heatId: string; readonly places: SetInPit['places'] }>();
  protected readonly furnace = FURNACE;
  /** The tree that is to be moved: the next press says where to. */
  protected readonly chosen = signal<string | null>(null);
  protected readonly mayPick = computed(() => this.session.may('set in pit'));

  protected readonly drawn = computed(() => {
    const { pit, wouldSet, heats } = this.day();
    const { pitPitchMm, onlookersM } = this.shop.settings();
    const scale = 110 / pitPitchMm;
    const at = (mm: number) => mm * scale;
    const widthMm = Math.max(...pit.map(({ xMm }) => xMm)) + pitPitchMm / 2;
    const deepMm = Math.max(...pit.map(({ yMm }) => yMm)) + pitPitchMm / 2;
    const bed = { x: FURNACE + 24, y: MARGIN - 30, width: at(widthMm), height: at(deepMm) };
    const wouldStand = new Map(Object.entries(wouldSet).map(([treeId, place]) => [place, treeId]));
    const turns = new Map(
      heats.flatMap(({ pourings, number }) =>
        pourings.map(({ treeId, order, label, outcome }) => [treeId, { order, label, number, outcome }] as const),
      ),
    );
    const places = pit.map((place) => {
      const would = place.treeId === null ? wouldStand.get(place.number) : undefined;
      const tree = turns.get(place.treeId ?? would ?? '');
      const name = place.label || tree?.label || '';
      const short = name.replace(/ \(.*/, '');
      const turn = tree ? (heats.length > 1 ? `${tree.number}·${tree.order}` : String(tree.order)) : '';
      return {
        ...place,
        would: would !== undefined,
        treeId: place.treeId ?? would ?? null,
        x: bed.x + at(place.xMm),
        y: bed.y + at(place.yMm),
        r: 40,
        turn,
        label: short,
        said: `Place ${place.number}: ${place.stands === 'free' ? (would ? `${name} would be set here` : 'free') : `${name}, ${place.stands}`}`,
      };
    });
    const inTurn = heats.flatMap(({ pourings }) =>
      pourings.flatMap(({ treeId, outcome }) =>
        outcome === null ? (places.find((place) => place.treeId === treeId) ?? []) : [],
      ),
    );
    const start = `M${FURNACE - 20},${FURNACE}`;
    const lineY = bed.y + bed.height + 46;
    return {
      box: `0 0 ${bed.x + bed.width + 20} ${lineY + 26}`,
      bed,
      places,
      way: inTurn.length === 0 ? '' : `${start} ${inTurn.map(({ x, y }) => `L${x},${y}`).join(' ')}`,
      line: {
        x1: bed.x,
        x2: bed.x + bed.width,
        y: lineY,
        text: `onlookers behind this line, ${this.shop.amount(onlookersM, 'm', 1)} from the bed`,
      },
    };
  });
  protected readonly said = computed(() =>
    this.drawn()
      .places.map(({ said }) => said)
      .join('; '),
  );

  /** First the tree, then where to; a place that is taken is another tree to move. */
  protected pick(number: number): void {
    if (!this.mayPick()) return;
    const place = this.drawn().places.find((each) => each.number === number)!;
    const chosen = this.chosen();
    if (chosen === null || (place.treeId !== null && place.treeId !== chosen)) {
      const own = this.heatOf(place.treeId);
      this.chosen.set(own === undefined ? null : place.treeId);
      return;
    }
    this.chosen.set(null);
    const heatId = this.heatOf(chosen);
    if (heatId === undefined) return;
    // Pressed twice, a tree is taken out of its place.
    const isOut = place.treeId === chosen && place.stands === 'set';
    this.set.emit({ heatId, places: [{ treeId: chosen, place: isOut ? null : number }] });
  }

  private heatOf(treeId: string | null): string | undefined {
    return this.day().heats.find(({ pourings }) =>
      pourings.some((each) => each.treeId === treeId && each.outcome === null),
    )?.id;
  }
}
