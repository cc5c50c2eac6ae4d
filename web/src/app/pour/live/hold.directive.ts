import { DestroyRef, Directive, inject, input, output, signal } from '@angular/core';

/**
 * A button that is held: pressed by accident, with a sleeve or a drop of sweat, it does nothing. By keyboard Enter or space held
 * down does the same.
 */
@Directive({
  selector: 'button[kvHold]',
  host: {
    '(pointerdown)': 'begin($event)',
    '(pointerup)': 'end()',
    '(pointerleave)': 'end()',
    '(pointercancel)': 'end()',
    '(contextmenu)': '$event.preventDefault()',
    '(keydown.enter)': 'key($event)',
    '(keydown.space)': 'key($event)',
    '(keyup)': 'end()',
    '(blur)': 'end()',
    '[class.holding]': 'holding()',
    '[style.touch-action]': '"none"',
  },
})
export class Hold {
  /** How long it is held, ms. */
  readonly holdMs = input(450);
  readonly held = output();
  protected readonly holding = signal(false);
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.timer));
  }

  protected begin(event: PointerEvent): void {
    if (event.button > 0) return;
    this.start();
  }

  protected key(event: Event): void {
    event.preventDefault();
    if (!(event as KeyboardEvent).repeat) this.start();
  }

  private start(): void {
    clearTimeout(this.timer);
    this.holding.set(true);
    this.timer = setTimeout(() => {
      this.holding.set(false);
      this.held.emit();
    }, this.holdMs());
  }

  protected end(): void {
    clearTimeout(this.timer);
    this.holding.set(false);
  }
}
