import {
  ChangeDetectionStrategy,
  Component,
  ElementRef,
  computed,
  inject,
  input,
  linkedSignal,
  output,
} from '@angular/core';
import type { Day } from '@kalvet/core';
import { addDays, formatDay, formatWeekday } from '@kalvet/core';
import { ShopService } from '../shop.service';

const WEEKS = 5;
const KEYS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };

/** Weeks as a strip, Monday first, with the pour days and the closed days in it; arrows walk it, Enter takes a day. */
@Component({
  selector: 'kv-week-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="turn">
      <button type="button" class="kv-link" (click)="move(-weeks * 7)">‹ earlier</button>
      <span aria-live="polite">{{ months() }}</span>
      <button type="button" class="kv-link" (click)="move(weeks * 7)">later ›</button>
    </div>
    <div class="days" role="group" aria-label="Days" (keydown)="walk($event)">
      @for (name of names; track name) {
        <span class="name" aria-hidden="true">{{ name }}</span>
      }
      @for (day of days(); track day.day) {
        <button
          type="button"
          [class.chosen]="day.day === chosen()"
          [class.today]="day.day === today()"
          [class.closed]="day.closed"
          [class.pour]="day.pour"
          [class.other]="day.odd"
          [attr.data-day]="day.day"
          [attr.aria-label]="day.words"
          [attr.aria-pressed]="day.day === chosen()"
          [tabindex]="day.day === walked() ? 0 : -1"
          [disabled]="day.out"
          (click)="pick.emit(day.day)">
          {{ day.date }}
        </button>
      }
    </div>
    <p class="legend"><i class="pour"></i> pour day <i class="closed"></i> closed</p>
  `,
  styleUrl: './week-strip.component.css',
})
export class WeekStrip {
  private readonly shop = inject(ShopService);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  readonly chosen = input<Day | null>(null);
  readonly from = input<Day | null>(null);
  readonly until = input<Day | null>(null);
  readonly pick = output<Day>();
  protected readonly weeks = WEEKS;
  protected readonly names = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
  protected readonly today = this.shop.today;

  /** The day that the arrows stand on. */
  protected readonly walked = linkedSignal(() => this.chosen() ?? this.today());
  /** The Monday of the first week shown: the chosen day stands in the second one. */
  private readonly first = linkedSignal(() => addDays(mondayOf(this.chosen() ?? this.today()), -7));

  protected readonly days = computed(() => {
    const { pourDays, closedDays } = this.shop.days();
    const [from, until] = [this.from(), this.until()];
    return Array.from({ length: WEEKS * 7 }, (_, i) => {
      const day = addDays(this.first(), i);
      const [closed, pour] = [closedDays.has(day), pourDays.has(day)];
      return {
        day,
        date: Number(day.slice(8)),
        closed,
        pour,
        odd: Number(day.slice(5, 7)) % 2 === 1,
        out: (from !== null && day < from) || (until !== null && day > until),
        words: `${formatDay(day, this.today())}${closed ? ', closed' : ''}${pour ? ', pour day' : ''}`,
      };
    });
  });
  protected readonly months = computed(() => {
    const name = (day: Day) => formatDay(day, '').split(' ').slice(2).join(' ');
    const [one, other] = [name(this.days()[0]!.day), name(this.days().at(-1)!.day)];
    return one === other ? one : `${one} – ${other}`;
  });

  protected move(days: number): void {
    this.first.set(addDays(this.first(), days));
    this.walked.set(addDays(this.walked(), days));
  }

  protected walk(event: KeyboardEvent): void {
    const by = KEYS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    const day = addDays(this.walked(), by);
    this.walked.set(day);
    if (day < this.first() || day > this.days().at(-1)!.day) this.first.set(addDays(mondayOf(day), by < 0 ? -28 : 0));
    queueMicrotask(() => this.focus());
    setTimeout(() => this.focus());
  }

  /** Puts the focus on the day that the arrows stand on. */
  focus(): void {
    this.host.nativeElement.querySelector<HTMLElement>(`[data-day="${this.walked()}"]`)?.focus();
  }
}

const mondayOf = (day: Day): Day => {
  const places = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
  return addDays(day, -places.indexOf(formatWeekday(day)));
};
