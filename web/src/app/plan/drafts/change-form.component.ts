import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { DraftChange, DraftChoices, DraftKind, HoldShells, Priority } from '@kalvet/core';
import { PRIORITIES, PRIORITY_WORDS } from '@kalvet/core';
import { ButtonModule } from 'primeng/button';
import { InputNumberModule } from 'primeng/inputnumber';
import { InputTextModule } from 'primeng/inputtext';
import { SelectModule } from 'primeng/select';
import { Choices } from '../../shared/choices.component';
import { Field } from '../../shared/field.component';
import { newId } from '../../shared/ids';
import { QuantityInput } from '../../shared/quantity-input.component';
import { ShopService } from '../../shared/shop.service';
import { asDay, dayPicker } from '../../shared/time';
import { When } from '../../shared/when/when.component';
import { enquiryWork, heightOf } from './enquiry-work';

/** What can be thought of, in the words of whoever thinks of it. */
const KINDS: readonly { readonly code: DraftKind; readonly label: string }[] = [
  { code: 'enquiry', label: 'Somebody asks for pieces' },
  { code: 'open day', label: 'A pour day more' },
  { code: 'closed day', label: 'A day without' },
  { code: 'hands', label: 'Hands more or fewer' },
  { code: 'count', label: 'Another kiln, furnace or place' },
  { code: 'mould', label: 'Another mould' },
  { code: 'due', label: 'Another due date' },
  { code: 'priority', label: 'A piece goes first' },
  { code: 'hold', label: 'A piece on hold' },
  { code: 'lost cast', label: 'A cast is lost' },
];

