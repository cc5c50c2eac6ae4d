import type { KilnTree, Id, Instant, ShopIndex } from '@kalvet/core';
import {
  POUR_CHECKS,
  confirmCrew,
  cooledTo,
  coolingPerMinOf,
  fillSeconds,
  finishHeat,
  isOpen,
  kindOf,
  lightHeat,
  planHeat,
  judgeFloor,
  kilnTree,
  planLoad,
  pourTree,
  readHeat,
  recordStep,
  setInPit,
  setTreesInPit,
  shellOut,
  standings,
  treeFigures,
} from '@kalvet/core';
import { DateTime } from 'luxon';
import { heatPlan, lighting } from './heat-plan.ts';
import { KilnLog } from './kiln.ts';
import { MetalShelf } from './metal.ts';
import type { PlayedPiece, Stage } from './stage.ts';
import { ZONE } from './stage.ts';

/** Left below the usable mark: what runs into a mould is never quite what was worked out. */
const SCALES_KG = 2;
const LEAST_FILL = 0.3;
const WEEK_MIN = 7 * 1440;
const WEDNESDAY = 3;
const BLOCK_DAYS = 4;
/** Blocks are never fired as hot as shells. */
const BLOCK_BELOW_C = 750;
const COATS_A_DAY = 2;
/** So far ahead a heat is planned at most. */
const WEEKS_AHEAD = 2;
/** Bedding takes a quarter of an hour or so; the early look comes three quarters of an hour after the metal and a bit. */
const BEDDING_MIN = 25;
const LOOK_MIN = 52;
/** Before the crucible leaves the furnace. */
const SKIM_MIN = 10;
const COLD_AFTER_MS = 4 * 3_600_000;
const PYROMETER = 'Dip pyrometer';

interface WaitingTree {
  readonly treeId: Id;
  readonly workId: Id;
  readonly pieces: { readonly piece: PlayedPiece; readonly section: string | undefined }[];
}

/** The kiln in the morning, the furnace on Thursdays, and the next pour as far as it can be planned. */
export class Furnace {
  private readonly metal: MetalShelf;
  private readonly kiln: KilnLog;

  constructor(private readonly stage: Stage) {
    this.metal = new MetalShelf(stage);
    this.kiln = new KilnLog(stage);
    stage.shop.kiln = this.kiln;
  }

  /** What is there before the first heat: pots, additions. */
  begin(): void {
    this.metal.begin();
    this.metal.instruments();
    this.kiln.begin();
    this.kiln.instruments();
  }

