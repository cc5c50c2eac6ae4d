import { inWords } from '../units/words.ts';
import { balanceOf, offInWords } from './balance.ts';

describe('a balance of metal', () => {
  it('closes within 3 % or 0.3 kg, whichever is more', () => {
    expect(balanceOf(40, 38.9).isOff).toBeFalse();
    expect(balanceOf(40, 38.7).isOff).toBeTrue();
    expect(balanceOf(4, 3.75).isOff).toBeFalse();
    expect(balanceOf(4, 3.65).isOff).toBeTrue();
  });

  it('counts what a melt is expected to lose, and says what is missing or too much', () => {
    // 100 kg at 2 %: 2 kg burn; 5 kg less than went in are 3 kg missing, which 3 % lets pass.
    expect(balanceOf(100, 95, 2).isOff).toBeFalse();
    const short = balanceOf(100, 94, 2);
    expect([short.isOff, inWords(offInWords(short, 2))]).toEqual([true, '4.0 kg are missing']);
    expect(inWords(offInWords(balanceOf(10, 11.1)))).toBe('1.1 kg are too much');
  });
});
