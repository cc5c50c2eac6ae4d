import type { CoatTaken, Id, Supply, Tank, TankCheck, TankDecision, TopUp } from '@kalvet/core';
import {
  castsOfTree,
  coatsInDoubt,
  coatsStand,
  counted,
  isClosed,
  quantity,
  say,
  slurryKg,
  tankStand,
} from '@kalvet/core';
import type { Stage } from './stage.ts';

/** The face tank's mixer stood still on a Sunday, so many days before today at most, after a Friday with so many dips. */
const MIXER_AGO = 48;
const LEAST_IN_DOUBT = 3;
const round = (value: number, decimals: number): number => Number(value.toFixed(decimals));

interface Kept {
  readonly tank: Tank;
  level: number;
  /** What the coats have taken since the level was last read. */
  since: string;
}

/** The slurry tanks: looked at each morning, Sundays too, topped up, and once found with its mixer still. */
export class TankLog {
  readonly tanks: Tank[] = [];
  readonly checks: TankCheck[] = [];
  readonly decisions: TankDecision[] = [];
  readonly supplies: Supply[] = [];
  private readonly kept: Kept[] = [];
  private stopped: { readonly tankId: Id; readonly count: number } | undefined;
  private lot = 60;

  constructor(private readonly stage: Stage) {}

  begin(): void {
    const { shop, person } = this.stage;
    const tank = (rest: Pick<Tank, 'name' | 'slurry' | 'litres' | 'densityGPerCm3' | 'lowS' | 'highS'>): Tank => ({
      id: shop.newId(),
      leastShare: 0.55,
      cup: '4 mm cup',
      leastPh: 9,
      checkEveryHours: 24,
      base: { from: this.stage.at(76, '06:00'), to: this.stage.at(48, '20:00') },
      state: 'in use',
      version: 1,
      ...rest,
    });
    this.tanks.push(
      tank({ name: 'Face tank', slurry: 'face', litres: 160, densityGPerCm3: 2.5, lowS: 20, highS: 24.5 }),
      tank({ name: 'Back-up tank', slurry: 'backup', litres: 320, densityGPerCm3: 1.7, lowS: 10, highS: 14 }),
    );
    for (const each of this.tanks) {
      this.kept.push({ tank: each, level: 0.9, since: shop.now });
      shop.tell(
        person.ines,
        {
          verb: 'save tank',
          text: say`${each.name}: ${each.slurry} slurry, ${quantity(each.litres, 'l', 0)}, in use`,
          room: 'shell',
        },
        [['tank', each.id]],
        [{ table: 'tanks', id: each.id, op: 'insert' }],
      );
    }
    for (const [what, kg] of [
      ['binder', 60],
      ['flour face', 100],
      ['flour backup', 150],
      ['fine', 75],
      ['medium', 75],
      ['coarse', 200],
    ] as const)
      this.deliver(what, kg, 'what lay there', 'count');
  }

  private deliver(what: Supply['what'], kg: number, note: string, kind: Supply['kind'] = 'delivery'): void {
    const { shop, person } = this.stage;
    const lot = kind === 'delivery' ? `${what.slice(0, 2).toUpperCase()}-${this.lot++}` : '';
    const row: Supply = {
      id: shop.newId(),
      what,
      kind,
      kg,
      lot,
      at: shop.now,
      note,
      byId: person.oskar,
      voidReason: null,
      version: 1,
    };
    this.supplies.push(row);
    shop.tell(
      person.oskar,
      {
        verb: 'save supply',
        text: `${what}: ${kg} kg ${kind === 'count' ? 'found' : `delivered, lot ${lot}`}`,
        room: 'shell',
      },
      [['supply', row.id]],
      [{ table: 'supplies', id: row.id, op: 'insert' }],
    );
  }

