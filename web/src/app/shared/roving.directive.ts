import { DestroyRef, Directive, ElementRef, inject, input } from '@angular/core';

type Way = 'left' | 'right' | 'up' | 'down';
const WAYS: Readonly<Record<string, Way>> = {
  ArrowLeft: 'left',
  ArrowRight: 'right',
  ArrowUp: 'up',
  ArrowDown: 'down',
};

interface Box {
  readonly x: number;
  readonly y: number;
}

const middle = (element: Element): Box => {
  const { left, top, width, height } = element.getBoundingClientRect();
  return { x: left + width / 2, y: top + height / 2 };
};

/** How far something lies in a direction; what lies beside it counts more than what lies ahead. Infinity behind. */
export function farIn(way: Way, from: Box, to: Box): number {
  const [dx, dy] = [to.x - from.x, to.y - from.y];
  const [ahead, beside] = way === 'left' || way === 'right' ? [dx, dy] : [dy, dx];
  const forward = way === 'left' || way === 'up' ? -ahead : ahead;
  return forward <= 1 ? Infinity : forward + 3 * Math.abs(beside);
}

/**
 * One stop for Tab in a field of many: arrows walk it as it lies, Home and End go to its ends, and Tab comes back to where
 * one was. What can be walked on is named by a selector.
 */
@Directive({
  selector: '[kvRoving]',
  host: { '(keydown)': 'walk($event)', '(focusin)': 'stand($event)' },
})
export class Roving {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  readonly kvRoving = input.required<string>();

  constructor() {
    const watch = new MutationObserver(() => this.keepOne());
    watch.observe(this.host, { childList: true, subtree: true });
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }

  private get items(): HTMLElement[] {
    return [...this.host.querySelectorAll<HTMLElement>(this.kvRoving())];
  }

  /** Exactly one can be tabbed to, also after rows came and went. */
  private keepOne(): void {
    const { items } = this;
    const at = items.find((item) => item.tabIndex === 0 && item.dataset['roved'] === '1') ?? items[0];
    for (const item of items) {
      const tab = item === at ? 0 : -1;
      if (item.tabIndex !== tab) item.tabIndex = tab;
    }
  }

  protected stand(event: FocusEvent): void {
    const item = (event.target as HTMLElement).closest<HTMLElement>(this.kvRoving());
    if (!item) return;
    for (const other of this.items) delete other.dataset['roved'];
    item.dataset['roved'] = '1';
    item.tabIndex = 0;
    this.keepOne();
  }

  protected walk(event: KeyboardEvent): void {
    const from = (event.target as HTMLElement).closest<HTMLElement>(this.kvRoving());
    if (!from || event.altKey || event.ctrlKey || event.metaKey) return;
    const { items } = this;
    const way = WAYS[event.key];
    const next =
      event.key === 'Home' ? items[0] : event.key === 'End' ? items.at(-1) : way && this.nearest(way, from, items);
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.scrollIntoView({ block: 'nearest' });
  }

  private nearest(way: Way, from: HTMLElement, items: readonly HTMLElement[]): HTMLElement | undefined {
    const at = middle(from);
    let best: HTMLElement | undefined;
    let least = Infinity;
    for (const item of items) {
      const far = item === from ? Infinity : farIn(way, at, middle(item));
      if (far < least) [least, best] = [far, item];
    }
    return best;
  }
}
