import { inWords } from '../units/words.ts';
import type { Defect } from '../records/chasing.ts';
import { fillerKg } from './filler-kg.ts';
import { defectInWords, worstVerdict } from './verdict.ts';

const defect = (rest: Partial<Defect>): Defect => ({ code: 'gas', where: 'ear', mm: 3, verdict: 'weld', ...rest });

describe('an inspection', () => {
  it('comes to the worst of its verdicts', () => {
    expect(worstVerdict([])).toBe('accept');
    expect(worstVerdict([defect({ verdict: 'accept' }), defect({})])).toBe('weld');
    expect(worstVerdict([defect({}), defect({ verdict: 'recast' }), defect({ verdict: 'accept' })])).toBe('recast');
  });

  it('says each defect with its place, size and verdict', () => {
    expect(inWords(defectInWords(defect({})))).toBe('gas porosity, ear, 3 mm: weld');
    expect(inWords(defectInWords(defect({ where: '', mm: null, verdict: 'accept' })))).toBe('gas porosity: accept');
  });
});

describe('filler', () => {
  it('is seam × bead × density', () => {
    // 0.42 m × 40 mm² = 16.8 cm³; × 8.36 g/cm³ = 140 g.
    expect(fillerKg(0.42, 8.36).value).toBeCloseTo(0.1404, 4);
    expect(fillerKg(0.42, 8.36, 80).value).toBeCloseTo(0.2809, 4);
  });

  it('refuses a seam that is none', () => {
    expect(() => fillerKg(0, 8.36)).toThrowError(RangeError, /seam/);
  });
});