  /** Once a month the shelf is filled again. */
  restock(): void {
    for (const [what, kg] of [
      ['binder', 60],
      ['flour face', 75],
      ['flour backup', 125],
      ['fine', 50],
      ['medium', 50],
      ['coarse', 150],
    ] as const)
      this.deliver(what, kg, '');
  }

  /** Coats that were dipped in a slurry since a moment, with what they take. */
  private taken(slurry: string, since: string): number {
    const { shop } = this.stage;
    const all = shop.all();
    const areaOf = new Map(all.sections.map(({ id, areaCm2 }) => [id, areaCm2 ?? 0]));
    return all.steps
      .filter(
        ({ kind, endedAt, readings }) =>
          kind === 'coat' && endedAt !== null && endedAt > since && readings['slurry'] === slurry,
      )
      .reduce((sum, step) => {
        const workId = shop.workIds.find((id) => shop.work(id).tree.has(step.carrierId));
        const index = workId ? shop.work(workId) : undefined;
        const areaCm2 = index
          ? castsOfTree(index, step.carrierId).reduce((cm2, { sectionId }) => cm2 + (areaOf.get(sectionId) ?? 0), 0)
          : 0;
        return sum + slurryKg({ areaCm2 } satisfies Pick<CoatTaken, 'areaCm2'>);
      }, 0);
  }

  private countSince(slurry: string, since: string): number {
    return this.stage.shop
      .all()
      .steps.filter(
        ({ kind, endedAt, readings }) => kind === 'coat' && (endedAt ?? '') > since && readings['slurry'] === slurry,
      ).length;
  }

  /** Each morning, on Sundays too. */
  morning(back: number): void {
    const { shop, person, random } = this.stage;
    const weekday = this.stage.today.minus({ days: back }).weekday;
    const isSunday = weekday === 7;
    // On Saturdays nobody comes by.
    if (weekday === 6) return;
    for (const kept of this.kept) {
      const { tank } = kept;
      const isFace = tank.slurry === 'face';
      const fullKg = tank.litres * tank.densityGPerCm3;
      // What drips off, dries on the rim and is wiped away comes to a little more than the coats take.
      kept.level -= (this.taken(tank.slurry, kept.since) * 1.12) / fullKg;
      kept.since = shop.now;
      // Water goes out of it day by day, and is brought back each morning before it is read.
      const middle = isFace ? 22 : 12;
      const viscosity = middle + (random() - 0.5) * (isFace ? 0.8 : 0.5);
      const stands =
        isFace &&
        this.stopped === undefined &&
        isSunday &&
        back <= MIXER_AGO &&
        this.countSince('face', this.stage.at(back + 2, '07:40')) >= LEAST_IN_DOUBT;
      const mixes = kept.level < (isFace ? 0.66 : 0.68) && !isSunday && weekday !== 6;
      const toppedUp: TopUp[] = mixes ? this.mix(kept, fullKg) : [];
      const check: TankCheck = {
        id: shop.newId(),
        tankId: tank.id,
        at: shop.now,
        mixer: stands ? 'stopped' : 'running',
        viscosityS: stands ? null : round(viscosity, 1),
        celsius: stands ? null : round(21 + 0.8 * (random() - 0.5), 1),
        densityGPerCm3: null,
        ph: weekday === 1 ? round(9.6 - 0.3 * random(), 1) : null,
        level: isSunday ? null : round(kept.level, 2),
        sieved: weekday === 1 && back % 2 === 0,
        toppedUp,
        note: stands ? 'fuse of the mixer gone; skin on top' : '',
        byId: person.oskar,
        voidReason: null,
        version: 1,
      };
      kept.level += toppedUp.reduce((sum, { kg }) => sum + kg, 0) / fullKg;
      this.checks.push(check);
      this.tellCheck(tank, check);
      if (stands) this.stop(tank);
    }
    shop.tanks = this.tanks.map((tank) => tankStand(tank, this.checks, this.decisions));
  }

