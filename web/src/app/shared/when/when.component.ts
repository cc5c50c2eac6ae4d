import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  model,
  signal,
  viewChild,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Day } from '@kalvet/core';
import { formatDay } from '@kalvet/core';
import { InputTextModule } from 'primeng/inputtext';
import { PopoverModule } from 'primeng/popover';
import type { Popover } from 'primeng/popover';
import { ShopService } from '../shop.service';
import { asDay, dayPicker } from '../time';
import { readWhen } from './read-when';
import { WeekStrip } from './week-strip.component';

const two = (value: number) => String(value).padStart(2, '0');

/**
 * A day, with its time where one belongs to it: typed as people write it, or taken from a strip of weeks. What cannot be
 * understood stays as it was typed, and is no date, which no form sends.
 */
@Component({
  selector: 'kv-when',
  imports: [FormsModule, InputTextModule, PopoverModule, WeekStrip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      pInputText
      type="text"
      autocomplete="off"
      [id]="inputId()"
      [attr.aria-label]="ariaLabel() || null"
      [attr.aria-invalid]="unread() ? true : null"
      [placeholder]="placeholder()"
      [ngModel]="text()"
      [ngModelOptions]="{ standalone: true }"
      (ngModelChange)="read($event)"
      (blur)="left()" />
    <button
      type="button"
      class="open"
      [attr.aria-label]="'Choose a day' + (ariaLabel() ? ' for ' + ariaLabel() : '')"
      (click)="weeks.toggle($event)">
      <svg viewBox="0 0 18 16" width="18" height="16" aria-hidden="true">
        <path d="M1 4h16M1 8h16M1 12h16" stroke="currentColor" stroke-width="1.4" />
        <rect x="6" y="6.2" width="4.5" height="3.6" fill="currentColor" />
      </svg>
    </button>
    @if (unread()) {
      <span class="kv-wrong" role="alert">
        {{ time() ? 'not understood: 24 Nov 10:40, or 10:40' : 'not understood: 24 Nov, or 24.11.' }}
      </span>
    }
    <p-popover #weeks ariaLabel="Days" (onShow)="shown()">
      <ng-template #content>
        <kv-week-strip [chosen]="day()" [from]="from()" [until]="until()" (pick)="take($event)" />
      </ng-template>
    </p-popover>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      min-width: 0;
    }
    input {
      width: 100%;
      padding-right: 34px;
    }
    .open {
      position: absolute;
      top: 0;
      right: 0;
      display: grid;
      place-items: center;
      width: 34px;
      height: 34px;
      padding: 0;
      border: 0;
      background: none;
      color: var(--kv-ink-soft);
      cursor: pointer;
    }
    @media (max-width: 1000px) {
      .open {
        width: 44px;
        height: 44px;
      }
    }
  `,
})
export class When {
  private readonly shop = inject(ShopService);
  readonly inputId = input<string>();
  readonly ariaLabel = input('');
  readonly placeholder = input('');
  readonly time = input(false);
  /** Which way a day without its year is meant. */
  readonly towards = input<'past' | 'future'>('future');
  readonly from = input<Day | null>(null);
  readonly until = input<Day | null>(null);
  /** As pickers have it: its local fields read as the shop's clock; not a date where it cannot be read. */
  readonly value = model<Date | null>(null);
  private readonly popover = viewChild.required<Popover>('weeks');
  private readonly strip = viewChild(WeekStrip);

  /** What stands in the field while it is typed; else the value. */
  private readonly own = signal<{ readonly text: string; readonly value: number | null } | undefined>(undefined);
  protected readonly text = linkedSignal(() => {
    const value = this.value();
    const own = this.own();
    if (own && Object.is(own.value, value === null ? null : value.getTime())) return own.text;
    return this.written(value);
  });
  protected readonly unread = computed(() => Number.isNaN(this.value()?.getTime()) && this.text().trim() !== '');
  protected readonly day = computed<Day | null>(() => {
    const value = this.value();
    return value && !Number.isNaN(value.getTime()) ? asDay(value) : null;
  });

  protected read(text: string): void {
    const now = this.shop.pickerNow();
    const found =
      text.trim() === ''
        ? null
        : (readWhen(text, { now, time: this.time(), towards: this.towards() }) ?? new Date(Number.NaN));
    this.own.set({ text, value: found === null ? null : found.getTime() });
    this.value.set(found);
  }

  /** Left, it shows what was understood. */
  protected left(): void {
    const value = this.value();
    if (value && Number.isNaN(value.getTime())) return;
    this.own.set(undefined);
  }

  protected take(day: Day): void {
    const before = this.value();
    const taken = dayPicker(day);
    const clock = before && !Number.isNaN(before.getTime()) ? before : this.shop.pickerNow();
    if (this.time()) taken.setHours(clock.getHours(), clock.getMinutes());
    this.own.set(undefined);
    this.value.set(taken);
    this.popover().hide();
  }

  protected shown(): void {
    setTimeout(() => this.strip()?.focus());
  }

  private written(value: Date | null): string {
    if (value === null || Number.isNaN(value.getTime())) return '';
    const day = formatDay(asDay(value)!, this.shop.today());
    return this.time() ? `${day}, ${two(value.getHours())}:${two(value.getMinutes())}` : day;
  }
}
