import type {
  AuditWhat,
  Doing,
  EventDraft,
  Gate,
  How,
  Id,
  Instant,
  Override,
  Person,
  Right,
  Room,
  Shop,
  ShopSettings,
  Subject,
} from '@kalvet/core';
import { MAY_ANSWER, mayAnswer, mayDo, mayPass, whoMay } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import type { Where } from '../db/rows.ts';
import type { AnyTable, TableName } from '../db/tables.ts';
import { fromRow, toRow } from '../db/tables.ts';
import type { From } from '../people/audit.ts';
import { NOWHERE, audit } from '../people/audit.ts';
import { mayNot } from '../people/who.ts';
import { settingsOf } from '../people/settings.ts';
import { newId } from './new-id.ts';
import { Problem, notFound } from './problem.ts';
import type { Store } from './store.ts';

/** What changed in one record, kept with the event so that it can be shown and taken back. */
export interface Change {
  readonly table: TableName;
  readonly id: Id;
  readonly op: 'insert' | 'update' | 'delete';
  readonly before?: Record<string, unknown>;
  readonly after?: Record<string, unknown>;
}

const NUMBERED: ReadonlySet<AnyTable> = new Set([
  'works',
  'moulds',
  'pulls',
  'trees',
  'loads',
  'heats',
  'orders',
  'lots',
  'crucibles',
]);

/**
 * One write: its transaction, who writes, the moment it counts as typed, and what it has changed so far. Every service
 * takes it as its first argument, so that one may call another inside the same transaction.
 */
export class Context {
  readonly changes: Change[] = [];
  readonly subjects = new Map<Id, Subject>();
  readonly touchedWorks = new Set<Id>();
  readonly touchedPieces = new Set<Id>();
  /** Rules that were passed on purpose. */
  readonly passed: Override[] = [];
  event: EventDraft | undefined;
  /** The records as this write leaves them, where it has read and changed them as a whole. */
  shop: Shop | undefined;
  /** Called with the change number, inside the transaction. */
  onKept: ((change: number) => Promise<void>) | undefined;
  private lastId = 0;
  private known: ShopSettings | undefined;

  constructor(
    readonly store: Store,
    readonly tx: Transaction,
    readonly actor: Person | null,
    readonly now: Instant,
    readonly requestId: string,
    readonly overrides: readonly Override[],
    /** How sure it is who writes, and from where. */
    readonly how: How | null = null,
    readonly from: From = NOWHERE,
  ) {}

  /** Ids in the order they are asked for, so that ties between records made at once are broken as they were made. */
  readonly newId = (): Id => newId(Date.parse(this.now) + this.lastId++);

  /** Asks whether whoever writes may do so, in a room where the record is in one. @throws Problem that says who may */
  may(right: Right, room?: Room | null): void {
    if (!mayDo(this.actor, right, room)) throw mayNot(this.actor?.name ?? 'Nobody', right, room);
  }

  /** Asks whether whoever writes answers for a decision. @throws Problem that says who does */
  mayAnswer(gate: Gate): void {
    if (!mayAnswer(this.actor, gate))
      throw new Problem(
        'may not',
        `${this.actor?.name ?? 'Nobody'} does not answer for the ${gate}; ${whoMay(MAY_ANSWER[gate])} does, or whoever it was given to by name.`,
        { rule: 'gate' },
      );
  }

  /** A line in the audit, kept with this write or not at all. */
  audit(what: AuditWhat, text: string): Promise<void> {
    const { actor, how, from } = this;
    return audit(this.store, { what, person: actor, how, text, from }, this.tx);
  }

  concern(subject: Subject, ...ids: readonly Id[]): void {
    for (const id of ids) this.subjects.set(id, subject);
    if (subject === 'piece') for (const id of ids) this.touchedPieces.add(id);
  }

  /**
   * The shop's settings, held as they are until this write ends: whoever changes them waits, so that what is kept ready is
   * worked out with the settings that stand when it is kept.
   */
  async settings(): Promise<ShopSettings> {
    if (this.known) return this.known;
    await this.store.models.counters.findByPk('settings', {
      raw: true,
      transaction: this.tx,
      lock: this.tx.LOCK.SHARE,
    });
    this.known = await settingsOf(this.store, this.tx);
    return this.known;
  }

  /** Settings were changed by this write: they are read anew. */
  forgetSettings(): void {
    this.known = undefined;
  }

