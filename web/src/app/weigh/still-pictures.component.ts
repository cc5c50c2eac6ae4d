import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  effect,
  inject,
  signal,
  untracked,
  viewChildren,
} from '@angular/core';
import type { Pixels } from '@kalvet/core/weigh/index';
import { ModelDesk } from './model-desk';

const VIEWS = [
  { name: 'Front', from: [0, -1, 0], up: [0, 0, 1] },
  { name: 'Left', from: [-1, 0, 0], up: [0, 0, 1] },
  { name: 'Back', from: [0, 1, 0], up: [0, 0, 1] },
  { name: 'From above', from: [0, 0, 1], up: [0, 1, 0] },
] as const;
const LOOK = { width: 420, height: 320 };

/** Pictures of the model from four sides, where the browser draws no three dimensions. */
@Component({
  selector: 'kv-still-pictures',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (view of views; track view.name; let i = $index) {
      <figure>
        <canvas #canvas width="420" height="320" role="img" [attr.aria-label]="'The model, ' + view.name"></canvas>
        <figcaption class="kv-soft">{{ view.name }}{{ drawn() > i ? '' : ' …' }}</figcaption>
      </figure>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 10px;
      align-content: start;
      overflow: auto;
    }
    figure {
      margin: 0;
    }
    canvas {
      width: 100%;
      background: var(--kv-strip);
    }
  `,
})
export class StillPictures {
  private readonly desk = inject(ModelDesk);
  private readonly canvases = viewChildren<ElementRef<HTMLCanvasElement>>('canvas');
  protected readonly views = VIEWS;
  protected readonly drawn = signal(0);

  constructor() {
    effect(() => {
      if (!this.desk.look()) return;
      untracked(() => void this.draw());
    });
  }

  private async draw(): Promise<void> {
    this.drawn.set(0);
    for (const [i, { from, up }] of VIEWS.entries()) {
      const pixels = await this.desk.session()?.run('picture', { view: { from, up }, look: LOOK }, this.desk.sizing());
      if (!pixels) return;
      this.put(this.canvases()[i]!.nativeElement, pixels);
      this.drawn.set(i + 1);
    }
  }

  private put(canvas: HTMLCanvasElement, { data, width }: Pixels): void {
    canvas.getContext('2d')!.putImageData(new ImageData(new Uint8ClampedArray(data), width), 0, 0);
  }
}
