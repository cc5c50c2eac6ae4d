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
 * typed, Control and Enter record it, and the focus goes back to where it was. A finger's tap gets no field, because a keyboard would cover the half of it.
 */
@Directive({
  selector: '[kvOpened]',
  host: {
    tabindex: '-1',
    '(keydown.escape)': 'escape($event)',
    '(keydown.control.enter)': 'send($event)',
    '(keydown.meta.enter)': 'send($event)',
    '(input)': 'typed.set(true)',
  },
})
export class Opened {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** Nothing where what it was opened with has made room for it already: the page of a piece shows the one or the other. */
  private readonly from =
    document.activeElement === document.body ? null : (document.activeElement as HTMLElement | null);
  private readonly frame = this.from?.closest('main, .p-drawer') ?? document.querySelector('main');
  private readonly alike = this.from
    ? this.from.dataset['test'] && `[data-test="${this.from.dataset['test']}"]`
    : FIRST[0];
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

  /** Control and Enter record it from wherever the hand is: the form it is in, or the only one. */
  protected send(event: Event): void {
    const form = (event.target as HTMLElement).closest('form') ?? this.host.querySelector('form');
    if (!form) return;
    event.preventDefault();
    form.requestSubmit();
  }

  /** Into the first field, or onto what it is about; false as long as it does not stand there. */
  private enter(): boolean {
    const [field] = FIRST.flatMap((each) => this.host.querySelector<HTMLElement>(each) ?? []);
    if (!field) return false;
    // Whoever types somewhere else meanwhile is left there.
    const { activeElement } = document;
    if (activeElement && activeElement !== this.from && activeElement.matches('input, textarea')) return true;
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
      if (!frame) return;
      // What was recorded leaves its list when that is read again: then the next in it has its place. Where the list made
      // room for what was opened, it comes back first.
      const next = () => {
        if (from?.isConnected || !nowhere()) return;
        const left = this.list();
        (left[Math.max(0, place)] ?? left.at(-1))?.focus();
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
