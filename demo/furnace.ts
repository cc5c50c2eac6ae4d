import type { Id, Instant, PieceProjection } from '@kalvet/core';
import { DateTime } from 'luxon';
import { planLoad } from '../server/src/burnout/load.service.ts';
import { confirmCrew } from '../server/src/pour/crew.service.ts';
import { finishHeat, planHeat, pourTree } from '../server/src/pour/heat.service.ts';
import { newId } from '../server/src/write/context.ts';
import type { PlayedPiece, Stage } from './stage.ts';
import { ZONE } from './stage.ts';

/** What the demo's heats are filled up to, kg: the crucible's usable mark less the pig and what is lost in the melt. */
const FULL_KG = 114;
const WEDNESDAY = 3;
const BLOCK_DAYS = 4;
const KILN_PLACES = 12;

interface WaitingTree {
  readonly treeId: Id;
  readonly kind: string;
  readonly pieces: PlayedPiece[];
}

/** The kiln in the morning, the furnace on Thursdays, and the next pour as far as it can be planned. */
export class Furnace {
  constructor(private readonly stage: Stage) {}

  /** Trees whose next step is of one of the kinds; only those that can have it now, unless said otherwise. */
  private async trees(kinds: readonly string[], readyNow = true): Promise<WaitingTree[]> {
    const { hand, pieces } = this.stage;
    const standing = await hand.pieces();
    const found = new Map<Id, WaitingTree>();
    for (const piece of pieces) {
      for (const step of standing.get(piece.id)?.next ?? []) {
        if (!kinds.includes(step.kind) || (readyNow && !hand.ready(step))) continue;
        const tree = found.get(step.carrierId) ?? { treeId: step.carrierId, kind: step.kind, pieces: [] };
        tree.pieces.push(piece);
        found.set(step.carrierId, tree);
      }
    }
    return [...found.values()];
  }

  /** The morning's load of shells: when the kiln is worth it, and the day before the pour in any case. */
  async fire(endedAt: Instant): Promise<void> {
    const { hand, end } = this.stage;
    if (endedAt > end) return;
    const trees = await this.trees(['fire', 'refire']);
    const { weekday } = DateTime.fromISO(hand.now, { zone: ZONE });
    if (trees.length < (weekday === WEDNESDAY ? 1 : 3)) return;
    await this.load(trees, hand.now, endedAt, '930 °C, 1 h 40', 930);
  }

  /** On the pour day's morning: the blocks that went into the kiln four days before come out of it. */
  async drawBlocks(): Promise<void> {
    const { hand } = this.stage;
    const drawn = hand.now;
    const begun = new Date(Date.parse(drawn) - BLOCK_DAYS * 86_400_000).toISOString();
    hand.now = begun;
    const trees = await this.trees(['fire-block']);
    if (trees.length > 0) await this.load(trees, begun, drawn, 'block, 4 d', 690);
    hand.now = drawn;
  }

  private async load(
    trees: readonly WaitingTree[],
    startedAt: Instant,
    endedAt: Instant,
    profile: string,
    topC: number,
  ): Promise<void> {
    const { hand, person } = this.stage;
    const { now } = hand;
    hand.now = endedAt;
    const record = { startedAt, endedAt, by: [person.oskar], profile, topC, note: '', lost: [] };
    const treeIds = trees.slice(0, KILN_PLACES).map(({ treeId }) => treeId);
    await hand.write(person.oskar, (ctx) => planLoad(ctx, { id: newId(), treeIds, record }));
    hand.now = now;
  }

  /** A heat, as full as the crucible takes, the trees that wait longest first; nothing where nothing waits. */
  async pour(alloyId: string): Promise<void> {
    const waiting = await this.trees(['pour']);
    const trees = await this.chosen(alloyId, waiting);
    if (trees.length > 0) await this.heat(alloyId, trees, waiting, await this.stage.hand.pieces());
  }

  /** The next pour day's heat as it is known by now: what is fired, or nearly. */
  async planNext(): Promise<void> {
    const { hand, person, today, end } = this.stage;
    let day = today.set({ hour: 13 });
    while (day.weekday !== WEDNESDAY + 1 || day.toUTC().toISO()! <= end) day = day.plus({ days: 1 });
    let trees = await this.chosen('C87300', await this.trees(['leak-test', 'pour'], false));
    if (trees.length === 0) trees = await this.chosen('C87300', await this.trees(['fire', 'coat'], false));
    if (trees.length === 0) return;
    await hand.write(person.ines, (ctx) =>
      planHeat(ctx, {
        id: newId(),
        alloyId: 'C87300',
        plannedFor: day.toUTC().toISO()!,
        trees: trees.map(({ treeId }) => ({ treeId })),
        chargeLines: chargeOf('C87300', trees),
      }),
    );
  }

