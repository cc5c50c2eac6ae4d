import type { ChargeGiven, Crucible, Id, Instant, Lot } from '@kalvet/core';
import { INSTRUMENT_NAMES, alloyOf, dayIn, kg, say } from '@kalvet/core';
import { ZONE } from './stage.ts';
import type { Stage } from './stage.ts';

/** What is delivered at a time, kg: ingots on a pallet. */
const DELIVERY: Readonly<Record<string, number>> = { C87300: 500, C90500: 150 };
/** A few days on the shelf before it is melted. */
const DAYS_BEFORE = 3;
const SUPPLIER = 'Tolver Ingot';
/** What the supplier's sheets say, per cent. */
const SHEETS: Readonly<Record<string, Readonly<Record<string, number>>>> = {
  C87300: { Cu: 95.1, Si: 3.9, Mn: 0.9, Fe: 0.08 },
  C90500: { Cu: 87.8, Sn: 10.1, Zn: 2.0, Ni: 0.06 },
};
const LETTERS: Readonly<Record<string, string>> = { C87300: '', C90500: ' T' };
const FIRST_LOT = 204;
const PHOSPHOR = { mark: 'CUP-15', kg: 10, share: 0.003 };

/** Pots as they stand at the beginning of the play. */
const POTS = [
  { name: 'S', family: 'silicon', holdsKg: 130, usableKg: 120, emptyKg: 24, lifeHeats: 90, heatsBefore: 31 },
  { name: 'T', family: 'tin', holdsKg: 60, usableKg: 55, emptyKg: 14, lifeHeats: 60, heatsBefore: 44 },
] as const;

const INSTRUMENTS = [
  { code: 'pyro-1', name: 'Dip pyrometer', kind: 'immersion', where: 'furnace', plusMinusK: 3, emissivity: null },
  {
    code: 'infrared-1',
    name: 'Infrared at the lip',
    kind: 'infrared',
    where: 'ladle',
    plusMinusK: 15,
    emissivity: 0.6,
  },
  {
    code: 'controller-1',
    name: 'Furnace wall',
    kind: 'controller',
    where: 'furnace',
    plusMinusK: 10,
    emissivity: null,
  },
  { code: 'meter-1', name: 'Gas meter', kind: 'meter', where: null, plusMinusK: 0, emissivity: null },
] as const;

/** The metal of the play: deliveries as they are needed, and the pots. */
export class MetalShelf {
  private readonly open = new Map<string, { lot: Lot; left: number }>();
  private readonly pots = new Map<string, Id>();

  constructor(private readonly stage: Stage) {}

  /** The pots are there, and the phosphor copper; somebody brought metal that nobody knows. */
  begin(): void {
    const { shop, person } = this.stage;
    for (const [i, pot] of POTS.entries()) {
      const id = shop.newId();
      const since = this.dayOf(-120);
      shop.crucibles.push({ ...pot, id, number: i + 1, state: 'in use', since, version: 1 } satisfies Crucible);
      this.pots.set(pot.family, id);
      shop.tell(
        person.tomas,
        { verb: 'save crucible', text: say`Crucible ${pot.name}: ${kg(pot.usableKg, 0)} usable, in use`, room: 'pour' },
        [['crucible', id]],
        [{ table: 'crucibles', id, op: 'insert' }],
      );
    }
    this.deliver({
      what: 'addition',
      alloyId: null,
      mark: PHOSPHOR.mark,
      kg: PHOSPHOR.kg,
      analysis: { Cu: 85, P: 15 },
      state: 'good',
      note: '',
    });
    this.deliver({
      what: 'ingot',
      alloyId: null,
      mark: 'from the old slip',
      kg: 38,
      analysis: {},
      state: 'quarantine',
      note: 'propeller pieces without a mark, from a breaker; to be analysed',
    });
  }

  /** What reports by itself: the stand-ins speak for these. */
  instruments(): void {
    const { shop, person } = this.stage;
    for (const given of INSTRUMENTS) {
      const id = shop.newId();
      shop.instruments.push({ ...given, id, ofId: null, calibratedOn: this.dayOf(-40), state: 'in use', version: 1 });
      shop.tell(
        person.tomas,
        { verb: 'save instrument', text: say`${given.name}, ${INSTRUMENT_NAMES[given.kind]}: in use`, room: 'pour' },
        [['instrument', id]],
        [{ table: 'instruments', id, op: 'insert' }],
      );
    }
  }

