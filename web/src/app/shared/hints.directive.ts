import { DestroyRef, Directive, ElementRef, inject, input } from '@angular/core';

/**
 * One hint for a whole drawing, of what is under the pointer or in focus: hundreds of their own would be slow to make. What
 * it says is asked for when it is shown.
 */
@Directive({
  selector: '[kvHints]',
  host: {
    '(mousemove)': 'show($event)',
    '(focusin)': 'show($event)',
    '(mouseleave)': 'hide()',
    '(focusout)': 'hide()',
    '(scroll)': 'hide()',
    '(keydown.escape)': 'hide()',
  },
})
export class Hints {
  /** What to say of an element; nothing where it has no hint. */
  readonly kvHints = input.required<(element: HTMLElement) => { at: HTMLElement; text: string } | undefined>();
  private readonly document = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement.ownerDocument;
  private box: HTMLElement | undefined;
  private at: HTMLElement | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => this.hide());
  }

  protected show(event: Event): void {
    const said = this.kvHints()(event.target as HTMLElement);
    if (!said) return this.hide();
    if (said.at === this.at) return;
    this.hide();
    this.at = said.at;
    const box = this.document.createElement('div');
    box.className = 'kv-hint';
    box.textContent = said.text;
    box.setAttribute('aria-hidden', 'true');
    this.document.body.append(box);
    const { left, top, width, bottom } = said.at.getBoundingClientRect();
    const { width: own, height } = box.getBoundingClientRect();
    const x = Math.max(6, Math.min(window.innerWidth - own - 6, left + width / 2 - own / 2));
    box.style.left = `${x}px`;
    box.style.top = `${top - height - 6 < 4 ? bottom + 6 : top - height - 6}px`;
    this.box = box;
  }

  protected hide(): void {
    this.box?.remove();
    this.box = undefined;
    this.at = undefined;
  }
}