  private async chosen(alloyId: string, waiting: readonly WaitingTree[]): Promise<{ treeId: Id; kg: number }[]> {
    const rows = await this.stage.hand.select<{ id: Id; kg: number | null }>(
      "SELECT t.id, JSON_VALUE(p.data, '$.pourKg') + 0 AS kg FROM tree t JOIN projection p ON p.id = t.id WHERE t.alloyId = ? AND t.id IN (?) ORDER BY p.tooOldAt",
      [alloyId, waiting.length > 0 ? waiting.map(({ treeId }) => treeId) : ['']],
    );
    const chosen: { treeId: Id; kg: number }[] = [];
    for (const { id, kg } of rows) {
      const sum = chosen.reduce((total, tree) => total + tree.kg, 0);
      if (kg !== null && sum + kg < FULL_KG) chosen.push({ treeId: id, kg });
    }
    return chosen;
  }

  private async heat(
    alloyId: string,
    trees: readonly { treeId: Id; kg: number }[],
    waiting: readonly WaitingTree[],
    standing: Map<Id, PieceProjection>,
  ): Promise<void> {
    const { stage } = this;
    const { hand } = stage;
    const { tomas, ines } = stage.person;
    const id = newId();
    await hand.write(ines, (ctx) =>
      planHeat(ctx, {
        id,
        alloyId,
        plannedFor: hand.now,
        trees: trees.map(({ treeId }) => ({ treeId })),
        chargeLines: chargeOf(alloyId, trees),
      }),
    );
    await hand.write(tomas, (ctx) =>
      confirmCrew(ctx, id, {
        version: 1,
        crew: [
          { role: 'lead', personId: tomas, deputyId: null },
          { role: 'second', personId: ines, deputyId: stage.person.oskar },
          { role: 'skimmer', personId: stage.person.hanne, deputyId: null },
        ],
        signs: 'by hand',
        coverConfirmed: true,
      }),
    );
    const start = hand.now;
    for (const [i, { treeId, kg }] of trees.entries()) {
      hand.now = new Date(Date.parse(start) + (i + 1) * 6 * 60_000).toISOString();
      const pieces = waiting.find((tree) => tree.treeId === treeId)?.pieces ?? [];
      const trouble = pieces
        .map((piece) => stage.trouble(piece, 'pour', sectionOn(standing.get(piece.id)!, treeId)))
        .find(Boolean);
      const readings = {
        pouredKg: Number((kg * (trouble ? 0.8 : 1)).toFixed(1)),
        metalC: 1165 - i * 9,
        tempWhere: 'cup',
        seconds: Number((5 + kg / 6).toFixed(1)),
        vents: !trouble,
      };
      const version = await this.heatVersion(id);
      await hand.write(tomas, (ctx) =>
        pourTree(ctx, id, {
          version,
          treeId,
          outcome: trouble?.outcome ?? 'poured',
          startedAt: null,
          endedAt: hand.now,
          by: [tomas, ines],
          readings,
          note: trouble?.note ?? '',
        }),
      );
    }
    hand.now = new Date(Date.parse(start) + 90 * 60_000).toISOString();
    const version = await this.heatVersion(id);
    await hand.write(tomas, (ctx) =>
      finishHeat(ctx, id, { version, endedAt: hand.now, by: [tomas], pigKg: 1.8, note: '' }),
    );
    hand.now = start;
  }

  private async heatVersion(id: Id): Promise<number> {
    const [heat] = await this.stage.hand.select<{ version: number }>('SELECT version FROM heat WHERE id = ?', [id]);
    return heat!.version;
  }
}

/** The section of a piece that hangs on a tree. */
const sectionOn = (standing: PieceProjection, treeId: Id): string | undefined =>
  standing.sections.find((each) =>
    standing.next.some((next) => next.stepId === each.nextStepId && next.carrierId === treeId),
  )?.name;

function chargeOf(alloyId: string, trees: readonly { kg: number }[]) {
  const total = trees.reduce((sum, { kg }) => sum + kg, 2) / 0.98;
  const returns = Math.floor(total * 0.4);
  const line = (what: 'ingot' | 'returns', kg: number) => ({
    what,
    alloyId,
    kg: Number(kg.toFixed(1)),
    lot: what === 'ingot' ? 'MQ-204' : '',
    dry: true,
  });
  return [line('ingot', total - returns), line('returns', returns)].filter(({ kg }) => kg > 0);
}
