import { inject, signal } from '@angular/core';
import type { Instant, StepKindCode } from '@kalvet/core';
import { kindOf } from '@kalvet/core';
import { ShopService } from '../shared/shop.service';
import { saidReadings, saidTyped } from './draft';

/** What is said of a step while its form is open: how it went, what was read, when, by whom. Made where a component is made. */
export class RecordDraft {
  private readonly shop = inject(ShopService);
  readonly outcome = signal('');
  readonly readings = signal<Readonly<Record<string, unknown>>>({});
  /** As readings were typed, where that was another unit than the one that is kept. */
  readonly typed = signal<Readonly<Record<string, string | undefined>>>({});
  /** Readings that nobody read off: taken over from what was planned or said last. */
  readonly taken = signal<readonly string[]>([]);
  readonly endedAt = signal(this.shop.pickerNow());
  readonly startedAt = signal<Date | null>(null);
  readonly by = signal<string[]>([]);
  readonly note = signal('');

  /** A fresh form: the first outcome, now, by who works here. */
  begin(
    kind: StepKindCode,
    starts: Readonly<Record<string, unknown>>,
    { typed = {}, startedAt = null }: { typed?: Readonly<Record<string, string>>; startedAt?: Instant | null } = {},
  ): void {
    this.outcome.set(kindOf(kind).outcomes[0]!.code);
    this.readings.set(starts);
    this.typed.set(typed);
    this.taken.set([]);
    this.endedAt.set(this.shop.pickerNow());
    this.startedAt.set(startedAt ? this.shop.picker(startedAt) : null);
    const person = this.shop.person();
    this.by.set(person ? [person.id] : []);
    this.note.set('');
  }

  /** Its fields, for what keeps a form that is left. */
  get fields(): Record<string, unknown> {
    const { outcome, readings, typed, taken, endedAt, startedAt, by, note } = this;
    return { outcome, readings, typed, taken, endedAt, startedAt, by, note };
  }

  set(key: string, value: unknown): void {
    this.readings.update((readings) => ({ ...readings, [key]: value }));
  }

  /** Another outcome: what it makes another reading is asked anew. */
  choose(kind: StepKindCode, outcome: string): void {
    if (outcome === this.outcome()) return;
    this.outcome.set(outcome);
    const anew = new Set(kindOf(kind).readings.flatMap(({ key, byOutcome }) => (byOutcome ? [key] : [])));
    if (anew.size === 0) return;
    this.readings.update((readings) => Object.fromEntries(Object.entries(readings).filter(([key]) => !anew.has(key))));
    this.taken.update((taken) => taken.filter((key) => !anew.has(key)));
  }

  setTaken(key: string, on: boolean): void {
    this.taken.update((taken) => [...taken.filter((each) => each !== key), ...(on ? [key] : [])]);
  }

  /** What was probably meant, put in where the question stood: `readings.waxKg`, or `readings.castKg.<cast>`. */
  mend(field: string, value: number): void {
    const [, key, of] = field.split('.') as [string, string, string?];
    this.setTyped(key, undefined);
    const before = this.readings()[key];
    this.set(key, of === undefined ? value : { ...(before as object), [of]: value });
  }

  setTyped(key: string, text: string | undefined): void {
    this.typed.update((typed) => ({ ...typed, [key]: text }));
  }

  /** As it goes to the server: in instants, and only the readings that are asked for at the outcome. */
  said(kind: StepKindCode) {
    const started = this.startedAt();
    const readings = saidReadings(kind, this.outcome(), this.readings());
    const taken = this.taken().filter((key) => key in readings);
    return {
      outcome: this.outcome(),
      startedAt: started ? this.shop.instantOf(started) : null,
      endedAt: this.shop.instantOf(this.endedAt()),
      by: this.by(),
      readings,
      typed: saidTyped(readings, this.typed()),
      ...(taken.length > 0 ? { taken } : {}),
      note: this.note().trim(),
    };
  }
}
