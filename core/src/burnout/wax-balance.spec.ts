import { inWords } from '../units/words.ts';
import { waxBalance } from './wax-balance.ts';

const load = (recoveredKg: number) => waxBalance({ castsKg: 7.6, barsKg: 3.2, cupsKg: 1.6, recoveredKg });

describe('the wax of a load', () => {
  it('is missed beyond 15 %: somebody looks before it is fired', () => {
    const { inKg, missingKg, looks, says } = load(10.2);
    expect([inKg.toFixed(1), missingKg.toFixed(1), looks]).toEqual(['12.4', '2.2', true]);
    expect(inWords(says)).toBe('2.2 kg of wax are missing, 18 %: look into the shells before they are fired');
    expect(load(10.6).looks).toBeFalse();
    expect(inWords(load(11.8).says)).toBe('0.6 kg burnt or left inside, 5 %');
  });

  it('does not come back more than it went in, and none at all is no balance', () => {
    expect(inWords(load(13.4).says)).toBe('1.0 kg more came back than went in: weigh it again');
    // Within what two scales differ by.
    expect(inWords(load(12.5).says)).toBe('0.0 kg burnt or left inside, 0 %');
    expect(waxBalance({ castsKg: 0, barsKg: 0, cupsKg: 0, recoveredKg: 0 }).looks).toBeFalse();
    expect(() => load(-1)).toThrowError(RangeError, /wax recovered/);
  });
});
