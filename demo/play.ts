import type { Id, Instant, NextStep, PieceProjection, StepKindCode } from '@kalvet/core';
import { STEP_KINDS, chance } from '@kalvet/core';
import { DateTime } from 'luxon';
import { addPerson } from '../server/src/people/people.service.ts';
import { planLoad } from '../server/src/burnout/load.service.ts';
import { confirmCrew, finishHeat, planHeat, pourTree } from '../server/src/pour/heat.service.ts';
import { recordStep } from '../server/src/route/step.service.ts';
import { changePiece, hold } from '../server/src/work/piece.service.ts';
import { setUpWork } from '../server/src/work/work.service.ts';
import { newId } from '../server/src/write/context.ts';
import type { Store } from '../server/src/write/context.ts';
import { HOLD, LEFT_ALONE, PEOPLE, TROUBLES, WORKS, personOf } from './foundry.ts';
import type { PersonKey, Trouble } from './foundry.ts';
import { Hand } from './hand.ts';

const ZONE = 'Europe/London';
const SLOTS = ['08:20', '09:30', '10:40', '11:50', '13:20', '14:30', '15:40'];
const DAYS = 66;

/** What takes its time at the bench before it is written down as done, in hours since the step before. */
const BENCH_HOURS: Partial<Record<StepKindCode, number>> = {
  'chase-wax': 4,
  'join-tree': 20,
  'leak-test': 2,
  'knock-out': 16,
  inspect: 3,
  weld: 24,
  'join-section': 30,
  'chase-metal': 70,
  patina: 40,
  'final-inspection': 4,
  deliver: 60,
  'approve-wax': 26,
};

interface PlayedPiece {
  readonly id: Id;
  readonly work: string;
  readonly number: number;
  readonly begins: Instant;
  readonly recipe: string;
}

/** Plays some weeks of work up to now, so that every record has its history. Gives how many pieces were begun. */
export async function play(store: Store, now: Instant): Promise<number> {
  return new Play(store, now).run();
}

class Play {
  private readonly hand: Hand;
  private readonly random = chance(1907);
  private readonly person = {} as Record<PersonKey, Id>;
  private readonly pieces: PlayedPiece[] = [];
  private readonly done = new Set<Trouble>();
  private held = false;
  private readonly today: DateTime;

  constructor(
    store: Store,
    private readonly end: Instant,
  ) {
    this.hand = new Hand(store);
    this.today = DateTime.fromISO(end, { zone: ZONE }).startOf('day');
  }

  async run(): Promise<number> {
    this.hand.now = this.at(DAYS, '07:30');
    await this.setUp();
    for (let back = DAYS - 1; back >= 0; back--) {
      const day = this.today.minus({ days: back });
      if (day.weekday > 5) continue;
      if (!(await this.moment(this.at(back, '08:00'), () => this.fire(this.at(back, '14:10'))))) break;
      for (const slot of SLOTS) if (!(await this.moment(this.at(back, slot), () => this.work()))) break;
      if (day.weekday === 5) await this.moment(this.at(back, '13:00'), () => this.pour());
    }
    return this.pieces.length;
  }

  private at(daysAgo: number, time: string): Instant {
    const [hour, minute] = time.split(':').map(Number);
    return this.today.minus({ days: daysAgo }).set({ hour: hour!, minute: minute! }).toUTC().toISO()!;
  }

  /** False where the moment lies ahead of now. */
  private async moment(now: Instant, act: () => Promise<void>): Promise<boolean> {
    if (now > this.end) return false;
    this.hand.now = now;
    await act();
    return true;
  }

  private async setUp(): Promise<void> {
    for (const { key, name, shortName, mayOverride } of PEOPLE) {
      const id = newId(Date.parse(this.hand.now));
      this.person[key] = id;
      await this.hand.write(null, (ctx) => addPerson(ctx, { id, name, shortName, mayOverride }));
    }
    for (const { begun, due, recipe, ...work } of WORKS) {
      const { pieceIds } = await this.hand.write(this.person.ines, (ctx) =>
        setUpWork(ctx, { ...work, id: newId(), dueDate: null }),
      );
      for (const [i, id] of pieceIds.entries()) {
        const days = due[i];
        if (days !== undefined && days !== null) {
          const dueDate = this.today.plus({ days }).toISODate()!;
          await this.hand.write(this.person.ines, (ctx) => changePiece(ctx, id, { version: 1, dueDate }));
        }
        if (begun[i] !== undefined)
          this.pieces.push({
            id,
            work: work.code,
            number: i + 1,
            begins: this.at(begun[i], '08:00'),
            recipe,
          });
      }
    }
  }

