import { inject, signal } from '@angular/core';
import type { Instant } from '@kalvet/core';
import { ShopService } from '../../shared/shop.service';

/**
 * The seconds that metal flows, by a clock that never jumps: the tablet's own time may be set right in the middle of a pour.
 * To be made where a component is made.
 */
export class Stopwatch {
  private readonly shop = inject(ShopService);
  private began: number | null = null;
  readonly running = signal(false);
  readonly startedAt = signal<Instant | null>(null);
  readonly endedAt = signal<Instant | null>(null);
  /** What was stopped at, s; null before. */
  readonly seconds = signal<number | null>(null);

  start(): void {
    this.began = performance.now();
    this.startedAt.set(this.shop.exactNow());
    this.endedAt.set(null);
    this.seconds.set(null);
    this.running.set(true);
  }

  stop(): void {
    if (this.began === null) return;
    this.seconds.set(Math.round((performance.now() - this.began) / 100) / 10);
    this.endedAt.set(this.shop.exactNow());
    this.running.set(false);
  }

  reset(): void {
    this.began = null;
    this.running.set(false);
    this.startedAt.set(null);
    this.endedAt.set(null);
    this.seconds.set(null);
  }

  /** How long it has run, s. */
  elapsed(): number {
    return this.began === null ? 0 : Math.round((performance.now() - this.began) / 100) / 10;
  }
}
