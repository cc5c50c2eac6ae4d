import { DestroyRef, Injectable, inject, signal } from '@angular/core';
import type { EventAnswer } from '@kalvet/core';
import { Subject } from 'rxjs';
import { Api, ApiError, asApiError } from '../../shared/api.service';
import { newKey } from '../../shared/ids';

/** Something that was recorded at the furnace and is on its way to the records. */
export interface Queued {
  /** Sent again with the same key it is one record. */
  readonly key: string;
  readonly path: string;
  readonly body: Readonly<Record<string, unknown>>;
  readonly said: string;
  /** The tree that it says something of. */
  readonly treeId: string | null;
}

const PREFIX = 'kalvet.outbox.';
const RETRY_MS = 2000;

/**
 * What is recorded while metal flows: kept in this browser until the records have it, sent in its order, again and again while
 * the network is away. Nothing that was pressed is lost, and nothing is recorded twice.
 */
@Injectable()
export class Outbox {
  private readonly api = inject(Api);
  private name = '';
  readonly waiting = signal<readonly Queued[]>([]);
  /** The records cannot be reached: what is pressed waits here. */
  readonly away = signal(false);
  /** What the records refuse of the first, until somebody answers. */
  readonly refused = signal<{ readonly item: Queued; readonly error: ApiError } | null>(null);
  /** Something got through. */
  readonly sent$ = new Subject<{ readonly item: Queued; readonly answer: EventAnswer }>();
  /** Brings a body up to what the records hold now, or says that it is there already. */
  mend: ((item: Queued) => Promise<Queued | null>) | undefined;
  private busy = false;
  private timer: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    const again = () => this.flush();
    window.addEventListener('online', again);
    inject(DestroyRef).onDestroy(() => {
      window.removeEventListener('online', again);
      clearTimeout(this.timer);
    });
  }

  /** Goes on with what this browser still holds for a heat. */
  open(heatId: string): void {
    this.name = PREFIX + heatId;
    const text = localStorage.getItem(this.name);
    this.waiting.set(text ? (JSON.parse(text) as Queued[]) : []);
    this.flush();
  }

  put(item: Omit<Queued, 'key'>): Queued {
    const queued = { ...item, key: newKey() };
    this.keep([...this.waiting(), queued]);
    this.flush();
    return queued;
  }

  /** Takes something out that was not sent yet. @returns whether it was still here */
  drop(key: string): boolean {
    const before = this.waiting();
    // What is on its way right now is no longer ours to drop.
    if (this.busy && before[0]?.key === key) return false;
    const after = before.filter((item) => item.key !== key);
    this.keep(after);
    if (this.refused()?.item.key === key) this.refused.set(null);
    this.flush();
    return after.length < before.length;
  }

  /** Sends what was refused again, with the rules passed that stood in its way. */
  pass(reason: string): void {
    const refused = this.refused();
    if (!refused) return;
    const rules = [...new Set((refused.error.error.refusals ?? []).map(({ rule }) => rule))];
    const override = rules.map((rule) => ({ rule, reason }));
    this.replace({ ...refused.item, key: newKey(), body: { ...refused.item.body, override } });
    this.refused.set(null);
    this.flush();
  }

  private replace(item: Queued): void {
    this.keep([item, ...this.waiting().slice(1)]);
  }

  private keep(items: readonly Queued[]): void {
    this.waiting.set(items);
    if (items.length === 0) localStorage.removeItem(this.name);
    else localStorage.setItem(this.name, JSON.stringify(items));
  }

  private flush(): void {
    const [item] = this.waiting();
    if (!item || this.busy || this.refused()) return;
    clearTimeout(this.timer);
    this.busy = true;
    this.api.post(item.path, item.body, item.key).subscribe({
      next: (answer) => {
        this.busy = false;
        this.away.set(false);
        this.keep(this.waiting().slice(1));
        this.sent$.next({ item, answer });
        this.flush();
      },
      error: (failure: unknown) => void this.failed(item, asApiError(failure)),
    });
  }

  private async failed(item: Queued, error: ApiError): Promise<void> {
    const { code } = error.error;
    if (code === 'unavailable') return this.later();
    this.away.set(false);
    if (code === 'stale' && this.mend) {
      try {
        const mended = await this.mend(item);
        if (mended) this.replace({ ...mended, key: newKey() });
        else this.keep(this.waiting().slice(1));
      } catch {
        return this.later();
      }
      this.busy = false;
      return this.flush();
    }
    this.busy = false;
    this.refused.set({ item, error });
  }

  private later(): void {
    this.busy = false;
    this.away.set(true);
    this.timer = setTimeout(() => this.flush(), RETRY_MS);
  }
}
