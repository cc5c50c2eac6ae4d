import type { Id, Instant } from '@kalvet/core';
import {
  confirmCrew,
  finishHeat,
  isOpen,
  kindOf,
  planHeat,
  planLoad,
  pourTree,
  recordStep,
  standings,
  treeFigures,
} from '@kalvet/core';
import { DateTime } from 'luxon';
import type { PlayedPiece, Stage } from './stage.ts';
import { ZONE } from './stage.ts';

/** What the demo's heats are filled up to, kg: the crucible's usable mark less the pig and what is lost in the melt. */
const FULL_KG = 114;
const WEDNESDAY = 3;
const BLOCK_DAYS = 4;
const KILN_PLACES = 12;
const COATS_A_DAY = 2;
/** So far ahead a heat is planned at most. */
const WEEKS_AHEAD = 2;
const HEATS_A_LOT = 5;
/** Bedding takes a quarter of an hour or so; the early look comes three quarters of an hour after the metal and a bit. */
const BEDDING_MIN = 25;
const LOOK_MIN = 52;

interface WaitingTree {
  readonly treeId: Id;
  readonly workId: Id;
  readonly pieces: { readonly piece: PlayedPiece; readonly section: string | undefined }[];
}

/** The kiln in the morning, the furnace on Thursdays, and the next pour as far as it can be planned. */
export class Furnace {
  constructor(private readonly stage: Stage) {}

  /** Trees whose next step is of one of the kinds; only those that can have it now, unless said otherwise. */
  private trees(kinds: readonly string[], readyNow = true): WaitingTree[] {
    const { pieces } = this.stage;
    const standing = this.stage.standing();
    const found = new Map<Id, WaitingTree>();
    for (const piece of pieces) {
      const stands = standing.get(piece.id);
      for (const step of stands?.next ?? []) {
        if (!kinds.includes(step.kind) || (readyNow && !this.stage.ready(step))) continue;
        const tree = found.get(step.carrierId) ?? { treeId: step.carrierId, workId: piece.workId, pieces: [] };
        tree.pieces.push({ piece, section: stands!.sectionOf(step.stepId) });
        found.set(step.carrierId, tree);
      }
    }
    return [...found.values()];
  }

  /** The morning's load of shells: when the kiln is worth it, and the day before the pour in any case. */
  fire(endedAt: Instant): void {
    const { shop, end } = this.stage;
    if (endedAt > end) return;
    const trees = this.trees(['fire', 'refire']);
    const { weekday } = DateTime.fromISO(shop.now, { zone: ZONE });
    if (trees.length < (weekday === WEDNESDAY ? 1 : 3)) return;
    this.load(trees, shop.now, endedAt, '930 °C, 1 h 40', 930);
  }

  /** On the day before the pour: the blocks that went into the kiln four days before are drawn and bedded. */
  drawBlocks(): void {
    const { shop, person, after } = this.stage;
    const drawn = shop.now;
    const begun = new Date(Date.parse(drawn) - BLOCK_DAYS * 86_400_000).toISOString();
    shop.now = begun;
    const trees = this.trees(['fire-block']);
    if (trees.length > 0) this.load(trees, begun, drawn, 'block, 4 d', 690);
    shop.now = drawn;
    const bedded = after(BEDDING_MIN);
    for (const tree of trees) this.done(tree, 'draw-block', person.oskar, bedded);
  }

  /** Writes a step of a tree down that is done by itself, beside loads and heats. */
  private done(
    { treeId, workId }: Pick<WaitingTree, 'treeId' | 'workId'>,
    kind: string,
    by: Id,
    endedAt: Instant,
    readings: Readonly<Record<string, unknown>> = {},
  ): void {
    const { shop, end } = this.stage;
    if (endedAt > end) return;
    const before = shop.now;
    shop.now = endedAt;
    shop.onWork(workId, by, (index, doing) => {
      const step = index.stepsOf.get(treeId)!.find((each) => each.kind === kind && each.state === 'planned')!;
      const { version } = step;
      const said = { version, outcome: 'done', startedAt: null, endedAt, by: [by], readings, note: '' };
      return recordStep(index, step, said, doing);
    });
    shop.now = before;
  }

