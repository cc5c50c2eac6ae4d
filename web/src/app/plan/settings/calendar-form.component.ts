import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  effect,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Calendar, Day, SaveCalendar } from '@kalvet/core';
import { addDays, daySpans, daysBetween } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { When } from '../../shared/when/when.component';
import { asDay, dayPicker } from '../../shared/time';
import { HolidayList } from './holidays.component';
import { hoursInWords, parseHours } from '../../shared/hours';

/** A shop is not closed for longer at once. */
const MOST_CLOSED = 120;

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Opening hours as a person types them: a line a weekday, closed days, and days with hours of their own. */
@Component({
  selector: 'kv-calendar-form',
  imports: [Field, FormsModule, ButtonModule, HolidayList, InputTextModule, Refusal, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save()" autocomplete="off">
      <kv-field label="Name" [for]="key('name')">
        <input pInputText [id]="key('name')" name="name" [ngModel]="name()" (ngModelChange)="name.set($event)" />
      </kv-field>
      <div class="week">
        @for (day of days; track day; let i = $index) {
          <label [for]="key('day' + i)">{{ day }}</label>
          <input
            pInputText
            [id]="key('day' + i)"
            [name]="'day' + i"
            [ngModel]="week()[i]"
            (ngModelChange)="setDay(i, $event)"
            placeholder="closed"
            [attr.aria-invalid]="read()[i]!.wrong ? true : null" />
          @if (read()[i]!.wrong; as text) {
            <span class="kv-wrong" role="alert">{{ text }}</span>
          }
        }
      </div>
      <fieldset>
        <legend>Closed days</legend>
        <ul class="closed">
          @for (span of spans(); track span.from) {
            <li>
              {{ span.words }}
              <button type="button" class="kv-link" (click)="open(span)">open it</button>
            </li>
          } @empty {
            <li class="kv-soft">none</li>
          }
        </ul>
        <div class="extra">
          <kv-when [inputId]="key('closed')" ariaLabel="closed from" placeholder="from, 24 Dec" [(value)]="closeFrom" />
          <kv-when ariaLabel="closed until" placeholder="until (if more days)" [(value)]="closeUntil" />
          <button pButton type="button" severity="secondary" [text]="true" [disabled]="!closeFrom()" (click)="close()">
            Close
          </button>
        </div>
        <kv-holidays (closed)="closeOn($event)" />
      </fieldset>
      <fieldset>
        <legend>Extra hours on a date, closed or not</legend>
        @for (extra of extras(); track $index; let i = $index) {
          <div class="extra">
            <kv-when
              [inputId]="key('extra' + i)"
              [value]="extra.date"
              (valueChange)="setExtra(i, { date: $event })"
              ariaLabel="Date" />
            <input
              pInputText
              [id]="key('extra-hours' + i)"
              [name]="'extraHours' + i"
              [ngModel]="extra.hours"
              (ngModelChange)="setExtra(i, { hours: $event })"
              placeholder="9:00–16:00"
              aria-label="Hours" />
            <button pButton type="button" severity="secondary" [text]="true" (click)="dropExtra(i)">Take off</button>
          </div>
        }
        <button type="button" class="kv-link" (click)="addExtra()" [attr.data-test]="'extra-' + calendar().id">
          Add a date
        </button>
      </fieldset>
      @if (wrong()) {
        <p class="kv-wrong" role="alert">{{ wrong() }}</p>
      }
      <kv-refusal [submission]="sending" (reload)="done.emit()" />
      @if (sending.fields()['weekly']; as text) {
        <p class="kv-wrong" role="alert">{{ text }}</p>
      }
      <div class="row">
        <button
          pButton
          type="submit"
          size="small"
          [disabled]="sending.busy() || name().trim() === ''"
          [attr.data-test]="'save-' + calendar().id">
          Save
        </button>
        <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="done.emit()">
          Back
        </button>
      </div>
    </form>
  `,
  styles: `
    .week {
      display: grid;
      grid-template-columns: 42px minmax(0, 1fr);
      gap: 4px 8px;
      align-items: center;
      margin-bottom: 10px;
    }
    .week .kv-wrong {
      grid-column: 2;
    }
    fieldset {
      border: 0;
      padding: 0;
      margin: 0 0 10px;
    }
    legend {
      font-weight: 500;
      font-size: 0.93rem;
      padding: 0;
    }
    .closed li {
      padding: 2px 0;
    }
    .extra {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
      gap: 6px;
      margin: 4px 0;
    }
    .row {
      display: flex;
      gap: 8px;
    }
  `,
})
export class CalendarForm {
  protected readonly shop = inject(ShopService);
  protected readonly sending = new Submission();
  readonly calendar = input.required<Calendar>();
  readonly done = output();

  protected readonly days = DAYS;
  protected readonly name = linkedSignal(() => this.calendar().name);
  protected readonly week = linkedSignal(() =>
    DAYS.map((_, i) => hoursInWords(this.calendar().weekly.filter(({ day }) => day === i + 1))),
  );
  protected readonly closed = linkedSignal<readonly Day[]>(() => this.calendar().closed);
  /** Closed days that follow one another are one span. */
  protected readonly spans = computed(() =>
    daySpans(this.closed()).map(({ from, until }) => ({
      from,
      until,
      words: from === until ? this.shop.day(from) : `${this.shop.day(from)} – ${this.shop.day(until)}`,
    })),
  );
  protected readonly closeFrom = signal<Date | null>(null);
  protected readonly closeUntil = signal<Date | null>(null);
  protected readonly extras = linkedSignal<{ date: Date | null; hours: string }[]>(() =>
    this.calendar().extra.map(({ date, from, to }) => ({
      date: dayPicker(date),
      hours: hoursInWords([{ from, to }]),
    })),
  );
  protected readonly read = computed(() => this.week().map(parseHours));
  protected readonly wrong = signal('');

  constructor() {
    effect(() => {
      const { id, version } = this.calendar();
      const { name, week, closed, extras } = this;
      // Hours that are only being entered have an id of this form alone.
      const of = version === 0 ? 'new' : `${id} ${version}`;
      untracked(() => this.sending.keep(`hours ${of}`, { name, week, closed, extras }));
    });
  }

  protected key(name: string): string {
    return `${name}-${this.calendar().id}`;
  }

  protected setDay(place: number, text: string): void {
    this.week.update((week) => week.map((each, i) => (i === place ? text : each)));
  }

  /** Closes a day, or every day from one to another. */
  protected close(): void {
    const from = asDay(this.closeFrom());
    if (from === null) return;
    const until = asDay(this.closeUntil()) ?? from;
    const days = Array.from({ length: Math.min(MOST_CLOSED, daysBetween(from, until) + 1) }, (_, i) =>
      addDays(from, i),
    );
    this.closeOn(days);
    this.closeFrom.set(null);
    this.closeUntil.set(null);
  }

  protected closeOn(days: readonly Day[]): void {
    this.closed.update((closed) => [...new Set([...closed, ...days])].sort());
  }

  protected open({ from, until }: { readonly from: Day; readonly until: Day }): void {
    this.closed.update((closed) => closed.filter((day) => day < from || day > until));
  }

  protected addExtra(): void {
    this.extras.update((extras) => [...extras, { date: null, hours: '' }]);
  }

  protected setExtra(place: number, patch: Partial<{ date: Date | null; hours: string }>): void {
    this.extras.update((extras) => extras.map((each, i) => (i === place ? { ...each, ...patch } : each)));
  }

  protected dropExtra(place: number): void {
    this.extras.update((extras) => extras.filter((_, i) => i !== place));
  }

  protected save(): void {
    const extras = this.extras().map(({ date, hours }) => ({ date: asDay(date) ?? '', ...parseHours(hours) }));
    const bad = extras.find(({ date, windows, wrong }) => date === '' || wrong || windows.length === 0);
    this.wrong.set(bad ? (bad.wrong ?? 'An extra date needs its day and its hours.') : '');
    if (bad || this.read().some(({ wrong }) => wrong)) return;
    const { id, version } = this.calendar();
    const body: SaveCalendar = {
      id,
      version,
      name: this.name().trim(),
      always: false,
      weekly: this.read().flatMap(({ windows }, i) => windows.map((window) => ({ day: i + 1, ...window }))),
      closed: [...this.closed()],
      extra: extras.flatMap(({ date, windows }) => windows.map((window) => ({ date, ...window }))),
    };
    this.sending.send('/calendars', body, () => this.done.emit(), { said: 'Saved; dates follow' });
  }
}
