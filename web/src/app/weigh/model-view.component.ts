import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  OnDestroy,
  afterNextRender,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { ShopService } from '../shared/shop.service';
import type { ViewPin } from './model-pins';
import { ModelScene } from './model-scene';
import type { Shown, Vec } from './model-scene';

export interface ViewPlane {
  readonly normal: Vec;
  readonly offsetMm: number;
}

/** A hand, to see the size by: from wrist to fingertip so long, mm. */
const HAND_MM = 190;
const HAND =
  'M30 189C28 166 22 150 18 132L7 97c-2-9 9-13 13-5l13 30-7-76c-1-9 12-11 14-1l9 66 3-85c0-9 13-9 13 0l3 85 9-74c2-9 14-8 13 2l-5 84 26-35c6-8 16 0 11 9l-27 57c-8 17-12 22-13 35z';
const HAND_WIDE = 130;
const BARS_MM = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000] as const;
const LEAST_BAR_PX = 60;

const STANDARD: readonly { readonly name: string; readonly from: Vec; readonly up: Vec }[] = [
  { name: 'Front', from: [0, -1, 0], up: [0, 0, 1] },
  { name: 'Left', from: [-1, 0, 0], up: [0, 0, 1] },
  { name: 'Back', from: [0, 1, 0], up: [0, 0, 1] },
  { name: 'Right', from: [1, 0, 0], up: [0, 0, 1] },
  { name: 'Top', from: [0, 0, 1], up: [0, 1, 0] },
];

/** The model, turned by drag, touch or arrows, with a scale, a hand, its numbered places and cutting planes. */
@Component({
  selector: 'kv-model-view',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './model-view.component.html',
  styleUrl: './model-view.component.css',
})
export class ModelView implements OnDestroy {
  protected readonly shop = inject(ShopService);
  readonly shown = input.required<readonly Shown[]>();
  /** What stands for the same model: the view stays while this does. */
  readonly name = input('');
  readonly pins = input<readonly ViewPin[]>([]);
  readonly chosen = input<number | null>(null);
  readonly planes = input<readonly ViewPlane[]>([]);
  readonly chosenPlane = input(-1);
  /** A tap on the surface is wanted. */
  readonly placing = input(false);
  /** Which way is up in the standard views. */
  readonly up = input<'y' | 'z'>('z');
  /** Turned so that this is up, where it is set anew. */
  readonly standing = input<Vec | null>(null);
  readonly chose = output<number>();
  readonly placed = output<Vec>();
  readonly planeMoved = output<{ readonly plane: number; readonly byMm: number; readonly done: boolean }>();
  /** The browser draws no three dimensions. */
  readonly unable = output();

  private readonly canvas = viewChild.required<ElementRef<HTMLCanvasElement>>('canvas');
  private scene: ModelScene | undefined;
  private readonly ready = signal(false);
  private readonly tick = signal(0);
  protected readonly opened = signal(0);
  protected readonly handPath = HAND;
  protected readonly views = computed(() =>
    this.up() === 'z' ? STANDARD : STANDARD.map((view) => ({ ...view, from: turned(view.from), up: turned(view.up) })),
  );
  protected readonly marks = computed(() => {
    this.tick();
    if (!this.ready()) return [];
    const pins = this.pins();
    const places = this.scene!.project(pins.map(({ at }) => at));
    return pins.map((pin, i) => ({ ...pin, ...places[i]! }));
  });
  protected readonly scale = computed(() => {
    this.tick();
    const px = this.ready() ? this.scene!.pxPerMm() : 0;
    if (!(px > 0)) return null;
    const mm = BARS_MM.find((bar) => bar * px >= LEAST_BAR_PX) ?? BARS_MM.at(-1)!;
    const handPx = HAND_MM * px;
    return {
      px: mm * px,
      words: this.shop.amount(mm, 'mm', 0),
      // A hand larger than the picture says nothing.
      hand: handPx > 14 && handPx < 320 ? { high: handPx, wide: (handPx * HAND_WIDE) / HAND_MM } : null,
    };
  });