  /** One round of the benches: each piece's steps that can be done now. */
  private async work(): Promise<void> {
    await this.makeMoulds();
    await this.holdOne();
    const standing = await this.hand.pieces();
    for (const piece of this.pieces) {
      if (piece.begins > this.hand.now) continue;
      for (const step of standing.get(piece.id)?.next ?? []) {
        if (
          STEP_KINDS[step.kind].through ||
          !this.hand.ready(step) ||
          this.isLeft(piece, step, standing.get(piece.id)!)
        )
          continue;
        if (!this.isBenchDone(step)) continue;
        await this.record(piece, step, standing.get(piece.id)!);
      }
    }
  }

  private isBenchDone(step: NextStep): boolean {
    const hours = BENCH_HOURS[step.kind] ?? 0;
    return step.readyAt === null || Date.parse(this.hand.now) - Date.parse(step.readyAt) >= hours * 3_600_000;
  }

  private sectionOf(standing: PieceProjection, step: NextStep): string | undefined {
    return standing.sections.find(({ nextStepId }) => nextStepId === step.stepId)?.name;
  }

  private isLeft(piece: PlayedPiece, step: NextStep, standing: PieceProjection): boolean {
    return LEFT_ALONE.some(
      (left) =>
        left.work === piece.work &&
        left.piece === piece.number &&
        left.kind === step.kind &&
        (!left.section || left.section === this.sectionOf(standing, step)),
    );
  }

