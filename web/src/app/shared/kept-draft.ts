import { DestroyRef, effect, inject, signal } from '@angular/core';
import type { WritableSignal } from '@angular/core';
import type { Instant } from '@kalvet/core';
import { Opened } from './opened.directive';
import { ShopService } from './shop.service';

/** The fields of a form, by name. */
export type Fields = Readonly<Record<string, WritableSignal<never>>>;

const PREFIX = 'kalvet.draft.';
const KEPT_DAYS = 30;

interface Stored {
  readonly at: Instant;
  readonly values: Readonly<Record<string, unknown>>;
}

const DATE = '$date';
const written = (values: unknown): string =>
  JSON.stringify(values, function (key: string, value: unknown) {
    const own = (this as Record<string, unknown>)[key];
    return own instanceof Date ? { [DATE]: own.getTime() } : value;
  });
const read = (text: string): Stored =>
  JSON.parse(text, (_key, value: unknown) =>
    typeof value === 'object' && value !== null && DATE in value ? new Date(Number(value[DATE])) : value,
  ) as Stored;

/**
 * What is typed into a form, kept in this browser as it is typed: a reload, a page left, a session or a server that ends
 * lose nothing. Kept a form and a person; gone when it is recorded or begun afresh. To be made where a component is made.
 */
export class KeptDraft {
  private readonly shop = inject(ShopService);
  private readonly opened = inject(Opened, { optional: true });
  private name = '';
  private fields: Fields = {};
  private fresh: Readonly<Record<string, unknown>> = {};
  private readonly begun = signal(0);
  /** When what stands in the form was left, where it was brought back. */
  readonly since = signal<Instant | undefined>(undefined);

  constructor() {
    // Whatever is typed is written at once: nobody knows when the power goes.
    effect(() => {
      this.begun();
      this.keep();
    });
    // What was typed a moment ago may be left before anything else ran.
    inject(DestroyRef).onDestroy(() => this.keep());
  }

  private keep(): void {
    const values = this.values();
    if (this.name === '') return;
    const untouched = written(values) === written(this.fresh);
    this.opened?.typed.set(!untouched);
    if (untouched) forget(this.name);
    else store(this.name, { at: this.shop.exactNow(), values });
  }

  /** Begins to keep a form that stands as it does when nothing was typed; what was left of it before is brought back. */
  open(name: string, fields: Record<string, unknown>): void {
    this.fields = fields as Fields;
    this.name = `${PREFIX}${this.shop.person()?.id ?? ''}.${name}`;
    this.fresh = this.values();
    const found = find(this.name);
    this.since.set(found?.at);
    for (const [field, value] of Object.entries(found?.values ?? {})) this.fields[field]?.set(value as never);
    this.begun.update((count) => count + 1);
  }

  /** The form as it was before anything was typed. */
  beginAfresh(): void {
    for (const [field, value] of Object.entries(this.fresh)) this.fields[field]?.set(value as never);
    this.since.set(undefined);
  }

  /** It is recorded: nothing is left to keep. */
  drop(): void {
    forget(this.name);
    this.opened?.typed.set(false);
    this.name = '';
    this.since.set(undefined);
  }

  private values(): Record<string, unknown> {
    return Object.fromEntries(Object.entries(this.fields).map(([field, value]) => [field, value()]));
  }
}

// A browser that keeps nothing, or is full, costs the draft and not the form.
function store(name: string, stored: Stored): void {
  try {
    localStorage.setItem(name, written(stored));
  } catch {
    return;
  }
}

function forget(name: string): void {
  try {
    localStorage.removeItem(name);
  } catch {
    return;
  }
}

function find(name: string): Stored | undefined {
  try {
    const text = localStorage.getItem(name);
    if (text === null) return undefined;
    const stored = read(text);
    if (Date.now() - Date.parse(stored.at) < KEPT_DAYS * 86_400_000) return stored;
    forget(name);
    return undefined;
  } catch {
    return undefined;
  }
}
