import type { Id, Instant, Override, Person, Refusal, Room, Shop } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import type { Sequelize } from 'sequelize';
import { QueryTypes } from 'sequelize';
import { randomBytes } from 'node:crypto';
import type { Models, TableName } from '../db/tables.ts';
import { fromRow, toRow } from '../db/tables.ts';
import { Problem, notFound, refused } from './problem.ts';

/** Where the records are: one connection pool and its models. */
export interface Store {
  readonly db: Sequelize;
  readonly models: Models;
}

/** What changed in one record, kept with the event so that it can be shown and taken back. */
export interface Change {
  readonly table: TableName;
  readonly id: Id;
  readonly op: 'insert' | 'update' | 'delete';
  readonly before?: Record<string, unknown>;
  readonly after?: Record<string, unknown>;
}

/** The event that a write leaves behind. */
export interface EventDraft {
  readonly verb: Verb;
  /** In shop words, as the history shows it. */
  readonly text: string;
  readonly room?: Room | null;
  readonly doneAt?: Instant;
  readonly reason?: string | null;
  /** Something went wrong in the work: shown in the alert colour. */
  readonly bad?: boolean;
}

/** Every verb an event can have: a closed list. */
export type Verb =
  | 'set up work'
  | 'change work'
  | 'change piece'
  | 'hold'
  | 'release'
  | 'cancel'
  | 'model again'
  | 'start step'
  | 'record step'
  | 'insert step'
  | 'lose cast'
  | 'plan load'
  | 'record load'
  | 'abandon load'
  | 'plan heat'
  | 'change heat'
  | 'confirm crew'
  | 'pour'
  | 'finish heat'
  | 'abandon heat'
  | 'take back'
  | 'add person'
  | 'change person'
  | 'change settings'
  | 'pin step'
  | 'save client'
  | 'save order'
  | 'open item'
  | 'close item'
  | 'take plan';

type SubjectKind =
  'order' | 'client' | 'piece' | 'work' | 'tree' | 'cast' | 'mould' | 'load' | 'heat' | 'step' | 'person';

/** A UUIDv7: its first 48 bits are the time, so that ids sort as they were made. */
export function newId(nowMs: number = Date.now()): Id {
  const bytes = randomBytes(16);
  bytes.writeUIntBE(nowMs, 0, 6);
  bytes[6] = (bytes[6]! & 0x0f) | 0x70;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = bytes.toString('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

const NUMBERED: Partial<Record<TableName, string>> = {
  works: 'works',
  moulds: 'moulds',
  pulls: 'pulls',
  trees: 'trees',
  loads: 'loads',
  heats: 'heats',
  orders: 'orders',
};

/**
 * One write: its transaction, who writes, the moment it counts as typed, and what it has changed so far. Every service
 * takes it as its first argument, so that one may call another inside the same transaction.
 */
export class Context {
  readonly changes: Change[] = [];
  readonly subjects = new Map<Id, SubjectKind>();
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

  constructor(
    readonly store: Store,
    readonly tx: Transaction,
    readonly actor: Person | null,
    readonly now: Instant,
    readonly requestId: string,
    readonly overrides: readonly Override[],
  ) {}

  /** Ids in the order they are asked for, so that ties between records made at once are broken as they were made. */
  readonly newId = (): Id => newId(Date.parse(this.now) + this.lastId++);

  concern(kind: SubjectKind, ...ids: readonly Id[]): void {
    for (const id of ids) this.subjects.set(id, kind);
    if (kind === 'piece') for (const id of ids) this.touchedPieces.add(id);
  }

  /** Reads with this write's transaction. */
  async select<T extends object>(sql: string, replacements: unknown[] = []): Promise<T[]> {
    return this.store.db.query<T>(sql, { replacements, type: QueryTypes.SELECT, transaction: this.tx });
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
    const counter = NUMBERED[table];
    const numbered = counter ? await this.number(counter, records) : records;
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
    // The answer to the statement carries what LAST_INSERT_ID was set to.
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

  /** Deletes a record that nothing was recorded on: only the taking back of what made it does so. */
  async remove(table: TableName, id: Id): Promise<void> {
    await this.store.models[table].destroy({ where: { id } as never, transaction: this.tx });
    this.changes.push({ table, id, op: 'delete' });
  }

  /** Lets pass what may be overridden and is, by somebody who may; refuses the rest. */
  allow(refusals: readonly Refusal[]): void {
    const left = refusals.filter((refusal) => {
      const given = this.overrides.find((override) => override.rule === refusal.rule);
      if (!given || !refusal.mayOverride) return true;
      if (!this.actor?.mayOverride)
        throw new Problem(
          'refused',
          `${refusal.message} ${this.actor?.name ?? 'You'} may not decide that; ask somebody who may.`,
          {
            rule: refusal.rule,
            mayOverride: false,
          },
        );
      if (!this.passed.includes(given)) this.passed.push(given);
      return false;
    });
    if (left.length > 0) throw refused(left);
  }
}