  /** A pot that has had many heats is looked over. */
  lookAtPot(): void {
    this.metal.look();
  }

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
    const loaded = trees.length > 0 ? this.load(trees, begun, drawn, 'block, 4 d', 690) : [];
    shop.now = drawn;
    const bedded = after(BEDDING_MIN);
    for (const tree of trees.filter(({ treeId }) => loaded.includes(treeId)))
      this.done(tree, 'draw-block', person.oskar, bedded);
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
  ): readonly Id[] {
    const { shop, person } = this.stage;
    const { now } = shop;
    const treeIds = this.onFloor(trees);
    shop.now = endedAt;
    const isBlock = topC < BLOCK_BELOW_C;
    const sums = this.kiln.sums(treeIds, isBlock);
    const record = { startedAt, endedAt, by: [person.oskar], profile, topC, note: '', lost: [], ...sums };
    const id = shop.newId();
    const profileId = this.kiln.profileId(isBlock ? 'block' : 'shell');
    shop.onAll(person.oskar, (index, doing) => planLoad(index, { id, treeIds, profileId, record }, doing));
    this.kiln.fired(id, startedAt, endedAt, isBlock);
    shop.now = now;
    return treeIds;
  }

  /** As many as find a place on the kiln's floor, those that wait longest first. */
  private onFloor(trees: readonly WaitingTree[]): Id[] {
    const { shop } = this.stage;
    const index = shop.whole();
    const chosen: KilnTree[] = [];
    for (const { treeId } of trees) {
      const next = [...chosen, kilnTree(index, treeId, shop.settings)];
      if (judgeFloor(index, next, shop.settings).length === 0) chosen.push(next.at(-1)!);
    }
    return chosen.map(({ treeId }) => treeId);
  }

  /** A heat, as full as the crucible takes, the trees that wait longest first; nothing where nothing waits. */
  pour(alloyId: string): void {
    const waiting = this.trees(['pour']);
    const trees = this.chosen(alloyId, waiting);
    const kg = trees.reduce((sum, tree) => sum + tree.kg, 0);
    // A little metal in a large pot melts badly: it waits for more, as long as its shells may.
    const { usableKg } = this.metal.pot(alloyId);
    const isWorth =
      kg >= usableKg * LEAST_FILL ||
      trees.some(({ tooOldAt }) => tooOldAt !== '' && tooOldAt < this.stage.after(WEEK_MIN));
    if (trees.length > 0 && isWorth) this.heat(alloyId, trees, waiting);
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
    const pot = { ...this.metal.pot('C87300'), id: this.metal.potOf('C87300') };
    shop.onAll(person.ines, (index, doing) => planHeat(index, given, doing, { pot }));
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

  /** What goes into the pot for trees: with a pig, and what the melt loses. */
  private chargeOf(alloyId: string, trees: readonly { kg: number }[]) {
    const { pigReserveKg, meltLoss } = this.stage.shop.settings;
    const total = (trees.reduce((sum, { kg }) => sum + kg, 0) + pigReserveKg) / (1 - meltLoss);
    return this.metal.charge(alloyId, total, this.returnsOf(alloyId));
  }

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

  private chosen(alloyId: string, waiting: readonly WaitingTree[]): { treeId: Id; kg: number; tooOldAt: string }[] {
    const { shop } = this.stage;
    const rows = waiting.flatMap(({ treeId, workId }) => {
      const index = shop.work(workId);
      if (index.tree.get(treeId)!.alloyId !== alloyId) return [];
      const kg = treeFigures(index, treeId, shop.settings.liftLimitKg).metal?.pourWeight.value;
      const pour = index.stepsOf.get(treeId)!.find((step) => kindOf(step.kind).through === 'heat' && isOpen(step));
      const tooOldAt = (pour && standings(index).get(pour.id)?.tooOldAt) ?? '';
      return kg === undefined ? [] : [{ treeId, kg, tooOldAt }];
    });
    const chosen: typeof rows = [];
    const { usableKg } = this.metal.pot(alloyId);
    const fullKg = usableKg * (1 - shop.settings.meltLoss) - shop.settings.pigReserveKg - SCALES_KG;
    for (const row of rows.sort((a, b) => a.tooOldAt.localeCompare(b.tooOldAt))) {
      const sum = chosen.reduce((total, tree) => total + tree.kg, 0);
      if (sum + row.kg < fullKg) chosen.push(row);
    }
    return chosen;
  }

  private heat(alloyId: string, chosen: readonly { treeId: Id; kg: number }[], waiting: readonly WaitingTree[]): void {
    const { stage } = this;
    const { shop } = stage;
    const { tomas, ines, oskar, hanne } = stage.person;
    const work = (treeId: Id) => shop.work(waiting.find((tree) => tree.treeId === treeId)!.workId);
    const plan = heatPlan(
      alloyId,
      chosen.map((tree) => ({ ...tree, index: work(tree.treeId) })),
      shop.settings,
    );
    const over = plan.trees.length * shop.settings.minutesATree + shop.settings.pigMinutes;
    const start = shop.now;
    if (stage.after(over) > stage.end) return;
    const id = shop.newId();
    const chargeLines = this.chargeOf(alloyId, plan.trees);
    const given = {
      id,
      alloyId,
      plannedFor: start,
      trees: plan.trees.map(({ treeId }) => ({ treeId })),
      chargeLines,
    };
    const at = (minutes: number) => new Date(Date.parse(start) + minutes * 60_000).toISOString();
    const heat = (index: ShopIndex) => index.heat.get(id)!;
    const charged = chargeLines.reduce((sum, { kg }) => sum + kg, 0);
    const warm = this.lastAt !== undefined && Date.parse(start) - Date.parse(this.lastAt) < COLD_AFTER_MS;
    this.lastAt = start;
    const lit = lighting(alloyId, charged, shop.settings, warm);
    shop.now = at(-lit.minutes);
    const pot = { ...this.metal.pot(alloyId), id: this.metal.potOf(alloyId) };
    shop.onAll(ines, (index, doing) => planHeat(index, given, doing, { pot }));
    shop.onAll(tomas, (index, doing) => lightHeat(index, heat(index), { at: shop.now }, doing));
    shop.now = at(-SKIM_MIN);
    const places = setInPit(
      given.trees.map(({ treeId }) => treeId),
      shop.settings.pitPlaces,
      new Set(),
    );
    shop.onAll(oskar, (index, doing) =>
      setTreesInPit(
        index,
        heat(index),
        { places: [...places].map(([treeId, place]) => ({ treeId, place })) },
        doing,
        new Map(),
      ),
    );
    const crew = [
      { role: 'lead', personId: tomas, deputyId: null },
      { role: 'second', personId: ines, deputyId: oskar },
      { role: 'skimmer', personId: hanne, deputyId: null },
    ] as const;
    shop.onAll(tomas, (index, doing) =>
      confirmCrew(
        index,
        heat(index),
        { version: heat(index).version, crew, signs: 'by hand', checks: POUR_CHECKS, coverConfirmed: true },
        doing,
      ),
    );
    const read = (minutes: number, celsius: number) => {
      shop.now = at(minutes);
      const said = {
        id: shop.newId(),
        treeId: null,
        at: shop.now,
        celsius,
        where: 'furnace',
        means: 'immersion',
        instrument: PYROMETER,
      } as const;
      shop.onAll(tomas, (index, doing) => readHeat(index, heat(index), said, doing));
    };
    // Read when it is hot enough, and once more as the crucible leaves the furnace.
    const k = coolingPerMinOf(shop.settings.crucibleLossK);
    const hot = plan.furnaceC + 4 * Math.sin(charged);
    read(-4, Math.round(cooledTo(hot, -4, k * 0.96)));
    read(0, Math.round(hot));
    let poured = 0;
    const seen: { treeId: Id; at: Instant }[] = [];
    for (const [i, { treeId, kg, wallMm, outS, isShell }] of plan.trees.entries()) {
      const begins = i * shop.settings.minutesATree;
      if (isShell) {
        shop.now = at(begins - outS / 60);
        shop.onAll(oskar, (index, doing) => shellOut(index, heat(index), { treeId, at: shop.now }, doing));
      }
      const trouble = (waiting.find((tree) => tree.treeId === treeId)?.pieces ?? [])
        .map(({ piece, section }) => stage.trouble(piece, 'pour', section))
        .find(Boolean);
      // What runs into a mould is never quite what was worked out.
      const pouredKg = Number((kg * (trouble ? 0.8 : 1 + 0.018 * Math.sin(kg * 7 + i))).toFixed(1));
      poured += pouredKg;
      const seconds = Number((fillSeconds(kg, wallMm).value * (1 + 0.12 * Math.sin(kg * 3 + i))).toFixed(1));
      shop.now = at(begins + seconds / 60);
      const cup = cooledTo(hot, begins, k) - shop.settings.transferK + 5 * Math.sin(kg + i);
      const readings = {
        pouredKg,
        metalC: Math.round(cup),
        tempWhere: 'cup',
        seconds,
        vents: trouble ? 'some' : 'all',
      };
      if (!trouble) seen.push({ treeId, at: at(begins + LOOK_MIN) });
      shop.onAll(tomas, (index, doing) => {
        const said = {
          version: heat(index).version,
          treeId,
          outcome: trouble?.outcome ?? 'poured',
          startedAt: at(begins),
          endedAt: shop.now,
          by: [tomas, ines],
          readings,
          note: trouble?.note ?? '',
        };
        return pourTree(index, heat(index), said, doing);
      });
    }
    shop.now = at(over);
    // What is left of the charge, with what burnt and was skimmed.
    const pigKg = Number(
      Math.max(0, charged * (1 - shop.settings.meltLoss + 0.003 * Math.sin(charged)) - poured).toFixed(1),
    );
    const energyKwh = Math.round(lit.kwh * (1 + 0.06 * Math.sin(charged * 5)));
    shop.onAll(tomas, (index, doing) => {
      const said = { version: heat(index).version, endedAt: shop.now, by: [tomas], pigKg, energyKwh, note: '' };
      return finishHeat(index, heat(index), said, doing);
    });
    for (const { treeId, at: endedAt } of seen)
      this.done(
        waiting.find((tree) => tree.treeId === treeId)!,
        'early-look',
        hanne,
        endedAt,
        { seen: 'cup' },
      );
    shop.now = start;
  }

  private lastAt: Instant | undefined;
}
