import { DestroyRef, Directive, ElementRef, inject, output } from '@angular/core';

/** Stands at the end of a long list that is drawn as far as it is seen: tells when one comes near its end, or prints it. */
@Directive({ selector: '[kvMore]' })
export class More {
  readonly kvMore = output<'near' | 'print'>();

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const seen = new IntersectionObserver(([entry]) => entry?.isIntersecting && this.kvMore.emit('near'), {
      rootMargin: '600px',
    });
    seen.observe(host);
    // Paper has no end that one comes near.
    const print = () => this.kvMore.emit('print');
    window.addEventListener('beforeprint', print);
    inject(DestroyRef).onDestroy(() => {
      seen.disconnect();
      window.removeEventListener('beforeprint', print);
    });
  }
}
