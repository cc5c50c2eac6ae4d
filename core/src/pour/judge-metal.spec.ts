import { alloyOf } from '../materials/alloys.ts';
import { inWords } from '../units/words.ts';
import type { LotAtHand } from './judge-metal.ts';
import { asksForAddition, judgeMetal } from './judge-metal.ts';
import type { Pot } from './judge-pot.ts';
import { judgePot } from './judge-pot.ts';

const ingot = (kg: number, lot: string) => ({ what: 'ingot', alloyId: 'C87300', kg, lot }) as const;
const returns = (kg: number) => ({ what: 'returns', alloyId: 'C87300', kg, lot: '' }) as const;
const lot = (mark: string, rest: Partial<LotAtHand> = {}): LotAtHand => ({
  mark,
  alloyId: 'C87300',
  state: 'good',
  leftKg: 200,
  ...rest,
});
const said = (refusals: readonly { message: unknown; mayOverride: boolean }[]) =>
  refusals.map(({ message, mayOverride }) => [inWords(message as string), mayOverride]);

describe('metal that a heat is charged with', () => {
  it('is returns only as far as they are there', () => {
    expect(judgeMetal('C87300', [returns(20)], { returnsKg: 20, lots: [] })).toEqual([]);
    expect(said(judgeMetal('C87300', [returns(12), returns(9)], { returnsKg: 20, lots: [] }))).toEqual([
      [
        '21.0 kg of returns are charged, but 20.0 kg of silicon bronze are there. Where there are more, count them first.',
        false,
      ],
    ]);
  });

  it('is ingot of a lot that is known, good, of this alloy and not used up; where no lots are kept, any', () => {
    const lots = [
      lot('MQ-1'),
      lot('MQ-2', { state: 'quarantine', alloyId: null }),
      lot('MQ-3', { alloyId: 'C90500' }),
      lot('MQ-4', { leftKg: 10 }),
    ];
    const of = (line: ReturnType<typeof ingot>) => said(judgeMetal('C87300', [line], { returnsKg: 0, lots }));
    expect(of(ingot(60, 'mq-1'))).toEqual([]);
    expect(of(ingot(60, 'MQ-2'))).toEqual([['Lot MQ-2 is in quarantine: nobody knows its alloy for sure.', false]]);
    expect(of(ingot(60, 'MQ-3'))).toEqual([['Lot MQ-3 is tin bronze 88-10-2, not silicon bronze.', false]]);
    expect(of(ingot(60, 'MQ-4'))).toEqual([['60.0 kg of lot MQ-4 are charged, but 10.0 kg of it are left.', true]]);
    expect(of(ingot(60, 'MQ-9'))).toEqual([['Lot MQ-9 is not among the deliveries.', true]]);
    expect(judgeMetal('C87300', [ingot(60, 'MQ-9')], { returnsKg: 0, lots: [] })).toEqual([]);
  });

  it('is asked about without phosphor copper where the alloy wants it: 0.3 % of 60 kg are 180 g', () => {
    const line = { what: 'ingot', alloyId: 'C90500', kg: 60, lot: '' } as const;
    expect(said(asksForAddition('C90500', [line]))[0]![0]).toContain('about 180 g');
    expect(asksForAddition('C90500', [line, { ...line, what: 'addition', kg: 0.18 }])).toEqual([]);
    expect(asksForAddition('C87300', [ingot(60, '')])).toEqual([]);
  });
});

describe('the pot of a heat', () => {
  const pot = (rest: Partial<Pot> = {}): Pot => ({
    name: 'A',
    family: 'silicon',
    state: 'in use',
    lifeHeats: 60,
    heats: 12,
    alloyIds: ['C87300'],
    ...rest,
  });
  const of = (alloyId: string, rest: Partial<Pot> = {}) => said(judgePot(alloyOf(alloyId), pot(rest)));

  it('never takes metal without lead after leaded metal, nor when it is retired', () => {
    expect(of('C87300')).toEqual([]);
    expect(of('C90500', { family: 'tin', alloyIds: ['C90500', 'C83600'] })).toEqual([
      ['Crucible A has held leaded metal: tin bronze 88-10-2 never goes into it.', false],
    ]);
    expect(of('C92200', { family: 'leaded', alloyIds: ['C83600'] })).toEqual([]);
    expect(of('C87300', { state: 'retired' })[0]![1]).toBeFalse();
  });

  it('takes another family after a wash heat only, and beyond its life once somebody looked', () => {
    expect(of('C90500')[0]).toEqual([
      'Crucible A is for silicon bronzes, the last was silicon bronze: tin bronze 88-10-2 wants a wash heat before it.',
      true,
    ]);
    // The pot itself is for silicon bronze, but the last metal in it was not.
    expect(of('C87300', { alloyIds: ['C87300', 'C90500'] }).length).toBe(1);
    expect(of('C87300', { heats: 60 })[0]![0]).toContain('60 heats of the 60');
  });
});