  /** Somebody looks the tin pot over, late in the play. */
  look(): void {
    const { shop, person } = this.stage;
    const id = shop.newId();
    const crucibleId = this.pots.get('tin')!;
    const note = 'glaze thin below the lip, no crack; look again after five heats';
    shop.looks.push({ id, crucibleId, at: shop.now, verdict: 'watch', note, byId: person.tomas, version: 1 });
    shop.tell(
      person.tomas,
      { verb: 'look at crucible', text: say`Crucible T looked over: watch, ${note}`, room: 'pour' },
      [['crucible', crucibleId]],
      [{ table: 'crucibleLooks', id, op: 'insert' }],
    );
  }

  /** The pot that an alloy is melted in. */
  potOf(alloyId: string): Id {
    return this.pots.get(alloyOf(alloyId).family)!;
  }

  /** The same, as a heat is judged by it. */
  pot(alloyId: string) {
    const { crucibles } = this.stage.shop;
    const { heats } = this.stage.shop.all();
    const own = crucibles.find(({ id }) => id === this.potOf(alloyId))!;
    const melted = heats.filter(({ crucibleId, state }) => crucibleId === own.id && state === 'done');
    return { ...own, heats: own.heatsBefore + melted.length, alloyIds: melted.map((heat) => heat.alloyId) };
  }

  /** A charge of so much: returns as far as there are any, at most four tenths, the rest ingot of the lots that are open. */
  charge(alloyId: string, totalKg: number, returnsKg: number): ChargeGiven[] {
    const returns = Math.floor(Math.min(totalKg * 0.4, returnsKg));
    const addition = alloyOf(alloyId).addition === 'none' ? 0 : totalKg * PHOSPHOR.share;
    const lines: ChargeGiven[] = this.ingot(alloyId, totalKg - returns - addition);
    if (returns > 0) lines.push({ what: 'returns', alloyId, kg: returns, lot: '', dry: true });
    if (addition > 0)
      lines.push({ what: 'addition', alloyId, kg: Number(addition.toFixed(2)), lot: PHOSPHOR.mark, dry: true });
    return lines;
  }

  private ingot(alloyId: string, wantedKg: number): ChargeGiven[] {
    const lines: ChargeGiven[] = [];
    let wanted = Number(wantedKg.toFixed(1));
    while (wanted > 0.05) {
      const own = this.open.get(alloyId);
      if (!own || own.left < 0.05) {
        this.open.set(alloyId, this.next(alloyId));
        continue;
      }
      const take = Number(Math.min(wanted, own.left).toFixed(1));
      own.left = Number((own.left - take).toFixed(1));
      wanted = Number((wanted - take).toFixed(1));
      lines.push({ what: 'ingot', alloyId, kg: take, lot: own.lot.mark, dry: true });
    }
    return lines;
  }

  private next(alloyId: string): { lot: Lot; left: number } {
    const mark = `MQ-${FIRST_LOT + this.stage.shop.lots.filter(({ what, alloyId: of }) => what === 'ingot' && of !== null).length}${LETTERS[alloyId] ?? ''}`;
    const kilograms = DELIVERY[alloyId] ?? 100;
    const lot = this.deliver({
      what: 'ingot',
      alloyId,
      mark,
      kg: kilograms,
      analysis: SHEETS[alloyId] ?? {},
      state: 'good',
      note: '',
    });
    return { lot, left: kilograms };
  }

  private deliver(given: Pick<Lot, 'what' | 'alloyId' | 'mark' | 'kg' | 'analysis' | 'state' | 'note'>): Lot {
    const { shop, person } = this.stage;
    const lot: Lot = {
      ...given,
      id: shop.newId(),
      number: shop.lots.length + 1,
      supplier: given.state === 'quarantine' ? '' : SUPPLIER,
      receivedOn: this.dayOf(-DAYS_BEFORE),
      version: 1,
    };
    shop.lots.push(lot);
    const what =
      given.what === 'addition'
        ? 'an addition'
        : given.alloyId === null
          ? 'unknown metal'
          : alloyOf(given.alloyId).name;
    shop.tell(
      person.dora,
      { verb: 'save lot', text: say`Lot ${lot.mark}: ${kg(lot.kg)} of ${what}, ${lot.state}`, room: 'pour' },
      [['lot', lot.id]],
      [{ table: 'lots', id: lot.id, op: 'insert' }],
    );
    return lot;
  }

  private dayOf(offset: number): string {
    return dayIn(new Date(Date.parse(this.stage.shop.now) + offset * 86_400_000).toISOString() as Instant, ZONE);
  }
}
