import { Injectable, computed, inject, signal } from '@angular/core';
import type { Day, Instant, NextStep, Person, ShopAnswer } from '@kalvet/core';
import type { Quantity, Reader, Text, Unit, Units } from '@kalvet/core';
import {
  DEFAULT_SETTINGS,
  METRIC,
  dayIn,
  formatDay,
  formatInstant,
  formatPlanned,
  formatWhen,
  fromMs,
  inWords,
  mayDo,
  quantity,
  quantityInWords,
  shopReader,
  signOf,
  toMs,
} from '@kalvet/core';
import { retry, tap } from 'rxjs';
import type { Observable } from 'rxjs';
import { Api } from './api.service';
import { Session } from './session.service';
import { fromPicker, toPicker } from './time';

const TICK_MS = 15_000;
/** Stands for a moment that nobody could read. */
const NO_TIME = 'no time';

/** Who works here, the shop's settings, and its clock: the server's time, in the shop's own zone. */
@Injectable({ providedIn: 'root' })
export class ShopService {
  private readonly api = inject(Api);
  private readonly answer = signal<ShopAnswer | undefined>(undefined);
  private readonly session = inject(Session);
  private readonly tick = signal(Date.now());
  private offsetMs = 0;

  readonly loaded = computed(() => this.answer() !== undefined);
  readonly settings = computed(() => this.answer()?.settings ?? DEFAULT_SETTINGS);
  readonly people = computed(() => (this.answer()?.people ?? []).filter((person) => person.active));
  /** People who work in the rooms: who only looks, or keeps the books, does no step. */
  readonly hands = computed(() => this.people().filter((person) => mayDo(person, 'record step')));
  /** Who is signed in, as the shop's list has them now. */
  readonly person = computed<Person | undefined>(() => {
    const own = this.session.person();
    return own && (this.people().find(({ id }) => id === own.id) ?? own);
  });
  readonly now = computed<Instant>(() => fromMs(this.tick() + this.offsetMs));
  readonly zone = computed(() => this.settings().timeZone);
  readonly today = computed<Day>(() => dayIn(this.now(), this.zone()));
  /** What the person who works here reads and types in. */
  readonly units = computed<Units>(() => this.person()?.units ?? METRIC);
  private readonly reader = computed<Reader>(() => shopReader(this.zone(), this.units(), this.today()));
  /** Days on which metal can be poured, and on which nobody works, as far as a calendar reaches. */
  readonly days = computed(() => ({
    pourDays: new Set(this.answer()?.pourDays ?? []),
    closedDays: new Set(this.answer()?.closedDays ?? []),
  }));

  constructor() {
    setInterval(() => this.tick.set(Date.now()), TICK_MS);
  }

  load(): Observable<ShopAnswer> {
    return this.api.get<ShopAnswer>('/shop').pipe(
      tap((answer) => {
        this.offsetMs = toMs(answer.now) - Date.now();
        this.answer.set(answer);
        this.tick.set(Date.now());
      }),
      retry({ delay: 2000 }),
    );
  }

  /** The present moment, to the second, for a form that opens. */
  exactNow(): Instant {
    return fromMs(Date.now() + this.offsetMs);
  }

  /** The present minute as a picker shows it. */
  pickerNow(): Date {
    return toPicker(this.exactNow(), this.zone());
  }

  /** An instant as a picker shows it. */
  picker = (instant: Instant): Date => toPicker(instant, this.zone());

  /**
   * The instant that a picker says in the shop's hours. The present minute is meant to the second, so that two steps within
   * one minute keep their order.
   */
  instantOf(picked: Date): Instant {
    // What could not be read as a time is refused by the server, by name.
    if (Number.isNaN(picked.getTime())) return NO_TIME;
    const said = fromPicker(picked, this.zone());
    const now = this.exactNow();
    return said.slice(0, 16) === now.slice(0, 16) ? now : said;
  }

  /** How a next step stands now, in words: begun, waiting, drying, ready, or too old. */
  stands(step: NextStep): string {
    const now = this.now();
    if (step.state === 'running') return 'begun';
    if (step.waits.length > 0) return `waits for ${step.waits.join(', ')}`;
    if (step.readyAt && step.readyAt > now) return `can be done from ${this.when(step.readyAt)}`;
    if (step.tooOldAt && step.tooOldAt < now) return `too old since ${this.when(step.tooOldAt)}`;
    return step.tooOldAt ? `ready; too old from ${this.when(step.tooOldAt)}` : 'ready';
  }

  /** What something waits for, in words: `Waits for leak test`, `On hold: …`. */
  waits(waits: readonly string[]): string {
    const words = waits.join(', ');
    return words.startsWith('on hold') ? `${words.charAt(0).toUpperCase()}${words.slice(1)}` : `Waits for ${words}`;
  }

  personName(id: string): string {
    return this.answer()?.people.find((person) => person.id === id)?.name ?? 'somebody';
  }

  /** A text in the reader's units, its times by the shop's clock. */
  words = (text: Text): string => inWords(text, this.reader());
  /** `8.5 kg`, or `18.7 lb`: a number of a unit in the reader's own. */
  amount = (value: number, unit: Unit, decimals?: number): string =>
    quantityInWords(quantity(value, unit, decimals), this.units());
  quantity = (given: Quantity): string => quantityInWords(given, this.units());
  /** The sign that numbers of a unit are shown and typed with: `lb` for kilograms. */
  sign = (unit: Unit): string => signOf(unit, this.units());

  /** `10:40 today`, `Fri 14 May 10:40`. */
  when = (instant: Instant | null): string => (instant ? formatWhen(instant, this.today(), this.zone()) : '');
  /** A planned moment: the hour today and tomorrow, beyond these the day. */
  planned = (instant: Instant | null): string => (instant ? formatPlanned(instant, this.today(), this.zone()) : '');
  /** `Fri 14 May 2027, 10:40`. */
  at = (instant: Instant | null): string => (instant ? formatInstant(instant, this.zone()) : '');
  /** The day of an instant in the shop's hours: `Fri 14 May`. */
  dayOf = (instant: Instant): string => formatDay(dayIn(instant, this.zone()), this.today());
  /** `Fri 14 May`, with the year where it is another one. */
  day = (day: Day | null): string => (day ? formatDay(day, this.today()) : '');
}
