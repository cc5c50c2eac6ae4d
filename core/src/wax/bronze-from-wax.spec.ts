import { alloyOf } from '../materials/alloys.ts';
import { kg } from '../units/quantity.ts';
import { inWords } from '../units/words.ts';
import { castFactor, castFromWax, chargeFactor, waxDeviation } from './bronze-from-wax.ts';

const silicon = alloyOf('C87300');
const tin = alloyOf('C90500');

describe('wax to bronze', () => {
  it('takes the contraction off for the cold casting: 8.54 silicon bronze, 8.99 tin bronze', () => {
    expect(castFactor(silicon)).toBeCloseTo(8.54, 2);
    expect(castFactor(tin)).toBeCloseTo(8.99, 2);
  });

  it('leaves it on for the charge, the safe side: 8.99 for silicon bronze', () => {
    expect(chargeFactor(silicon)).toBeCloseTo(8.99, 2);
    expect(chargeFactor(silicon)).toBeGreaterThan(castFactor(silicon));
  });

  it('says how the figure came about', () => {
    const bronze = castFromWax(0.75, silicon);
    expect(bronze.value).toBeCloseTo(6.404, 3);
    expect(inWords(bronze.inWords)).toContain('contraction taken off');
    expect(bronze.inputs['wax']).toEqual(kg(0.75, 3));
  });

  it('refuses a wax that weighs nothing', () => {
    expect(() => castFromWax(0, silicon)).toThrowError(RangeError, /wax weight must be above zero/);
  });
});

describe('a weighed wax against its plan', () => {
  it('is flagged outside ten per cent, in kilograms of bronze', () => {
    const over = waxDeviation(0.855, 0.75, silicon);
    expect(over.flagged).toBeTrue();
    expect(inWords(over.inWords)).toBe('Wax 14 % over: +0.9 kg bronze');
  });

  it('is not flagged at exactly ten per cent, although 0.825 ÷ 0.75 is not 1.1 in binary', () => {
    expect(waxDeviation(0.825, 0.75, silicon).flagged).toBeFalse();
    expect(waxDeviation(0.675, 0.75, silicon).flagged).toBeFalse();
  });

  it('says under with a minus', () => {
    expect(inWords(waxDeviation(0.6, 0.75, silicon).inWords)).toBe('Wax 20 % under: −1.3 kg bronze');
  });
});
