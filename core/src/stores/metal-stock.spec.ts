import type { Heat } from '../records/pour.ts';
import type { Lot } from '../records/stores.ts';
import { inWords } from '../units/words.ts';
import { alloyBalance } from './alloy-balance.ts';
import { firstShorts, metalNeeds } from './metal-need.ts';
import type { MetalRecords } from './metal-stock.ts';
import { comesBackShare, lotsLeft, metalForHeat, metalMovements, metalStock } from './metal-stock.ts';

const lot = (mark: string, kg: number, rest: Partial<Lot> = {}): Lot => ({
  id: mark,
  number: 1,
  what: 'ingot',
  alloyId: 'C87300',
  mark,
  supplier: 'Tolver Metals',
  kg,
  receivedOn: '2026-03-02',
  analysis: {},
  state: 'good',
  note: '',
  version: 1,
  ...rest,
});
const heat = (number: number, day: string, rest: Partial<Heat> = {}) => ({
  id: `h${number}`,
  number,
  alloyId: 'C87300',
  state: 'done' as const,
  plannedFor: null,
  startedAt: `${day}T12:00:00.000Z`,
  endedAt: `${day}T13:00:00.000Z`,
  pigKg: 2,
  ...rest,
});
const line = (heatId: string, what: 'ingot' | 'returns' | 'addition', kg: number, mark = '') => ({
  heatId,
  what,
  alloyId: 'C87300',
  kg,
  lot: mark,
});

/** 200 kg came; 60 of them and later 30 with 20 of returns were melted; 18 came off the first heat's trees. */
const records: MetalRecords = {
  lots: [lot('MQ-1', 200), lot('MQ-2', 50, { state: 'quarantine', alloyId: null })],
  counts: [],
  heats: [
    heat(1, '2026-03-05'),
    heat(2, '2026-03-12'),
    heat(3, '2026-03-19', { state: 'planned', startedAt: null, pigKg: null }),
  ],
  chargeLines: [
    line('h1', 'ingot', 60, 'mq-1'),
    line('h2', 'ingot', 30, 'MQ-1'),
    line('h2', 'returns', 18),
    line('h3', 'ingot', 70, 'MQ-1'),
  ],
  cutOff: [{ at: '2026-03-06T09:00:00.000Z', alloyId: 'C87300', kg: 18, label: 'T-1' }],
};

describe('metal stock', () => {
  it('is what came less what was melted, with pigs and returns back; what is only planned is still there', () => {
    const movements = metalMovements(records);
    expect(movements.map(({ kind, kg }) => `${kind} ${kg}`)).toEqual([
      'receipt 200',
      'charge -60',
      'pig 2',
      'cut off 18',
      'charge -30',
      'charge -18',
      'pig 2',
    ]);
    expect(metalStock(movements)).toEqual([{ alloyId: 'C87300', ingotKg: 110, returnsKg: 4 }]);
    expect(lotsLeft(records.lots, movements).get('MQ-1')).toBe(110);
  });

  it('is what a count found from then on, with the difference as a movement', () => {
    const count = {
      id: 'c',
      alloyId: 'C87300',
      what: 'ingot',
      kg: 145,
      at: '2026-03-08T08:00:00.000Z',
      why: 'Monday',
      version: 1,
    } as const;
    const movements = metalMovements({ ...records, counts: [count] });
    // The books said 140 by then.
    const found = movements.find(({ kind }) => kind === 'count')!;
    expect([found.kg, inWords(found.says)]).toEqual([5, '145.0 kg found: Monday']);
    expect(metalStock(movements)[0]!.ingotKg).toBe(115);
  });

  it('is for one heat what the others were not promised; what it holds itself is still its own', () => {
    const planned = { ...records, chargeLines: [...records.chargeLines, line('h3', 'returns', 3)] };
    expect(metalForHeat(planned, 'C87300').returnsKg).toBe(1);
    expect(metalForHeat(planned, 'C87300', 'h3').returnsKg).toBe(4);
    expect(metalForHeat(planned, 'C87300').lots.map(({ mark, leftKg }) => [mark, leftKg])).toEqual([
      ['MQ-1', 110],
      ['MQ-2', 50],
    ]);
    // Of 108 kg charged 22 came back.
    expect(comesBackShare('C87300', metalMovements(records))).toBeCloseTo(22 / 108, 9);
  });

  it('closes over an alloy’s history: 200 in = casts + lost + in shells + stock', () => {
    const movements = metalMovements(records);
    const books = {
      movements,
      heats: [
        { alloyId: 'C87300', chargeKg: 60, pouredKg: 56.8, pigKg: 2 },
        { alloyId: 'C87300', chargeKg: 48, pouredKg: 45, pigKg: 2 },
      ],
      trees: [
        { alloyId: 'C87300', pouredKg: 56.8, castsKg: 38.5, returnsKg: 18 },
        { alloyId: 'C87300', pouredKg: 45, castsKg: null, returnsKg: null },
      ],
    };
    const balance = alloyBalance('C87300', books);
    // Lost: 1.2 and 1 kg in the melts, 0.3 kg of the tree.
    expect(balance.lostKg).toBeCloseTo(2.5, 9);
    expect([balance.inKg, balance.castsKg, balance.inWorkKg, balance.stockKg]).toEqual([200, 38.5, 45, 114]);
    expect(balance.openKg).toBeCloseTo(0, 9);
    // Returns that nobody booked stay open.
    expect(
      alloyBalance('C87300', { ...books, movements: movements.filter(({ kind }) => kind !== 'cut off') }).openKg,
    ).toBeCloseTo(18, 9);
  });
});

describe('metal that coming heats need', () => {
  const coming = (day: string, chargeKg: number) => ({
    at: `2026-12-${day}T13:00:00.000Z`,
    alloyId: 'C87300',
    heatId: null,
    label: `heat of the ${day}th`,
    chargeKg,
    comesBackKg: 20,
  });

  it('is ingot beside half of returns as far as they are there by then, and says where it runs short', () => {
    const needs = metalNeeds(
      [{ alloyId: 'C87300', ingotKg: 150, returnsKg: 30 }],
      [coming('17', 100), coming('03', 100), coming('10', 100)],
      0.5,
    );
    // The 3rd takes 30 of returns, the 10th and 17th the 20 that came back from the heat before.
    expect(
      needs.map(({ at, returnsKg, ingotKg, ingotLeftKg }) => [at.slice(8, 10), returnsKg, ingotKg, ingotLeftKg]),
    ).toEqual([
      ['03', 30, 70, 80],
      ['10', 20, 80, 0],
      ['17', 20, 80, -80],
    ]);
    expect(firstShorts(needs).map(({ label }) => label)).toEqual(['heat of the 17th']);
    // What is said for a heat is promised to it: an earlier one does not take it.
    const promised = metalNeeds(
      [{ alloyId: 'C87300', ingotKg: 150, returnsKg: 30 }],
      [coming('03', 100), { ...coming('10', 50), saidReturnsKg: 25 }],
      0.5,
    );
    expect(promised.map(({ returnsKg }) => returnsKg)).toEqual([5, 25]);
    // Two on one day: the second has nothing back from the first.
    const [, second] = metalNeeds([], [coming('03', 40), coming('03', 40)], 0.5);
    expect([second!.returnsKg, second!.ingotLeftKg]).toEqual([0, -80]);
  });
});