  /** The trouble that happens at this step, once. */
  private trouble(piece: PlayedPiece, kind: string, section: string | undefined): Trouble | undefined {
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

  private async record(piece: PlayedPiece, step: NextStep, standing: PieceProjection): Promise<void> {
    // Another piece on the same tree may have had it done already.
    const [row] = await this.hand.select<{ state: string; version: number; sequence: number }>(
      'SELECT state, version, sequence FROM step WHERE id = ?',
      [step.stepId],
    );
    if (row?.state !== 'planned') return;
    const trouble = this.trouble(piece, step.kind, this.sectionOf(standing, step));
    const readings = { ...(await this.readings(piece, step, row.sequence)), ...trouble?.readings };
    if (step.kind === 'pull' && !readings['mouldId']) return;
    const person = this.person[personOf(step.room)];
    const outcome = trouble?.outcome ?? STEP_KINDS[step.kind].outcomes[0]!.code;
    const startedAt = step.kind === 'pull' ? this.hand.now : null;
    const endedAt = step.kind === 'pull' ? this.after(25) : this.hand.now;
    const said = {
      version: row.version,
      outcome,
      startedAt,
      endedAt,
      by: [person],
      readings,
      note: trouble?.note ?? '',
    };
    const now = this.hand.now;
    this.hand.now = endedAt;
    await this.hand
      .write(person, (ctx) => recordStep(ctx, step.stepId, said))
      .catch((error: Error) => {
        // A mould holds one wax at a time: the next round takes it.
        if (!/in use/.test(error.message)) throw error;
      });
    this.hand.now = now;
  }

  private after(minutes: number): Instant {
    return new Date(Date.parse(this.hand.now) + minutes * 60_000).toISOString();
  }

  private async readings(piece: PlayedPiece, step: NextStep, sequence: number): Promise<Record<string, unknown>> {
    const near = (value: number, share: number) => value * (1 + (this.random() - 0.5) * 2 * share);
    const round = (value: number, decimals: number) => Number(value.toFixed(decimals));
    switch (step.kind) {
      case 'pull':
        return {
          mouldId: await this.mouldFor(step.carrierId),
          wax: 'pattern',
          potC: Math.round(near(82, 0.04)),
        };
      case 'chase-wax':
        return { waxKg: round(near(await this.expectedWax(step.carrierId), 0.06), 3), markPutIn: true };
      case 'approve-wax':
        return { by: 'the artist, on a visit', shown: 'chased wax, three photographs' };
      case 'join-tree': {
        const castIds = await this.castsToJoin(step.carrierId);
        return {
          castIds,
          bars: [
            { stock: 'S12', count: 2 + castIds.length, lengthMm: 160 },
            { stock: 'R8', count: 2 * castIds.length, lengthMm: 140 },
          ],
          cup: true,
        };
      }
      case 'coat':
        return {
          slurry: sequence <= 2 ? 'face' : 'backup',
          stucco: step.name.startsWith('Seal') ? 'none' : sequence <= 2 ? 'fine' : sequence <= 4 ? 'medium' : 'coarse',
          roomC: round(near(22, 0.03), 1),
          roomRh: Math.round(near(50, 0.08)),
        };
      case 'invest':
        return { blockKg: 160 };
      case 'leak-test':
        return { how: 'light' };
      case 'knock-out':
        return this.weighed(step.carrierId, near);
      case 'patina':
        return { recipe: piece.recipe };
      case 'final-inspection':
        return { finishedKg: round(near(await this.castWeight(piece.id), 0.01), 2) };
      case 'deliver':
        return { toWhom: 'the client’s carrier' };
      default:
        return {};
    }
  }

  private async mouldFor(castId: Id): Promise<Id | undefined> {
    const [row] = await this.hand.select<{ id: Id }>(
      "SELECT m.id FROM mould m JOIN mould_section s ON s.mouldId = m.id JOIN cast_ c ON c.sectionId = s.sectionId WHERE c.id = ? AND m.state = 'good'",
      [castId],
    );
    return row?.id;
  }

  private async expectedWax(castId: Id): Promise<number> {
    const [row] = await this.hand.select<{ kg: number }>(
      'SELECT s.expectedWaxKg AS kg FROM section s JOIN cast_ c ON c.sectionId = s.id WHERE c.id = ?',
      [castId],
    );
    return row!.kg;
  }

  /** Mallets go three to a tree; everything else hangs alone. */
  private async castsToJoin(treeId: Id): Promise<Id[]> {
    const own = await this.hand.castsOn(treeId);
    const others = await this.hand.select<{ id: Id }>(
      `SELECT c.id FROM cast_ c JOIN piece p ON p.id = c.pieceId JOIN work w ON w.id = p.workId
         JOIN tree_cast m ON m.castId = c.id AND m.until IS NULL JOIN tree t ON t.id = m.treeId AND t.state = 'planned'
         JOIN step s ON s.castId = c.id AND s.kind = 'chase-wax' AND s.state = 'done'
        WHERE w.code = 'MAL' AND c.state = 'wax' AND t.id <> ? AND EXISTS (SELECT 1 FROM tree_cast o JOIN cast_ oc ON oc.id = o.castId
          JOIN piece op ON op.id = oc.pieceId WHERE o.treeId = ? AND op.workId = w.id) ORDER BY p.number LIMIT 2`,
      [treeId, treeId],
    );
    return [...own, ...others.map(({ id }) => id)];
  }

  private async weighed(treeId: Id, near: (value: number, share: number) => number): Promise<Record<string, unknown>> {
    const rows = await this.hand.select<{ castId: Id; waxKg: number; alloyId: string }>(
      `SELECT m.castId, (SELECT w.kg FROM weight w WHERE w.castId = m.castId AND w.of = 'wax' ORDER BY w.at DESC LIMIT 1) AS waxKg, t.alloyId
         FROM tree_cast m JOIN tree t ON t.id = m.treeId WHERE m.treeId = ? AND m.until IS NULL`,
      [treeId],
    );
    const castKg = Object.fromEntries(
      rows.map(({ castId, waxKg, alloyId }) => [
        castId,
        Number((waxKg * near(alloyId === 'C90500' ? 8.95 : 8.5, 0.012)).toFixed(2)),
      ]),
    );
    return { castKg, returnsKg: Number(near(4.4, 0.1).toFixed(1)) };
  }

  private async castWeight(pieceId: Id): Promise<number> {
    const rows = await this.hand.select<{ kg: number }>(
      "SELECT w.kg FROM weight w JOIN cast_ c ON c.id = w.castId WHERE c.pieceId = ? AND w.of = 'cast' AND c.state = 'metal'",
      [pieceId],
    );
    return rows.reduce((sum, { kg }) => sum + kg, 0);
  }

  private async makeMoulds(): Promise<void> {
    const rows = await this.hand.select<{ id: Id; code: string }>(
      "SELECT s.id, w.code FROM step s JOIN mould m ON m.id = s.mouldId JOIN work w ON w.id = m.workId WHERE s.kind = 'make-mould' AND s.state = 'planned'",
      [],
    );
    for (const { id, code } of rows) {
      const first = this.pieces
        .filter(({ work }) => work === code)
        .map(({ begins }) => begins)
        .sort()[0];
      if (!first || Date.parse(first) - Date.parse(this.hand.now) > 5 * 86_400_000) continue;
      const said = {
        version: 1,
        outcome: 'done',
        startedAt: null,
        endedAt: this.hand.now,
        by: [this.person.petra],
        note: '',
      };
      const lifePulls = code === 'MAL' ? 60 : 80;
      await this.hand.write(this.person.petra, (ctx) =>
        recordStep(ctx, id, { ...said, readings: { rubberKg: 4.2, parts: 2, lifePulls } }),
      );
    }
  }

  private async holdOne(): Promise<void> {
    if (this.held || this.hand.now < this.at(HOLD.daysAgo, '08:00')) return;
    const piece = this.pieces.find(({ work, number }) => work === HOLD.work && number === HOLD.piece);
    const [row] = await this.hand.select<{ version: number; state: string }>(
      'SELECT version, state FROM piece WHERE id = ?',
      [piece!.id],
    );
    if (row?.state !== 'in work') return;
    this.held = true;
    const until = this.today.plus({ days: HOLD.untilDays }).toISODate();
    await this.hand.write(this.person.ines, (ctx) =>
      hold(ctx, piece!.id, { version: row.version, reason: HOLD.reason, until }),
    );
  }

  /** Trees whose next step is of one of the kinds and can be done now, without those no hand goes on with. */
  private async trees(kinds: readonly string[]): Promise<{ treeId: Id; kind: string; pieces: PlayedPiece[] }[]> {
    const standing = await this.hand.pieces();
    const found = new Map<Id, { treeId: Id; kind: string; pieces: PlayedPiece[] }>();
    for (const piece of this.pieces) {
      for (const step of standing.get(piece.id)?.next ?? []) {
        if (!kinds.includes(step.kind) || !this.hand.ready(step)) continue;
        const tree = found.get(step.carrierId) ?? { treeId: step.carrierId, kind: step.kind, pieces: [] };
        tree.pieces.push(piece);
        found.set(step.carrierId, tree);
      }
    }
    return [...found.values()];
  }

  /** The morning's load: shells together, blocks by themselves. */
  private async fire(endedAt: Instant): Promise<void> {
    if (endedAt > this.end) return;
    const startedAt = this.hand.now;
    const waiting = await this.trees(['fire', 'refire', 'fire-block']);
    for (const block of [false, true]) {
      const trees = waiting.filter(({ kind }) => (kind === 'fire-block') === block).slice(0, 12);
      if (trees.length === 0) continue;
      // Shells are fired when the kiln is worth it; two trees will do towards the end of the week.
      if (!block && trees.length < 2 && DateTime.fromISO(startedAt, { zone: ZONE }).weekday < 4) continue;
      this.hand.now = endedAt;
      const record = {
        startedAt,
        endedAt,
        by: [this.person.oskar],
        profile: block ? 'block, 4 d' : '930 °C, 1 h 40',
        topC: block ? 690 : 930,
        note: '',
        lost: [],
      };
      await this.hand.write(this.person.oskar, (ctx) =>
        planLoad(ctx, { id: newId(), treeIds: trees.map(({ treeId }) => treeId), record }),
      );
      this.hand.now = startedAt;
    }
  }

  /** Friday's pour: a heat for each alloy, as full as the crucible takes. */
  private async pour(): Promise<void> {
    const waiting = await this.trees(['pour']);
    const standing = await this.hand.pieces();
    for (const alloyId of ['C87300', 'C90500']) {
      const rows = await this.hand.select<{ id: Id; kg: number | null }>(
        "SELECT t.id, JSON_VALUE(p.data, '$.pourKg') + 0 AS kg FROM tree t JOIN projection p ON p.id = t.id WHERE t.alloyId = ? AND t.id IN (?)",
        [alloyId, waiting.length > 0 ? waiting.map(({ treeId }) => treeId) : ['']],
      );
      const chosen: { treeId: Id; kg: number }[] = [];
      for (const { id, kg } of rows) {
        const sum = chosen.reduce((total, tree) => total + tree.kg, 0);
        if (kg !== null && sum + kg < 114) chosen.push({ treeId: id, kg });
      }
      if (chosen.length > 0) await this.heat(alloyId, chosen, waiting, standing);
    }
  }

  private async heat(
    alloyId: string,
    trees: readonly { treeId: Id; kg: number }[],
    waiting: readonly { treeId: Id; pieces: PlayedPiece[] }[],
    standing: Map<Id, PieceProjection>,
  ): Promise<void> {
    const id = newId();
    const { tomas, ines } = this.person;
    const total = trees.reduce((sum, { kg }) => sum + kg, 2) / 0.98;
    const returns = Math.floor(total * 0.4);
    const line = (what: 'ingot' | 'returns', kg: number) => ({
      what,
      alloyId,
      kg: Number(kg.toFixed(1)),
      lot: what === 'ingot' ? 'MQ-204' : '',
      dry: true,
    });
    const chargeLines = [line('ingot', total - returns), line('returns', returns)].filter(({ kg }) => kg > 0);
    await this.hand.write(ines, (ctx) =>
      planHeat(ctx, {
        id,
        alloyId,
        plannedFor: this.hand.now,
        trees: trees.map(({ treeId }) => ({ treeId })),
        chargeLines,
      }),
    );
    await this.hand.write(tomas, (ctx) => confirmCrew(ctx, id, { version: 1, leadId: tomas, coverConfirmed: true }));
    const start = this.hand.now;
    for (const [i, { treeId, kg }] of trees.entries()) {
      this.hand.now = new Date(Date.parse(start) + (i + 1) * 6 * 60_000).toISOString();
      const pieces = waiting.find((tree) => tree.treeId === treeId)?.pieces ?? [];
      const trouble = pieces
        .map((piece) =>
          this.trouble(
            piece,
            'pour',
            standing
              .get(piece.id)!
              .sections.find((each) =>
                standing
                  .get(piece.id)!
                  .next.some((next) => next.stepId === each.nextStepId && next.carrierId === treeId),
              )?.name,
          ),
        )
        .find(Boolean);
      const [heat] = await this.hand.select<{ version: number }>('SELECT version FROM heat WHERE id = ?', [id]);
      const poured = Number((kg * (trouble ? 0.8 : 1)).toFixed(1));
      const readings = {
        pouredKg: poured,
        metalC: 1165 - i * 9,
        tempWhere: 'cup',
        seconds: Number((5 + kg / 6).toFixed(1)),
        vents: !trouble,
      };
      await this.hand.write(tomas, (ctx) =>
        pourTree(ctx, id, {
          version: heat!.version,
          treeId,
          outcome: trouble?.outcome ?? 'poured',
          startedAt: null,
          endedAt: this.hand.now,
          by: [tomas, ines],
          readings,
          note: trouble?.note ?? '',
        }),
      );
    }
    this.hand.now = new Date(Date.parse(start) + 90 * 60_000).toISOString();
    const [heat] = await this.hand.select<{ version: number }>('SELECT version FROM heat WHERE id = ?', [id]);
    await this.hand.write(tomas, (ctx) =>
      finishHeat(ctx, id, {
        version: heat!.version,
        endedAt: this.hand.now,
        by: [tomas],
        pigKg: 1.8,
        note: '',
      }),
    );
    this.hand.now = start;
  }
}