  /** What core asks about a write. */
  async doing(): Promise<Doing> {
    const rows = await this.rows<{ id: Id; name: string }>('people', {});
    return {
      now: this.now,
      actor: this.actor,
      mayPass: (rule) => mayPass(this.actor, rule),
      overrides: this.overrides,
      settings: await this.settings(),
      people: new Map(rows.map(({ id, name }) => [id, name])),
      newId: this.newId,
    };
  }

  /** Records of a table that meet a condition, read with this write's transaction. */
  async rows<T>(
    table: AnyTable,
    where: Where,
    { lock = false, order = [] as [string, 'ASC' | 'DESC'][] } = {},
  ): Promise<T[]> {
    const found = await this.store.models[table].findAll({
      where: where as never,
      raw: true,
      transaction: this.tx,
      order,
      ...(lock ? { lock: true } : {}),
    });
    return (found as unknown as Record<string, unknown>[]).map((row) => fromRow<T>(table, row));
  }

  async find<T>(table: TableName, id: Id, lock = false): Promise<T | undefined> {
    const row = await this.store.models[table].findByPk(id, {
      raw: true,
      transaction: this.tx,
      ...(lock ? { lock: true } : {}),
    });
    return row ? fromRow<T>(table, row as unknown as Record<string, unknown>) : undefined;
  }

  /**
   * Takes the row for this write and compares what the writer saw with what is there.
   * @throws Problem `stale` with both, where somebody else has changed it meanwhile
   */
  async claim<T extends { version: number }>(
    table: TableName,
    id: Id,
    version: number,
    what: string,
    yours?: unknown,
  ): Promise<T> {
    const record = await this.find<T>(table, id, true);
    if (!record) throw notFound(what);
    if (record.version !== version)
      throw new Problem(
        'stale',
        `Somebody else has changed this ${what} meanwhile. What you typed is kept; look at what is there now.`,
        {
          current: record,
          yours,
        },
      );
    return record;
  }

  async insert<T extends { id: Id }>(table: TableName, records: readonly T[]): Promise<T[]> {
    if (records.length === 0) return [];
    const numbered = NUMBERED.has(table) ? await this.number(table, records) : records;
    await this.store.models[table].bulkCreate(
      numbered.map((record) => toRow(table, record as Record<string, unknown>)) as never[],
      { transaction: this.tx },
    );
    for (const record of numbered) this.changes.push({ table, id: record.id, op: 'insert' });
    return numbered as T[];
  }

  private async number<T extends { id: Id }>(counter: string, records: readonly T[]): Promise<T[]> {
    const last = await this.raise(counter, records.length);
    return records.map((record, i) => ({ ...record, number: last - records.length + 1 + i }));
  }

  /** Raises a running number and gives its new value; the row stays locked until the write ends. */
  async raise(counter: string, by = 1): Promise<number> {
    // Raw: one statement raises and reads; a model's increment would need a second one under the same lock.
    const [answer] = await this.store.db.query('UPDATE counter SET value = LAST_INSERT_ID(value + ?) WHERE name = ?', {
      replacements: [by, counter],
      transaction: this.tx,
    });
    return Number((answer as unknown as { insertId: number }).insertId);
  }

  /** Changes one record and raises its version. `before` is what it was, for the event. */
  async update<T extends { id: Id; version: number }>(table: TableName, before: T, patch: Partial<T>): Promise<T> {
    const changed = Object.entries(patch).filter(
      ([key, value]) => JSON.stringify(value) !== JSON.stringify(before[key as keyof T]),
    );
    if (changed.length === 0) return before;
    const values = { ...Object.fromEntries(changed), version: before.version + 1 };
    const [count] = await this.store.models[table].update(values as never, {
      where: { id: before.id, version: before.version } as never,
      transaction: this.tx,
    });
    if (count !== 1) throw new Problem('stale', 'Somebody else has changed this meanwhile. Try again.');
    this.changes.push({
      table,
      id: before.id,
      op: 'update',
      before: Object.fromEntries(changed.map(([key]) => [key, before[key as keyof T]])),
      after: Object.fromEntries(changed),
    });
    return { ...before, ...values } as T;
  }

  /** Raises a record's version although only its members changed, so that two people do not arrange it at once. */
  async touch<T extends { id: Id; version: number }>(table: TableName, before: T): Promise<T> {
    const version = before.version + 1;
    await this.store.models[table].update({ version } as never, {
      where: { id: before.id } as never,
      transaction: this.tx,
    });
    return { ...before, version };
  }

  /** Deletes records that nothing was recorded on. */
  async remove(table: TableName, ids: readonly Id[]): Promise<void> {
    await this.store.models[table].destroy({ where: { id: ids } as never, transaction: this.tx });
    for (const id of ids) this.changes.push({ table, id, op: 'delete' });
  }
}