  private load(
    trees: readonly WaitingTree[],
    startedAt: Instant,
    endedAt: Instant,
    profile: string,
    topC: number,
  ): void {
    const { shop, person } = this.stage;
    const { now } = shop;
    shop.now = endedAt;
    const record = { startedAt, endedAt, by: [person.oskar], profile, topC, note: '', lost: [] };
    const treeIds = trees.slice(0, KILN_PLACES).map(({ treeId }) => treeId);
    const id = shop.newId();
    shop.onAll(person.oskar, (index, doing) => planLoad(index, { id, treeIds, record }, doing));
    shop.now = now;
  }

  /** A heat, as full as the crucible takes, the trees that wait longest first; nothing where nothing waits. */
  pour(alloyId: string): void {
    const waiting = this.trees(['pour']);
    const trees = this.chosen(alloyId, waiting);
    if (trees.length > 0) this.heat(alloyId, trees, waiting);
  }

  /** The heat of the next pour day that anything can be ready for: what is fired, or nearly. */
  planNext(): void {
    const { shop, person, today, end } = this.stage;
    let day = today.set({ hour: 13 });
    while (day.weekday !== WEDNESDAY + 1 || day.toUTC().toISO()! <= end) day = day.plus({ days: 1 });
    const coming = this.trees(['leak-test', 'pour', 'fire', 'refire', 'coat'], false);
    const readyBy = (at: DateTime) =>
      this.chosen(
        'C87300',
        coming.filter((tree) => this.canBePoured(tree, at)),
      );
    let trees = readyBy(day);
    for (let weeks = 0; trees.length === 0 && weeks < WEEKS_AHEAD; weeks++) {
      day = day.plus({ weeks: 1 });
      trees = readyBy(day);
    }
    if (trees.length === 0) return;
    const given = {
      id: shop.newId(),
      alloyId: 'C87300',
      plannedFor: day.toUTC().toISO()!,
      trees: trees.map(({ treeId }) => ({ treeId })),
      chargeLines: this.chargeOf('C87300', trees),
    };
    shop.onAll(person.ines, (index, doing) => planHeat(index, given, doing));
  }

  /** Whether a tree can be ready by a pour day: two coats a working day, then a day for the kiln and one for its test. */
  private canBePoured({ treeId, workId, pieces }: WaitingTree, day: DateTime): boolean {
    const { stage } = this;
    const index = stage.shop.work(workId);
    if (pieces.some(({ piece }) => index.piece.get(piece.id)?.state === 'hold')) return false;
    const open = (index.stepsOf.get(treeId) ?? []).filter(isOpen);
    const coats = open.filter((step) => index.kind(step).coat).length;
    const fired = open.filter((step) => index.kind(step).kiln).length;
    let working = 0;
    for (let at = stage.today.plus({ days: 1 }); at < day.startOf('day'); at = at.plus({ days: 1 }))
      if (at.weekday <= 5) working++;
    return Math.ceil(coats / COATS_A_DAY) + fired + 1 <= working;
  }

  /** Ingot of the lot that is open, and returns as far as there are any. */
  private chargeOf(alloyId: string, trees: readonly { kg: number }[]) {
    const total = trees.reduce((sum, { kg }) => sum + kg, 2) / 0.98;
    const returns = Math.floor(Math.min(total * 0.4, this.returnsOf(alloyId)));
    const lot = `MQ-${204 + Math.floor((this.heats += 1) / HEATS_A_LOT)}`;
    const line = (what: 'ingot' | 'returns', kg: number) => ({
      what,
      alloyId,
      kg: Number(kg.toFixed(1)),
      lot: what === 'ingot' ? `${lot}${alloyId === 'C90500' ? ' T' : ''}` : '',
      dry: true,
    });
    return [line('ingot', total - returns), line('returns', returns)].filter(({ kg }) => kg > 0);
  }

  private heats = 0;

  /** Returns of an alloy on the shelf: cut off at the knock-outs and pigged, less what was charged again. */
  private returnsOf(alloyId: string): number {
    const shop = this.stage.shop.all();
    const trees = new Set(shop.trees.filter((tree) => tree.alloyId === alloyId).map(({ id }) => id));
    const heats = shop.heats.filter((heat) => heat.alloyId === alloyId);
    const ids = new Set(heats.map(({ id }) => id));
    const sum = (all: readonly unknown[]) => all.reduce<number>((total, each) => total + Number(each ?? 0), 0);
    const cut = shop.steps.flatMap(({ carrierId, readings }) => (trees.has(carrierId) ? [readings['returnsKg']] : []));
    const charged = shop.chargeLines.flatMap(({ heatId, what, kg }) =>
      ids.has(heatId) && what === 'returns' ? [kg] : [],
    );
    return Math.max(0, sum(cut) + sum(heats.map(({ pigKg }) => pigKg)) - sum(charged));
  }

