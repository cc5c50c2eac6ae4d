import { Injectable, signal } from '@angular/core';
import type { EventAnswer } from '@kalvet/core';
import { NEVER, Subject, switchMap, timer } from 'rxjs';

export interface Said {
  readonly text: string;
  readonly flags: readonly string[];
  /** Its record, by which it is taken back; none where it is changed instead. */
  readonly takesBack?: number;
}

/** Long enough to look up from the scale and see a slip. */
const STAYS_MS = 15_000;

/** What was recorded last, said until the next is or nobody looks any more. */
@Injectable({ providedIn: 'root' })
export class SaidLine {
  readonly last = signal<Said | undefined>(undefined);
  private readonly stays = new Subject<boolean>();

  constructor() {
    this.stays.pipe(switchMap((goes) => (goes ? timer(STAYS_MS) : NEVER))).subscribe(() => this.last.set(undefined));
  }

  say(text: string, { change, takesBack = false, flags = [] }: Partial<EventAnswer> = {}): void {
    this.last.set({ text, flags, ...(takesBack && change !== undefined && { takesBack: change }) });
    this.stays.next(true);
  }

  /** As long as somebody points at it, it stays. */
  hold(held: boolean): void {
    this.stays.next(!held);
  }

  away(): void {
    this.last.set(undefined);
  }
}
