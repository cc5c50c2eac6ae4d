// Check values of the handbook (2.4): what metal pushes with, and what round and flat walls bear of it.
import { inWords } from '../units/words.ts';
import { flatWallStress, judgeStrength, metalPressure, roundWallStress } from './strength.ts';

describe('the strength of a shell', () => {
  const { value: pressure } = metalPressure(600);

  it('is asked by the metal’s height: 0.6 m push with 45.9 kPa', () => {
    expect(pressure * 1000).toBeCloseTo(45.9, 1);
    expect(roundWallStress(pressure, 60, 8).value).toBeCloseTo(0.34, 2);
    expect(flatWallStress(pressure, 150, 8).value).toBeCloseTo(4.97, 2);
    expect(() => metalPressure(0)).toThrowError(RangeError, /metal height/);
  });

  it('holds round with room to spare, and asks a flat for ribs or coats until it does', () => {
    const round = judgeStrength(roundWallStress(pressure, 60, 8), { wallMm: 8, coatMm: 0.9, byWall: 1 });
    expect([round.coatsMore, Math.round(round.share * 100)]).toEqual([0, 14]);
    const flat = judgeStrength(flatWallStress(pressure, 150, 8), { wallMm: 8, coatMm: 0.9, byWall: 2 });
    // 4.97 MPa with a safety of two against 5: the wall must grow by √1.99 to 11.3 mm, four coats of 0.9.
    expect(flat.coatsMore).toBe(4);
    expect(inWords(flat.says)).toContain('4 coats more, or ribs');
    const thicker = 8 + 4 * 0.9;
    expect(
      judgeStrength(flatWallStress(pressure, 150, thicker), { wallMm: thicker, coatMm: 0.9, byWall: 2 }).coatsMore,
    ).toBe(0);
  });
});