  private chosen(alloyId: string, waiting: readonly WaitingTree[]): { treeId: Id; kg: number }[] {
    const { shop } = this.stage;
    const rows = waiting.flatMap(({ treeId, workId }) => {
      const index = shop.work(workId);
      if (index.tree.get(treeId)!.alloyId !== alloyId) return [];
      const kg = treeFigures(index, treeId, shop.settings.liftLimitKg).metal?.pourWeight.value;
      const pour = index.stepsOf.get(treeId)!.find((step) => kindOf(step.kind).through === 'heat' && isOpen(step));
      const tooOldAt = (pour && standings(index).get(pour.id)?.tooOldAt) ?? '';
      return kg === undefined ? [] : [{ treeId, kg, tooOldAt }];
    });
    const chosen: { treeId: Id; kg: number }[] = [];
    for (const { treeId, kg } of rows.sort((a, b) => a.tooOldAt.localeCompare(b.tooOldAt))) {
      const sum = chosen.reduce((total, tree) => total + tree.kg, 0);
      if (sum + kg < FULL_KG) chosen.push({ treeId, kg });
    }
    return chosen;
  }

  private heat(alloyId: string, trees: readonly { treeId: Id; kg: number }[], waiting: readonly WaitingTree[]): void {
    const { stage } = this;
    const { shop } = stage;
    const { tomas, ines, oskar, hanne } = stage.person;
    const id = shop.newId();
    const given = {
      id,
      alloyId,
      plannedFor: shop.now,
      trees: trees.map(({ treeId }) => ({ treeId })),
      chargeLines: this.chargeOf(alloyId, trees),
    };
    shop.onAll(ines, (index, doing) => planHeat(index, given, doing));
    const crew = [
      { role: 'lead', personId: tomas, deputyId: null },
      { role: 'second', personId: ines, deputyId: oskar },
      { role: 'skimmer', personId: hanne, deputyId: null },
    ] as const;
    shop.onAll(tomas, (index, doing) =>
      confirmCrew(index, index.heat.get(id)!, { version: 1, crew, signs: 'by hand', coverConfirmed: true }, doing),
    );
    const start = shop.now;
    const seen: { treeId: Id; at: Instant }[] = [];
    for (const [i, { treeId, kg }] of trees.entries()) {
      shop.now = new Date(Date.parse(start) + (i + 1) * 6 * 60_000).toISOString();
      const trouble = (waiting.find((tree) => tree.treeId === treeId)?.pieces ?? [])
        .map(({ piece, section }) => stage.trouble(piece, 'pour', section))
        .find(Boolean);
      const readings = {
        // What runs into a mould is never quite what was worked out.
        pouredKg: Number((kg * (trouble ? 0.8 : 1 + 0.018 * Math.sin(kg * 7 + i))).toFixed(1)),
        metalC: 1165 - i * 9,
        tempWhere: 'cup',
        seconds: Number((5 + kg / 6).toFixed(1)),
        vents: !trouble,
      };
      if (!trouble) seen.push({ treeId, at: stage.after(LOOK_MIN) });
      shop.onAll(tomas, (index, doing) => {
        const heat = index.heat.get(id)!;
        const said = {
          version: heat.version,
          treeId,
          outcome: trouble?.outcome ?? 'poured',
          startedAt: null,
          endedAt: shop.now,
          by: [tomas, ines],
          readings,
          note: trouble?.note ?? '',
        };
        return pourTree(index, heat, said, doing);
      });
    }
    shop.now = new Date(Date.parse(start) + 90 * 60_000).toISOString();
    shop.onAll(tomas, (index, doing) => {
      const heat = index.heat.get(id)!;
      const said = { version: heat.version, endedAt: shop.now, by: [tomas], pigKg: 1.8, note: '' };
      return finishHeat(index, heat, said, doing);
    });
    for (const { treeId, at } of seen)
      this.done(
        waiting.find((tree) => tree.treeId === treeId)!,
        'early-look',
        hanne,
        at,
        { seen: 'cup' },
      );
    shop.now = start;
  }
}
