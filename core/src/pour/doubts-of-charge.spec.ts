import { inWords } from '../units/words.ts';
import { doubtsOfCharge, doubtsOfPour } from './doubts-of-charge.ts';

describe('what a heat is asked about', () => {
  const said = (refusals: ReturnType<typeof doubtsOfCharge>) => refusals.map(({ message }) => inWords(message));

  it('a charge far from what its trees ask for, not one that is not written down yet', () => {
    expect(doubtsOfCharge([], 83.8)).toEqual([]);
    expect(doubtsOfCharge([{ kg: 50.8 }, { kg: 33 }], 83.8)).toEqual([]);
    // 50.8 kg as 508.
    expect(said(doubtsOfCharge([{ kg: 508 }, { kg: 33 }], 83.8))).toEqual([
      '541.0 kg charged, but the trees ask for 83.8 kg. Is it so?',
    ]);
    expect(doubtsOfCharge([{ kg: 20 }], 83.8).length).toBe(1);
  });

  it('more metal poured than the charge can have left', () => {
    expect(doubtsOfPour(20, 83.8, 60)).toEqual([]);
    expect(said(doubtsOfPour(30, 83.8, 60))).toEqual([
      '30.0 kg poured, but of 83.8 kg charged 23.8 kg are left. Is it so?',
    ]);
    expect(doubtsOfPour(undefined, 83.8, 60)).toEqual([]);
  });
});