  /** New slurry is mixed from binder and flour. */
  private mix({ tank, level }: Kept, fullKg: number): TopUp[] {
    const kg = Math.round((0.92 - level) * fullKg);
    const flour = Math.round(kg * 0.72);
    return [
      { what: 'flour', kg: flour, lot: tank.slurry === 'face' ? 'FL-61' : 'FL-62' },
      { what: 'binder', kg: kg - flour, lot: 'BI-60' },
    ];
  }

  private tellCheck(tank: Tank, check: TankCheck): void {
    const { shop, person } = this.stage;
    // The daily round is no news; what was wrong and what was mixed is.
    if (check.mixer === 'running' && check.toppedUp.length === 0) return;
    const what =
      check.mixer === 'stopped'
        ? 'mixer stopped'
        : check.toppedUp.map(({ what: each, kg }) => `${kg} kg ${each} added`).join(', ');
    shop.tell(
      person.oskar,
      { verb: 'check tank', text: say`${tank.name}: ${what}`, room: 'shell', bad: check.mixer === 'stopped' },
      [['tank', tank.id]],
      [{ table: 'tankChecks', id: check.id, op: 'insert' }],
    );
  }

  private stop(tank: Tank): void {
    const { shop, person } = this.stage;
    const stand = tankStand(tank, this.checks, this.decisions);
    let count = 0;
    for (const workId of shop.workIds) {
      const index = shop.work(workId);
      const coats = index.shop.steps.filter(({ kind }) => kind === 'coat').filter(isClosed);
      const touched = coatsInDoubt(
        index,
        stand,
        coats.map(({ id }) => id),
      );
      if (touched.count === 0) continue;
      count += touched.count;
      shop.onWork(workId, person.oskar, () => ({
        ...{ refusals: [], fields: {}, passed: [], ops: touched.ops, answer: {} },
        tell: () => ({
          event: {
            verb: 'check tank',
            text: say`${tank.name} stood still: ${counted(touched.count, 'coat')} in doubt`,
            room: 'shell',
            bad: true,
          },
          concerns: [...touched.concerns, ['tank', tank.id]],
        }),
      }));
    }
    this.stopped = { tankId: tank.id, count };
  }

  /** On the Monday somebody stirs, sieves and looks, and decides. */
  decide(): void {
    const { stopped } = this;
    const tank = this.tanks.find(({ id }) => id === stopped?.tankId);
    if (!tank || this.decisions.length > 0) return;
    const { shop, person } = this.stage;
    const words = 'mixer mended, slurry sieved, 22.1 s; a test bar dipped and broken is sound';
    const row: TankDecision = {
      id: shop.newId(),
      tankId: tank.id,
      at: shop.now,
      coatsStand: true,
      words,
      byId: person.ines,
      voidReason: null,
      version: 1,
    };
    this.decisions.push(row);
    for (const workId of shop.workIds) {
      const index = shop.work(workId);
      const ids = index.shop.steps.filter(({ kind }) => kind === 'coat').map(({ id }) => id);
      const touched = coatsStand(index, tank.slurry, ids, 'Ines Marlow');
      if (touched.count === 0) continue;
      shop.onWork(workId, person.ines, () => ({
        ...{ refusals: [], fields: {}, passed: [], ops: touched.ops, answer: {} },
        tell: () => ({
          event: {
            verb: 'decide tank',
            text: say`${tank.name}: ${counted(touched.count, 'coat')} in doubt stand`,
            room: 'shell',
          },
          concerns: [...touched.concerns, ['tank', tank.id]],
        }),
      }));
    }
    shop.tell(
      person.ines,
      { verb: 'decide tank', text: say`${tank.name} is dipped in again: ${words}`, room: 'shell' },
      [['tank', tank.id]],
      [{ table: 'tankDecisions', id: row.id, op: 'insert' }],
    );
    shop.tanks = this.tanks.map((each) => tankStand(each, this.checks, this.decisions));
  }
}
