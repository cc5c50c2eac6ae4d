import { ChangeDetectionStrategy, Component, ElementRef, computed, inject, input, output } from '@angular/core';
import type { FileContent, Pin } from '@kalvet/core';

const KEY_STEP = 0.01;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** A picture as large as its place, with its numbered places; while marking, a tap sets one and a drag or the arrows move it. */
@Component({
  selector: 'kv-picture',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="frame" [style.aspect-ratio]="ratio()" [style.--ratio]="ratio()" [class.marking]="marking()">
      <img
        [src]="'/api/files/' + content().id + '?size=large'"
        [alt]="alt()"
        draggable="false"
        tabindex="0"
        (click)="put($event)"
        (keydown.enter)="marking() && placed.emit({ x: 0.5, y: 0.5 })" />
      @for (pin of pins(); track $index; let i = $index) {
        <button
          type="button"
          class="pin"
          [class.on]="i === chosen()"
          [style.left.%]="pin.x * 100"
          [style.top.%]="pin.y * 100"
          [attr.aria-label]="'Place ' + (i + 1) + ': ' + (pin.words || 'not described')"
          (click)="chose.emit(i)"
          (pointerdown)="grab($event, i)"
          (keydown)="push($event, i)">
          {{ i + 1 }}
        </button>
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      place-items: center;
      min-width: 0;
      min-height: 0;
      container-type: size;
    }
    .frame {
      position: relative;
      width: min(100cqw, 100cqh * var(--ratio));
    }
    img {
      display: block;
      width: 100%;
      height: 100%;
      background: var(--kv-strip);
    }
    .marking img {
      cursor: crosshair;
    }
    .pin {
      position: absolute;
      width: 26px;
      height: 26px;
      margin: -13px 0 0 -13px;
      padding: 0;
      border: 2px solid #fff;
      border-radius: 50%;
      background: var(--kv-alert);
      color: #fff;
      font: inherit;
      font-weight: 600;
      line-height: 1;
      cursor: pointer;
      touch-action: none;
    }
    .pin.on {
      outline: 3px solid var(--kv-accent);
    }
  `,
})
export class Picture {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly content = input.required<FileContent>();
  readonly alt = input('');
  readonly pins = input<readonly Pin[]>([]);
  readonly chosen = input<number | null>(null);
  /** A tap on the picture sets a place. */
  readonly marking = input(false);
  readonly chose = output<number>();
  readonly placed = output<{ readonly x: number; readonly y: number }>();
  readonly moved = output<{ readonly place: number; readonly x: number; readonly y: number }>();
  protected readonly ratio = computed(() => (this.content().width ?? 4) / (this.content().height ?? 3));

  /** A place of the page as shares of the picture. */
  private at({ clientX, clientY }: MouseEvent): { x: number; y: number } {
    const { left, top, width, height } = this.host.nativeElement.querySelector('img')!.getBoundingClientRect();
    return { x: within((clientX - left) / width), y: within((clientY - top) / height) };
  }

  protected put(event: MouseEvent): void {
    if (this.marking()) this.placed.emit(this.at(event));
  }

  protected grab(event: PointerEvent, place: number): void {
    if (!this.marking()) return;
    const pin = event.target as HTMLElement;
    pin.setPointerCapture(event.pointerId);
    this.chose.emit(place);
    const move = (moved: PointerEvent) => this.moved.emit({ place, ...this.at(moved) });
    pin.addEventListener('pointermove', move);
    pin.addEventListener('lostpointercapture', () => pin.removeEventListener('pointermove', move), { once: true });
  }

  protected push(event: KeyboardEvent, place: number): void {
    const way = ARROWS[event.key];
    if (!way || !this.marking()) return;
    event.preventDefault();
    event.stopPropagation();
    const { x, y } = this.pins()[place]!;
    this.moved.emit({ place, x: within(x + way[0] * KEY_STEP), y: within(y + way[1] * KEY_STEP) });
  }
}

const within = (share: number): number => Math.min(1, Math.max(0, Math.round(share * 1e4) / 1e4));
