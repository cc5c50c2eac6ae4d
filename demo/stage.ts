import type { Id, Instant } from '@kalvet/core';
import { chance } from '@kalvet/core';
import { DateTime } from 'luxon';
import type { Store } from '../server/src/write/context.ts';
import { TROUBLES } from './foundry.ts';
import type { PersonKey, Trouble } from './foundry.ts';
import { Hand } from './hand.ts';

export const ZONE = 'Europe/London';

/** A piece that is begun in the play. */
export interface PlayedPiece {
  readonly id: Id;
  readonly work: string;
  readonly number: number;
  readonly begins: Instant;
  readonly recipe: string;
}

/** What all hands of the play share: who is there, which pieces, what has happened already, and the day it ends on. */
export class Stage {
  readonly hand: Hand;
  readonly random = chance(1907);
  readonly person = {} as Record<PersonKey, Id>;
  readonly pieces: PlayedPiece[] = [];
  /** Pieces by work and number: `OTT 3`. */
  readonly marks = new Map<string, Id>();
  readonly opened = new Set<string>();
  readonly today: DateTime;
  held = false;
  private readonly done = new Set<Trouble>();

  constructor(
    store: Store,
    readonly end: Instant,
  ) {
    this.hand = new Hand(store);
    this.today = DateTime.fromISO(end, { zone: ZONE }).startOf('day');
  }

  at(daysAgo: number, time: string): Instant {
    const [hour, minute] = time.split(':').map(Number);
    return this.today.minus({ days: daysAgo }).set({ hour: hour!, minute: minute! }).toUTC().toISO()!;
  }

  /** A date so many days ahead of today. */
  day = (ahead: number): string => this.today.plus({ days: ahead }).toISODate()!;

  after = (minutes: number): Instant => new Date(Date.parse(this.hand.now) + minutes * 60_000).toISOString();

  /** A figure somewhere near another, by so much of it at most. */
  near = (value: number, share: number): number => value * (1 + (this.random() - 0.5) * 2 * share);

  /** The trouble that happens at this step, once. */
  trouble(piece: PlayedPiece, kind: string, section: string | undefined): Trouble | undefined {
    const found = TROUBLES.find(
      (each) =>
        !this.done.has(each) &&
        each.work === piece.work &&
        each.piece === piece.number &&
        each.kind === kind &&
        (!each.section || each.section === section),
    );
    if (found) this.done.add(found);
    return found;
  }
}