  constructor() {
    afterNextRender(() => {
      try {
        this.scene = new ModelScene(this.canvas().nativeElement, () => this.tick.update((n) => n + 1));
        this.ready.set(true);
      } catch {
        this.unable.emit();
      }
    });
    let last = '';
    effect(() => {
      if (!this.ready()) return;
      const [shown, name] = [this.shown(), this.name()];
      this.scene!.show(shown, name === last);
      if (name !== last) this.look(this.views()[0]!, true);
      last = name;
    });
    effect(() => this.ready() && this.scene!.showPlanes(this.planes(), this.chosenPlane()));
    effect(() => {
      const standing = this.standing();
      if (this.ready() && standing) this.scene!.lookFrom(besideOf(standing), standing);
    });
    effect(() => this.ready() && this.scene!.open(this.opened()));
  }

  ngOnDestroy(): void {
    this.scene?.end();
  }

  /** From where it is looked at now. */
  view(): { readonly from: Vec; readonly up: Vec } | undefined {
    return this.scene?.view();
  }

  protected look({ from, up }: { from: Vec; up: Vec }, aslant = false): void {
    const side: Vec = [
      from[1] * up[2] - from[2] * up[1],
      from[2] * up[0] - from[0] * up[2],
      from[0] * up[1] - from[1] * up[0],
    ];
    const mixed = from.map((each, k) => each - 0.7 * side[k]! + 0.35 * up[k]!) as unknown as Vec;
    this.scene?.lookFrom(aslant ? mixed : from, up);
  }

  protected key(event: KeyboardEvent): void {
    const turns: Readonly<Record<string, readonly [number, number]>> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, 1],
      ArrowDown: [0, -1],
    };
    const turn = turns[event.key];
    if (turn) this.scene?.turn(...turn);
    else if (event.key === '+' || event.key === '=') this.scene?.zoom(1);
    else if (event.key === '-') this.scene?.zoom(-1);
    else return;
    event.preventDefault();
  }

  private drag: { plane: number; x: number; y: number; moved: boolean } | undefined;

  protected down(event: PointerEvent): void {
    const plane =
      this.planes().length > 0 && event.shiftKey === false
        ? this.scene?.pickPlane(event.clientX, event.clientY)
        : undefined;
    if (plane === undefined || plane !== this.chosenPlane()) return;
    this.scene!.turns = false;
    this.drag = { plane, x: event.clientX, y: event.clientY, moved: false };
    (event.target as HTMLElement).setPointerCapture(event.pointerId);
  }

  protected move(event: PointerEvent): void {
    if (!this.drag) return;
    const { plane, x, y } = this.drag;
    const byMm = this.scene!.alongNormal(this.planes()[plane]!.normal, event.clientX - x, event.clientY - y);
    this.drag = { plane, x: event.clientX, y: event.clientY, moved: true };
    this.planeMoved.emit({ plane, byMm, done: false });
  }

  protected up_(event: PointerEvent): void {
    if (this.drag) {
      const { plane, moved } = this.drag;
      this.drag = undefined;
      this.scene!.turns = true;
      if (moved) this.planeMoved.emit({ plane, byMm: 0, done: true });
      return;
    }
    if (!this.placing()) return;
    const place = this.scene?.pick(event.clientX, event.clientY);
    if (place) this.placed.emit(place);
  }
}

/** The same where y is up: z becomes y, y becomes −z. */
const turned = ([x, y, z]: Vec): Vec => [x, z, -y];

/** A direction square to another, slightly from above it. */
function besideOf([x, y, z]: Vec): Vec {
  const aside: Vec = Math.abs(y) < 0.9 ? [0, -1, 0] : [1, 0, 0];
  const along = aside[0] * x + aside[1] * y + aside[2] * z;
  return [aside[0] - along * x + 0.3 * x, aside[1] - along * y + 0.3 * y, aside[2] - along * z + 0.3 * z];
}
