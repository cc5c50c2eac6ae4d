import type { Id, NextStep, RecordMany } from '@kalvet/core';
import { kindOf, recordMany, recordStep } from '@kalvet/core';
import { LEFT_ALONE, personOf } from './foundry.ts';
import { readingsOf } from './readings.ts';
import type { PieceStands, PlayedPiece, Stage } from './stage.ts';

/** What takes its time at the bench before it is written down as done, in hours since the step before. */
const BENCH_HOURS: Readonly<Record<string, number>> = {
  'chase-wax': 30,
  'model-wax': 30,
  'join-tree': 16,
  'leak-test': 2,
  'knock-out': 16,
  inspect: 3,
  weld: 24,
  'join-section': 50,
  'chase-metal': 120,
  patina: 64,
  'final-inspection': 4,
  'inspect-raw': 4,
  deliver: 90,
  'approve-wax': 22,
};

/** What is recorded for several at once, with the same readings: a tray of dips, a row of tests. */
const TOGETHER: ReadonlySet<string> = new Set(['coat', 'leak-test', 'inspect', 'wax-buff']);
const TRAY = 14;

/** A step that can be done now, and whose. */
interface Ready {
  readonly piece: PlayedPiece;
  readonly step: NextStep;
  readonly stands: PieceStands;
}

/** Steps of one work that are recorded together. */
interface Tray {
  readonly workId: Id;
  readonly said: Omit<RecordMany, 'steps'>;
  readonly stepIds: Id[];
}

/** The benches of all rooms: what can be done now is done and written down. */
export class Bench {
  constructor(private readonly stage: Stage) {}

  /** One round of the benches: each piece's steps that can be done now. */
  round(): void {
    const { shop, pieces } = this.stage;
    this.makeMoulds();
    const standing = this.stage.standing();
    const trays = new Map<string, Tray>();
    const found = new Map<Id, Ready>();
    for (const piece of pieces) {
      const stands = standing.get(piece.id);
      if (!stands || piece.begins > shop.now) continue;
      for (const step of stands.next) {
        // Pieces on one tree share its steps.
        if (found.has(step.stepId) || kindOf(step.kind).through || !this.stage.ready(step)) continue;
        if (this.isLeft(piece, step, stands) || !this.isBenchDone(step)) continue;
        found.set(step.stepId, { piece, step, stands });
      }
    }
    for (const each of found.values()) this.record(each, trays);
    for (const { workId, said, stepIds } of trays.values())
      for (let start = 0; start < stepIds.length; start += TRAY)
        this.recordTray(workId, said, stepIds.slice(start, start + TRAY));
  }

  private recordTray(workId: Id, said: Tray['said'], stepIds: readonly Id[]): void {
    this.stage.shop.onWork(workId, said.by[0]!, (index, doing) => {
      const steps = stepIds.map((id) => index.step.get(id)!);
      return recordMany(index, steps, { ...said, steps }, doing);
    });
  }

  private isBenchDone(step: NextStep): boolean {
    const hours = BENCH_HOURS[step.kind] ?? 0;
    return step.readyAt === null || Date.parse(this.stage.shop.now) - Date.parse(step.readyAt) >= hours * 3_600_000;
  }

  private isLeft(piece: PlayedPiece, step: NextStep, stands: PieceStands): boolean {
    return LEFT_ALONE.some(
      (left) =>
        left.work === piece.work &&
        left.piece === piece.number &&
        left.kind === step.kind &&
        (!left.section || left.section === stands.sectionOf(step.stepId)),
    );
  }

  /** Writes the step down, or lays it on the tray it is recorded with. */
  private record({ piece, step, stands }: Ready, trays: Map<string, Tray>): void {
    const { stage } = this;
    const { shop } = stage;
    const now = shop.work(piece.workId).step.get(step.stepId)!;
    // Mallets that were joined to another tree in this round have no joining of their own any more.
    if (now.state !== 'planned') return;
    const trouble = stage.trouble(piece, step.kind, stands.sectionOf(step.stepId));
    const readings = { ...readingsOf(stage, piece, step, now.sequence), ...trouble?.readings };
    const pulled = step.kind === 'pull';
    if (pulled && !readings['mouldId']) return;
    const person = stage.person[personOf(step.room)];
    const said: Tray['said'] = {
      outcome: trouble?.outcome ?? kindOf(step.kind).outcomes[0]!.code,
      startedAt: pulled ? shop.now : null,
      endedAt: pulled ? stage.after(25) : shop.now,
      by: [person],
      readings,
      note: trouble?.note ?? '',
    };
    if (TOGETHER.has(step.kind) && !trouble) {
      const key = JSON.stringify([piece.workId, step.kind, readings]);
      const tray = trays.get(key) ?? { workId: piece.workId, said, stepIds: [] };
      trays.set(key, tray);
      tray.stepIds.push(step.stepId);
      return;
    }
    const before = shop.now;
    shop.now = said.endedAt;
    try {
      shop.onWork(piece.workId, person, (index, doing) =>
        recordStep(index, index.step.get(step.stepId)!, { ...said, version: now.version }, doing),
      );
    } catch (error) {
      // A mould holds one wax at a time: the next round takes it.
      if (!/in use/.test((error as Error).message)) throw error;
    } finally {
      shop.now = before;
    }
  }

  private makeMoulds(): void {
    const { shop, pieces, person } = this.stage;
    for (const workId of shop.workIds) {
      const first = pieces
        .filter((piece) => piece.workId === workId)
        .map(({ begins }) => begins)
        .sort()[0];
      if (!first || Date.parse(first) - Date.parse(shop.now) > 5 * 86_400_000) continue;
      const index = shop.work(workId);
      const { code } = index.work.get(workId)!;
      const making = index.shop.steps.filter(({ kind, state }) => kind === 'make-mould' && state === 'planned');
      for (const { id } of making)
        shop.onWork(workId, person.petra, (now, doing) =>
          recordStep(
            now,
            now.step.get(id)!,
            {
              version: 1,
              outcome: 'done',
              startedAt: null,
              endedAt: shop.now,
              by: [person.petra],
              note: '',
              readings: { rubberKg: 4.2, parts: 2, lifePulls: code === 'MAL' ? 60 : 80 },
            },
            doing,
          ),
        );
    }
  }
}
