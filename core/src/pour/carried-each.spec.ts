import { inWords } from '../units/words.ts';
import { carriedEach } from './carried-each.ts';

describe('what each carrier of a crucible lifts', () => {
  it('is the crucible, its metal and the tongs, shared', () => {
    // (24 + 116 + 14) / 2 = 77 kg: three times what one person may lift.
    expect(carriedEach(24, 116, 14, 2).value).toBeCloseTo(77, 9);
    expect(inWords(carriedEach(24, 116, 14, 2).inWords)).toContain('metal 116');
  });

  it('refuses what cannot be', () => {
    expect(() => carriedEach(24, -1, 14, 2)).toThrowError(RangeError, /metal/);
    expect(() => carriedEach(24, 100, 14, 0)).toThrowError(RangeError, /carriers/);
  });
});
