import { randomUUID } from 'node:crypto';
import type { Id, Instant, NextStep, Person, PieceProjection } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import { personOf as personById } from '../server/src/people/people.service.ts';
import { stored } from '../server/src/shop/stored.ts';
import type { Context, Store } from '../server/src/write/context.ts';
import { write } from '../server/src/write/write.ts';

/** Plays the foundry through the same services a screen uses, at whatever moment it is told. */
export class Hand {
  private readonly people = new Map<Id, Person>();
  now: Instant = new Date(0).toISOString();

  constructor(readonly store: Store) {}

  /** Writes as a person, at the present moment of the play. */
  async write<T extends object>(personId: Id | null, work: (ctx: Context) => Promise<T>): Promise<T> {
    let actor: Person | null = null;
    if (personId) {
      actor = this.people.get(personId) ?? (await personById(this.store, personId)) ?? null;
      if (actor) this.people.set(personId, actor);
    }
    const { answer } = await write(this.store, { actor, now: this.now, requestId: randomUUID() }, work);
    return answer;
  }

  /** Every piece's standing, as kept by the last write. */
  pieces(): Promise<Map<Id, PieceProjection>> {
    return stored<PieceProjection>(this.store, 'piece');
  }

  async select<T extends object>(sql: string, replacements: unknown[]): Promise<T[]> {
    return this.store.db.query<T>(sql, { replacements, type: QueryTypes.SELECT });
  }

  /** Whether a step waits for nothing but may begin by now. */
  ready = (step: NextStep): boolean =>
    step.waits.length === 0 && !step.held && (step.readyAt === null || step.readyAt <= this.now);

  /** The casts on a tree. */
  async castsOn(treeId: Id): Promise<Id[]> {
    const rows = await this.select<{ castId: Id }>('SELECT castId FROM tree_cast WHERE treeId = ? AND until IS NULL', [
      treeId,
    ]);
    return rows.map(({ castId }) => castId);
  }
}
