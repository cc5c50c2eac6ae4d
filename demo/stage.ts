import type { Id, Instant, NextStep, ShopIndex, ShopSettings, Standing } from '@kalvet/core';
import { canBeDone, chance, nextSteps, placeOf, standings } from '@kalvet/core';
import { DateTime } from 'luxon';
import type { DemoAir } from './climate.ts';
import { TROUBLES } from './foundry.ts';
import type { PersonKey, Trouble } from './foundry.ts';
import { Memory } from './memory.ts';

export const ZONE = 'Europe/London';

/** A piece that is begun in the play. */
export interface PlayedPiece {
  readonly id: Id;
  readonly workId: Id;
  readonly work: string;
  readonly number: number;
  readonly begins: Instant;
  readonly recipe: string;
}

/** What a piece waits for now, and which section each of its steps is for. */
export interface PieceStands {
  readonly next: readonly NextStep[];
  /** The name of the section that a step is next for. */
  readonly sectionOf: (stepId: Id) => string | undefined;
}

/** What all hands of the play share: who is there, which pieces, what has happened already, and the day it ends on. */
export class Stage {
  readonly shop: Memory;
  readonly random = chance(1907);
  readonly person = {} as Record<PersonKey, Id>;
  readonly pieces: PlayedPiece[] = [];
  /** Pieces and works by code and number: `OTT 3`, `OTT`. */
  readonly marks = new Map<string, Id>();
  readonly opened = new Set<string>();
  readonly today: DateTime;
  /** The shell room's air. */
  air: DemoAir | undefined;
  held = false;
  private readonly done = new Set<Trouble>();
  private readonly known = new Map<Id, { index: ShopIndex; stands: Map<Id, Standing> }>();

  constructor(
    settings: ShopSettings,
    readonly end: Instant,
  ) {
    this.shop = new Memory(settings);
    this.today = DateTime.fromISO(end, { zone: ZONE }).startOf('day');
  }

  at(daysAgo: number, time: string): Instant {
    const [hour, minute] = time.split(':').map(Number);
    return this.today.minus({ days: daysAgo }).set({ hour: hour!, minute: minute! }).toUTC().toISO()!;
  }

  /** A date so many days ahead of today. */
  day = (ahead: number): string => this.today.plus({ days: ahead }).toISODate()!;

  after = (minutes: number): Instant => new Date(Date.parse(this.shop.now) + minutes * 60_000).toISOString();

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

  /** Whether a step waits for nothing and may begin by now. */
  ready = (step: NextStep): boolean => canBeDone(step, this.shop.now);

  /** Where every piece stands now, by the same rule that is kept ready for the screens. */
  standing(): Map<Id, PieceStands> {
    const found = new Map<Id, PieceStands>();
    for (const workId of this.shop.workIds) {
      const index = this.shop.work(workId);
      const known = this.known.get(workId);
      if (known?.index !== index) this.known.set(workId, { index, stands: standings(index) });
      const { stands } = this.known.get(workId)!;
      for (const piece of index.shop.pieces) {
        const { sections } = placeOf(index, piece);
        const ids = [...new Set(sections.flatMap(({ nextStepId }) => nextStepId ?? []))];
        const names = new Map(
          sections.map(({ nextStepId, sectionId }) => [nextStepId, index.section.get(sectionId)?.name]),
        );
        found.set(piece.id, {
          next: nextSteps(index, stands, ids, this.shop.settings.liftLimitKg),
          sectionOf: (stepId) => names.get(stepId),
        });
      }
    }
    return found;
  }
}
