import { DestroyRef, Directive, ElementRef, inject, output, signal } from '@angular/core';
import { take, timer } from 'rxjs';

/** What one comes for, before what stands beside it. */
const FIRST = [
  '[data-test=record-next]',
  'input:not([type=hidden], [tabindex="-1"]), textarea, select, [role=radio], [role=combobox]',
  'a[href], button',
];
const STANDS = 6;
const LIST_MS = 3000;

/**
 * What is opened over or beside a page, and left again: the focus goes into it, Escape leaves it and asks where something is
 * typed, and the focus goes back to where it was. A finger's tap gets no field, because a keyboard would cover the half of it.
 */
@Directive({
  selector: '[kvOpened]',
  host: { tabindex: '-1', '(keydown.escape)': 'escape($event)', '(input)': 'typed.set(true)' },
})
export class Opened {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly from = document.activeElement as HTMLElement | null;
  private readonly frame = this.from?.closest('main, .p-drawer');
  private readonly alike = this.from?.dataset['test'] ? `[data-test="${this.from.dataset['test']}"]` : undefined;
  private readonly place = this.list().indexOf(this.from!);
  /** How often it was found to have the focus: a drawer that still slides in may throw it back. */
  private stood = 0;
  /** Something is typed in it that is not recorded. */
  readonly typed = signal(false);
  /** It was to be left with something typed. */
  readonly asks = signal(false);
  readonly left = output();

  constructor() {
    // Read from the server and slid in before it can be entered; whoever waits longer has gone on to something else.
    const tries = timer(0, 40)
      .pipe(take(75))
      .subscribe(() => this.enter() && tries.unsubscribe());
    inject(DestroyRef).onDestroy(() => {
      tries.unsubscribe();
      this.goBack();
    });
  }

  leave(): void {
    this.asks.set(false);
    this.left.emit();
  }

  protected escape(event: Event): void {
    event.stopPropagation();
    if (event.defaultPrevented) return;
    if (this.typed() && !this.asks()) this.asks.set(true);
    else this.leave();
  }

  /** Into the first field, or onto what it is about; false as long as it does not stand there. */
  private enter(): boolean {
    const [field] = FIRST.flatMap((each) => this.host.querySelector<HTMLElement>(each) ?? []);
    if (!field) return false;
    // Whoever types somewhere else meanwhile is left there.
    const { activeElement } = document;
    if (activeElement !== this.from && activeElement?.matches('input, textarea')) return true;
    if (activeElement && this.host.contains(activeElement)) return (this.stood += 1) > STANDS;
    const target = matchMedia('(pointer: coarse)').matches ? this.host : field;
    target.focus({ preventScroll: true });
    return false;
  }

  private goBack(): void {
    const { from, frame, place } = this;
    const nowhere = () => !document.activeElement?.isConnected || document.activeElement === document.body;
    setTimeout(() => {
      if (nowhere() && from?.isConnected && from.checkVisibility()) from.focus({ preventScroll: true });
      if (!frame || place < 0) return;
      // What was recorded leaves its list when that is read again: then the next in it has its place.
      const next = () => {
        if (from?.isConnected) return;
        watch.disconnect();
        const left = this.list();
        if (nowhere()) (left[place] ?? left.at(-1))?.focus();
      };
      const watch = new MutationObserver(next);
      watch.observe(frame, { childList: true, subtree: true });
      setTimeout(() => watch.disconnect(), LIST_MS);
      next();
    });
  }

  /** The buttons like the one it was opened with. */
  private list(): HTMLElement[] {
    return this.alike ? [...(this.frame?.querySelectorAll<HTMLElement>(this.alike) ?? [])] : [];
  }
}
