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
import type { Calendar, SaveCalendar } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { DatePickerModule } from 'primeng/datepicker';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../../shared/field.component';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { asDay, dayPicker } from '../../shared/time';
import { hoursInWords, parseHours } from '../../shared/hours';

const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Opening hours as a person types them: a line a weekday, closed days, and days with hours of their own. */
@Component({
  selector: 'kv-calendar-form',
  imports: [Field, FormsModule, ButtonModule, DatePickerModule, InputTextModule, Refusal],
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
      <kv-field label="Closed days" [for]="key('closed')">
        <p-datepicker
          [inputId]="key('closed')"
          name="closed"
          [ngModel]="closed()"
          (ngModelChange)="closed.set($event ?? [])"
          selectionMode="multiple"
          dateFormat="d M yy"
          [showIcon]="true"
          iconDisplay="input"
          [showOnFocus]="false"
          placeholder="none"
          appendTo="body" />
      </kv-field>
      <fieldset>
        <legend>Extra hours on a date, closed or not</legend>
        @for (extra of extras(); track $index; let i = $index) {
          <div class="extra">
            <p-datepicker
              [inputId]="key('extra' + i)"
              [name]="'extra' + i"
              [ngModel]="extra.date"
              (ngModelChange)="setExtra(i, { date: $event })"
              dateFormat="d M yy"
              [showIcon]="true"
              iconDisplay="input"
              [showOnFocus]="false"
              ariaLabel="Date"
              appendTo="body" />
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
    .extra {
      display: grid;
      grid-template-columns: 150px minmax(0, 1fr) auto;
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
  protected readonly closed = linkedSignal<Date[]>(() => this.calendar().closed.map((day) => dayPicker(day)));
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
      closed: this.closed().flatMap((date) => asDay(date) ?? []),
      extra: extras.flatMap(({ date, windows }) => windows.map((window) => ({ date, ...window }))),
    };
    this.sending.send('/calendars', body, () => this.done.emit(), { said: 'Saved; dates follow' });
  }
}