/** One change of a draft, as it is thought of: which kind first, then what it is about. */
@Component({
  selector: 'kv-change-form',
  imports: [
    ButtonModule,
    Choices,
    Field,
    FormsModule,
    InputNumberModule,
    InputTextModule,
    QuantityInput,
    SelectModule,
    When,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './change-form.component.html',
  styles: `
    .fields {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
      gap: 0 14px;
      align-items: start;
      margin-top: 12px;
    }
    .row {
      display: flex;
      gap: 9px;
    }
  `,
})
export class ChangeForm {
  private readonly shop = inject(ShopService);
  readonly choices = input.required<DraftChoices>();
  /** The piece that somebody came from. */
  readonly piece = input<string>();
  readonly added = output<DraftChange>();
  readonly left = output();

  protected readonly kinds = KINDS;
  protected readonly kind = linkedSignal<DraftKind>(() => (this.piece() ? 'due' : 'enquiry'));
  /** What is asked for: a day that is open and one that is shut ask the same. */
  protected readonly asked = computed(() =>
    this.kind() === 'open day' || this.kind() === 'closed day' ? 'day' : this.kind(),
  );
  protected readonly hoursId = linkedSignal(() => this.choices().hours[0]?.id ?? null);
  protected readonly day = signal<Date | null>(null);
  protected readonly until = signal<Date | null>(null);
  protected readonly why = signal('');
  protected readonly more = signal<number | null>(1);
  protected readonly pieceId = linkedSignal<string | null>(() => this.piece() ?? null);
  protected readonly castId = signal<string | null>(null);
  protected readonly mouldId = signal<string | null>(null);
  protected readonly shells = signal<HoldShells>('on');
  protected readonly title = signal('');
  protected readonly pieces = signal<number | null>(1);
  protected readonly likeId = signal<string | null>(null);
  protected readonly heightMm = signal<number | null>(null);

  /** As the lists of choices want them. */
  protected readonly lists = computed(() => {
    const { hours, resources, moulds, pieces, casts, works } = this.choices();
    const lists = { hours: [...hours], resources: [...resources], moulds: [...moulds] };
    return { ...lists, pieces: [...pieces], casts: [...casts], works: [...works] };
  });
  protected readonly people = computed(() => this.choices().resources.filter(({ kind }) => kind === 'people'));
  protected readonly handsId = linkedSignal(() => this.people()[0]?.id ?? null);
  protected readonly countId = linkedSignal(
    () => this.choices().resources.find(({ kind }) => kind !== 'people')?.id ?? null,
  );
  protected readonly counted = computed(() => this.choices().resources.find(({ id }) => id === this.countId()));
  protected readonly count = linkedSignal<number | null>(() => (this.counted()?.count ?? 0) + 1);
  protected readonly like = computed(() => this.choices().works.find(({ id }) => id === this.likeId()));
  protected readonly likeHeight = computed(() => heightOf(this.like()));
  protected readonly moreOrFewer = [
    { code: 1, label: 'more' },
    { code: -1, label: 'fewer' },
  ];
  protected readonly sign = signal(1);
  protected readonly priority = signal<Priority>('first');
  protected readonly priorities = PRIORITIES.map((code) => ({ code, label: PRIORITY_WORDS[code] }));
  protected readonly shellChoices = [
    { code: 'on' as HoldShells, label: 'shells go on to the seal coat' },
    { code: 'stop' as HoldShells, label: 'shells stop too' },
  ];

  /** The change as far as it is filled in; undefined while something is missing. */
  protected readonly change = computed((): DraftChange | undefined => {
    const kind = this.kind();
    const [date, to] = [asDay(this.day()), asDay(this.until())];
    switch (kind) {
      case 'open day':
      case 'closed day': {
        const calendarId = this.hoursId();
        return calendarId && date ? { kind, calendarId, date } : undefined;
      }
      case 'count': {
        const resourceId = this.countId();
        const count = this.count();
        return resourceId && count !== null && count !== this.counted()?.count
          ? { kind, resourceId, count }
          : undefined;
      }
      case 'hands': {
        const resourceId = this.handsId();
        const more = (this.more() ?? 0) * this.sign();
        if (!resourceId || !date || more === 0 || (to !== null && to < date)) return undefined;
        return { kind, resourceId, more, from: date, to: to ?? date, why: this.why().trim() };
      }
      case 'mould': {
        const mouldId = this.mouldId();
        return mouldId ? { kind, mouldId } : undefined;
      }
      case 'due': {
        const pieceId = this.pieceId();
        return pieceId && date ? { kind, pieceId, dueDate: date } : undefined;
      }
      case 'priority': {
        const pieceId = this.pieceId();
        return pieceId ? { kind, pieceId, priority: this.priority() } : undefined;
      }
      case 'hold': {
        const pieceId = this.pieceId();
        return pieceId ? { kind, pieceId, until: to, shells: this.shells() } : undefined;
      }
      case 'lost cast': {
        const castId = this.castId();
        return castId ? { kind, castId } : undefined;
      }
      case 'enquiry': {
        const pieces = this.pieces();
        const known = this.like() !== undefined || this.heightMm() !== null;
        if (this.title().trim() === '' || !pieces || pieces < 1 || !known) return undefined;
        const asked = { title: this.title(), pieces, wantedBy: to, heightMm: this.heightMm(), like: this.like() };
        const taken = this.choices().works.map(({ code }) => code);
        return { kind, work: enquiryWork(asked, this.freshId, taken) };
      }
    }
  });
  private readonly freshId = newId();

  protected add(): void {
    const change = this.change();
    if (change) this.added.emit(change);
  }

  protected dueOf(pieceId: string | null): string {
    const due = this.choices().pieces.find(({ id }) => id === pieceId)?.dueDate;
    return due ? `now ${this.shop.day(due)}` : '';
  }

  /** A due date starts from the one that stands. */
  protected chosePiece(id: string | null): void {
    this.pieceId.set(id);
    const due = this.choices().pieces.find((each) => each.id === id)?.dueDate;
    if (this.kind() === 'due' && due && this.day() === null) this.day.set(dayPicker(due));
  }
}
