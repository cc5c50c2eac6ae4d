import { alloyOf } from '../materials/alloys.ts';
import { chvorinov, fillSeconds, gatedSeconds, fillShare, freezeSeconds, heatedMm } from './fill-seconds.ts';

const handbook = { meltsC: 868.5, liquidKgM3: 7800, latentJKg: 200_000, liquidJKgK: 450, superheatK: 200 };

describe('filling and freezing', () => {
  it('has the handbook’s constants of Chvorinov: 1.843 s/mm² at 20 °C, 18.40 at 600 °C; 11.5 and 115 s for 2.5 mm', () => {
    const cold = chvorinov({ ...handbook, mouldC: 20 });
    const hot = chvorinov({ ...handbook, mouldC: 600 });
    expect(cold).toBeCloseTo(1.843, 3);
    expect(hot).toBeCloseTo(18.4, 1);
    expect(cold * 2.5 ** 2).toBeCloseTo(11.5, 1);
    expect(hot * 2.5 ** 2).toBeCloseTo(115, 0);
    // α = 0.9 ÷ (1750 · 1100): in 115 s heat goes 7.3 mm deep.
    expect(heatedMm(115)).toBeCloseTo(7.3, 1);
  });

  it('refuses a mould as hot as the metal freezes at', () => {
    expect(() => chvorinov({ ...handbook, mouldC: 868.5 })).toThrowError(/868.5 °C does not freeze/);
  });

  it('says that the law is rough where heat passes a third of the shell', () => {
    const wall = { alloy: alloyOf('C87300'), wallMm: 5, cupC: 1150, mouldC: 600 };
    const words = (shellMm: number) => JSON.stringify(freezeSeconds({ ...wall, shellMm }).inWords);
    expect(words(8)).toContain('rough');
    expect(words(30)).not.toContain('rough');
  });

  it('fills through its choke: 40 kg, four gates of 12 mm, 0.75 m of head over a casting of 0.5 m in 3.51 s', () => {
    const tree = { metalKg: 40, liquidKgM3: 7900, chokeMm2: 576, headMm: 750, heightMm: 500 };
    expect(gatedSeconds(tree).value).toBeCloseTo(3.51, 2);
    // The handbook's 253 mm² fill it in its 8 s.
    expect(gatedSeconds({ ...tree, chokeMm2: 253 }).value).toBeCloseTo(8, 1);
    expect(() => gatedSeconds({ ...tree, headMm: 200 })).toThrowError(/effective head/);
  });

  it('takes 1.5 · ∛(kg · mm): 13 kg at 5 mm 6.0 s, and a wall of 2 mm in a mould of 100 °C freezes first', () => {
    expect(fillSeconds(13, 5).value).toBeCloseTo(6.03, 2);
    const alloy = alloyOf('C87300');
    const stands = (wallMm: number, mouldC: number, kg: number) =>
      fillShare(fillSeconds(kg, wallMm), freezeSeconds({ alloy, wallMm, cupC: 1150, mouldC })).stands;
    expect(stands(5, 600, 13)).toBe('fills');
    expect(stands(2, 100, 30)).toBe('freezes first');
    // 8 s of 11 or so.
    expect(stands(5, 20, 30)).toBe('tight');
    expect(() => fillSeconds(0, 5)).toThrowError(/metal, kg/);
  });
});
