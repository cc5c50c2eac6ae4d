import type { Id, NextStep, PieceProjection, RecordMany, StepKindCode } from '@kalvet/core';
import { STEP_KINDS } from '@kalvet/core';
import { recordMany } from '../server/src/route/record-many.service.ts';
import { recordStep } from '../server/src/route/step.service.ts';
import { LEFT_ALONE, personOf } from './foundry.ts';
import { readingsOf } from './readings.ts';
import type { PlayedPiece, Stage } from './stage.ts';

/** What takes its time at the bench before it is written down as done, in hours since the step before. */
const BENCH_HOURS: Partial<Record<StepKindCode, number>> = {
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
  deliver: 90,
  'approve-wax': 22,
};

/** What is recorded for several at once, with the same readings: a tray of dips, a row of tests. */
const TOGETHER: ReadonlySet<StepKindCode> = new Set(['coat', 'leak-test', 'inspect', 'wax-buff']);
const TRAY = 14;

/** A step that can be done now, and whose. */
interface Ready {
  readonly piece: PlayedPiece;
  readonly step: NextStep;
  readonly stands: PieceProjection;
}

interface Row {
  readonly id: Id;
  readonly version: number;
  readonly sequence: number;
}

/** The benches of all rooms: what can be done now is done and written down. */
export class Bench {
  constructor(private readonly stage: Stage) {}

  /** One round of the benches: each piece's steps that can be done now. */
  async round(): Promise<void> {
    const { hand, pieces } = this.stage;
    await this.makeMoulds();
    const standing = await hand.pieces();
    const trays = new Map<string, RecordMany>();
    const found = new Map<Id, Ready>();
    for (const piece of pieces) {
      if (piece.begins > hand.now) continue;
      const stands = standing.get(piece.id)!;
      for (const step of stands.next) {
        // Pieces on one tree share its steps.
        if (found.has(step.stepId) || STEP_KINDS[step.kind].through || !hand.ready(step)) continue;
        if (this.isLeft(piece, step, stands) || !this.isBenchDone(step)) continue;
        found.set(step.stepId, { piece, step, stands });
      }
    }
    if (found.size === 0) return;
    const rows = await hand.select<Row>('SELECT id, version, sequence FROM step WHERE id IN (?)', [[...found.keys()]]);
    for (const row of rows.sort((a, b) => order(found, a) - order(found, b)))
      await this.record(found.get(row.id)!, row, trays);
    for (const tray of trays.values())
      for (let start = 0; start < tray.steps.length; start += TRAY)
        await hand.write(tray.by[0]!, (ctx) =>
          recordMany(ctx, { ...tray, steps: tray.steps.slice(start, start + TRAY) }),
        );
  }

  private isBenchDone(step: NextStep): boolean {
    const hours = BENCH_HOURS[step.kind] ?? 0;
    return step.readyAt === null || Date.parse(this.stage.hand.now) - Date.parse(step.readyAt) >= hours * 3_600_000;
  }

  private isLeft(piece: PlayedPiece, step: NextStep, standing: PieceProjection): boolean {
    return LEFT_ALONE.some(
      (left) =>
        left.work === piece.work &&
        left.piece === piece.number &&
        left.kind === step.kind &&
        (!left.section || left.section === sectionOf(standing, step)),
    );
  }

  /** Writes the step down, or lays it on the tray it is recorded with. */
  private async record({ piece, step, stands }: Ready, row: Row, trays: Map<string, RecordMany>): Promise<void> {
    const { stage } = this;
    const { hand } = stage;
    // Mallets that were joined to another tree in this round have no joining of their own any more.
    if (step.kind === 'join-tree' && !(await this.isPlanned(row.id))) return;
    const trouble = stage.trouble(piece, step.kind, sectionOf(stands, step));
    const readings = { ...(await readingsOf(stage, piece, step, row.sequence)), ...trouble?.readings };
    if (step.kind === 'pull' && !readings['mouldId']) return;
    const person = stage.person[personOf(step.room)];
    const pulled = step.kind === 'pull';
    const said = {
      outcome: trouble?.outcome ?? STEP_KINDS[step.kind].outcomes[0]!.code,
      startedAt: pulled ? hand.now : null,
      endedAt: pulled ? stage.after(25) : hand.now,
      by: [person],
      readings,
      note: trouble?.note ?? '',
    };
    if (TOGETHER.has(step.kind) && !trouble) {
      const key = JSON.stringify([step.kind, readings]);
      const tray = trays.get(key) ?? { ...said, steps: [] };
      trays.set(key, { ...tray, steps: [...tray.steps, { id: step.stepId, version: row.version }] });
      return;
    }
    const { now } = hand;
    hand.now = said.endedAt;
    await hand
      .write(person, (ctx) => recordStep(ctx, step.stepId, { ...said, version: row.version }))
      .catch((error: Error) => {
        // A mould holds one wax at a time: the next round takes it.
        if (!/in use/.test(error.message)) throw error;
      });
    hand.now = now;
  }

  private async isPlanned(stepId: Id): Promise<boolean> {
    const [row] = await this.stage.hand.select<{ state: string }>('SELECT state FROM step WHERE id = ?', [stepId]);
    return row?.state === 'planned';
  }

  private async makeMoulds(): Promise<void> {
    const { hand, pieces, person } = this.stage;
    const rows = await hand.select<{ id: Id; code: string }>(
      "SELECT s.id, w.code FROM step s JOIN mould m ON m.id = s.mouldId JOIN work w ON w.id = m.workId WHERE s.kind = 'make-mould' AND s.state = 'planned'",
      [],
    );
    for (const { id, code } of rows) {
      const first = pieces
        .filter(({ work }) => work === code)
        .map(({ begins }) => begins)
        .sort()[0];
      if (!first || Date.parse(first) - Date.parse(hand.now) > 5 * 86_400_000) continue;
      const lifePulls = code === 'MAL' ? 60 : 80;
      await hand.write(person.petra, (ctx) =>
        recordStep(ctx, id, {
          version: 1,
          outcome: 'done',
          startedAt: null,
          endedAt: hand.now,
          by: [person.petra],
          note: '',
          readings: { rubberKg: 4.2, parts: 2, lifePulls },
        }),
      );
    }
  }
}

const order = (found: ReadonlyMap<Id, Ready>, { id }: Row): number => [...found.keys()].indexOf(id);

const sectionOf = (standing: PieceProjection, step: NextStep): string | undefined =>
  standing.sections.find(({ nextStepId }) => nextStepId === step.stepId)?.name;
