import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { SaveVisit, VisitLine } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputTextModule } from 'primeng/inputtext';
import { Field } from '../../shared/field.component';
import { newId } from '../../shared/ids';
import { May } from '../../shared/may.directive';
import { Refusal } from '../../shared/refusal.component';
import { ShopService } from '../../shared/shop.service';
import { Submission } from '../../shared/submission';
import { asDay } from '../../shared/time';
import { When } from '../../shared/when/when.component';

/** Guests who are expected; a visit on a pour day says so at once. */
@Component({
  selector: 'kv-visits',
  imports: [ButtonModule, Field, FormsModule, InputTextModule, May, Refusal, When],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul>
      @for (visit of visits(); track visit.id) {
        <li>
          <span>
            <b>{{ shop.day(visit.day) }}, {{ visit.from }} to {{ visit.to }}</b> {{ visit.who }}
            @if (visit.note) {
              <span class="kv-soft">{{ visit.note }}</span>
            }
            @if (visit.caution; as caution) {
              <span class="caution kv-alert">{{ shop.words(caution) }}</span>
            }
          </span>
          <button
            *kvMay="'save visit'"
            type="button"
            class="kv-link"
            [attr.aria-label]="'Take off the visit of ' + visit.who"
            (click)="remove(visit)">
            take off
          </button>
        </li>
      } @empty {
        <li class="kv-soft">Nobody is expected.</li>
      }
    </ul>
    @if (adding()) {
      <form (ngSubmit)="add()" autocomplete="off">
        <div class="fields">
          <kv-field label="Who comes" for="visit-who" [error]="sending.fields()['who']">
            <input
              pInputText
              id="visit-who"
              name="who"
              maxlength="120"
              [ngModel]="who()"
              (ngModelChange)="who.set($event)" />
          </kv-field>
          <kv-field label="Day" for="visit-day" [error]="sending.fields()['day']">
            <kv-when inputId="visit-day" [(value)]="day" />
          </kv-field>
          <kv-field label="From" for="visit-from" [error]="sending.fields()['from']">
            <input
              pInputText
              id="visit-from"
              name="from"
              placeholder="14:00"
              [ngModel]="from()"
              (ngModelChange)="from.set($event)" />
          </kv-field>
          <kv-field label="To" for="visit-to" [error]="sending.fields()['to']">
            <input
              pInputText
              id="visit-to"
              name="to"
              placeholder="15:30"
              [ngModel]="to()"
              (ngModelChange)="to.set($event)" />
          </kv-field>
          <kv-field label="Note (if any)" for="visit-note">
            <input
              pInputText
              id="visit-note"
              name="note"
              maxlength="500"
              [ngModel]="note()"
              (ngModelChange)="note.set($event)" />
          </kv-field>
        </div>
        @if (isPourDay()) {
          <p class="kv-alert" data-test="visit-pour-day">
            That is a pour day: tell the pour lead, and the guests, before they come.
          </p>
        }
        <kv-refusal [submission]="sending" (reload)="saved.emit()" />
        <div class="row">
          <button pButton type="submit" size="small" data-test="save-visit" [disabled]="!ready() || sending.busy()">
            Enter
          </button>
          <button pButton type="button" size="small" severity="secondary" [text]="true" (click)="adding.set(false)">
            Back
          </button>
        </div>
      </form>
    } @else {
      <kv-refusal [submission]="sending" (reload)="saved.emit()" />
      <button *kvMay="'save visit'" type="button" class="kv-link" data-test="add-visit" (click)="adding.set(true)">
        Somebody comes to visit
      </button>
    }
  `,
  styles: `
    li {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 14px;
      justify-content: space-between;
      padding: 5px 0;
      border-top: 1px solid var(--kv-line);
    }
    .caution {
      display: block;
    }
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(180px, 1fr));
      gap: 0 14px;
      align-items: start;
      margin-top: 10px;
    }
    .row {
      display: flex;
      gap: 9px;
    }
  `,
})
export class VisitsList {
  protected readonly shop = inject(ShopService);
  readonly visits = input.required<readonly VisitLine[]>();
  readonly saved = output();
  protected readonly sending = new Submission();
  protected readonly adding = signal(false);
  protected readonly who = signal('');
  protected readonly day = signal<Date | null>(null);
  protected readonly from = signal('');
  protected readonly to = signal('');
  protected readonly note = signal('');
  protected readonly ready = computed(
    () => this.who().trim() !== '' && this.day() !== null && this.from() !== '' && this.to() !== '',
  );
  protected readonly isPourDay = computed(() => {
    const day = asDay(this.day());
    return day !== null && this.shop.days().pourDays.has(day);
  });

  protected add(): void {
    const day = asDay(this.day());
    if (day === null) return;
    const body: SaveVisit = {
      id: newId(),
      version: 0,
      day,
      from: hourOf(this.from()),
      to: hourOf(this.to()),
      who: this.who().trim(),
      note: this.note().trim(),
      gone: false,
    };
    this.sending.send(
      '/visits',
      body,
      () => {
        this.adding.set(false);
        for (const text of [this.who, this.from, this.to, this.note]) text.set('');
        this.day.set(null);
        this.saved.emit();
      },
      { said: 'Visit entered' },
    );
  }

  protected remove({ caution: _, ...visit }: VisitLine): void {
    this.sending.send('/visits', { ...visit, gone: true }, () => this.saved.emit(), { said: 'Visit taken off' });
  }
}

/** `9`, `9:30`, `9.30` as people write hours: `09:00`, `09:30`. Anything else stays for the server to say. */
function hourOf(text: string): string {
  const found = /^(\d{1,2})(?:[:.h](\d{2})?)?$/.exec(text.trim());
  return found ? `${found[1]!.padStart(2, '0')}:${found[2] ?? '00'}` : text.trim();
}
