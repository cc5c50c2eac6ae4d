import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { SaveVisit, VisitLine } from '@kalvet/core';
import { LETTERS } from '@kalvet/core';
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

const NOTHING = { who: '', from: '', to: '', note: '' };
const TEXTS = [
  { key: 'who', label: 'Who comes', like: '', most: LETTERS.name },
  { key: 'from', label: 'From', like: '14:00', most: 5 },
  { key: 'to', label: 'To', like: '15:30', most: 5 },
  { key: 'note', label: 'Note (if any)', like: '', most: LETTERS.why },
] as const;

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
          @for (field of texts; track field.key) {
            <kv-field [label]="field.label" [for]="'visit-' + field.key" [error]="sending.fields()[field.key]">
              <input
                pInputText
                [id]="'visit-' + field.key"
                [name]="field.key"
                [placeholder]="field.like"
                [maxlength]="field.most"
                [ngModel]="typed()[field.key]"
                (ngModelChange)="setTyped(field.key, $event)" />
            </kv-field>
            @if (field.key === 'who') {
              <kv-field label="Day" for="visit-day" [error]="sending.fields()['day']">
                <kv-when inputId="visit-day" [(value)]="day" />
              </kv-field>
            }
          }
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
  styleUrl: '../entries.css',
})
export class VisitsList {
  protected readonly shop = inject(ShopService);
  readonly visits = input.required<readonly VisitLine[]>();
  readonly saved = output();
  protected readonly sending = new Submission();
  protected readonly adding = signal(false);
  protected readonly texts = TEXTS;
  protected readonly day = signal<Date | null>(null);
  protected readonly typed = signal(NOTHING);
  protected readonly ready = computed(() => {
    const { who, from, to } = this.typed();
    return this.day() !== null && [who, from, to].every((text) => text.trim() !== '');
  });
  protected readonly isPourDay = computed(() => {
    const day = asDay(this.day());
    return day !== null && this.shop.days().pourDays.has(day);
  });

  protected setTyped(key: keyof typeof NOTHING, text: string): void {
    this.typed.update((typed) => ({ ...typed, [key]: text }));
  }

  protected add(): void {
    const day = asDay(this.day());
    if (day === null) return;
    const { who, from, to, note } = this.typed();
    const body: SaveVisit = {
      id: newId(),
      version: 0,
      day,
      from: hourOf(from),
      to: hourOf(to),
      who: who.trim(),
      note: note.trim(),
      gone: false,
    };
    this.sending.send(
      '/visits',
      body,
      () => {
        this.adding.set(false);
        this.typed.set(NOTHING);
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
