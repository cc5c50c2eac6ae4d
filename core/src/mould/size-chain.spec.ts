import { alloyOf } from '../materials/alloys.ts';
import { chainOfShrinkages } from './original-scale.ts';
import { sizeChain } from './size-chain.ts';

const CHAIN = { mould: 0.0045, wax: 0.011, metal: 0.017 };

describe('the chain of sizes', () => {
  it('goes from the wanted bronze back to wax and original', () => {
    const { original, wax, bronze, toWax, toOriginal } = sizeChain(200, { bronzeMm: 400 }, CHAIN);
    expect([original.value, wax.value, bronze.value].map((each) => Math.round(each * 10) / 10)).toEqual([
      413.3, 406.9, 400,
    ]);
    expect([toWax, toOriginal]).toEqual([wax.value / 200, original.value / 200]);
    // Handbook 2.1: 0.3, 1.0 and 1.8 % → × 1.0317.
    const handbook = sizeChain(1, { bronzeMm: 1 }, { mould: 0.003, wax: 0.01, metal: 0.018 });
    expect(handbook.toOriginal).toBeCloseTo(1.0317, 4);
  });

  it('and from an original as it is to the bronze that comes of it', () => {
    const { bronze, toOriginal } = sizeChain(413.3, { bronzeMm: null }, CHAIN);
    expect(toOriginal).toBe(1);
    expect(bronze.value).toBeCloseTo(400, 0);
    expect(() => sizeChain(0, { bronzeMm: null }, CHAIN)).toThrowError(RangeError, /length/);
    expect(() => sizeChain(10, { bronzeMm: -4 }, CHAIN)).toThrowError(RangeError, /bronze/);
  });

  it('shrinks by its rubber, wax and alloy; of a direct wax only the metal does', () => {
    const bronze = alloyOf('C87300');
    expect(chainOfShrinkages(bronze)).toEqual(CHAIN);
    expect(chainOfShrinkages(bronze, { rubber: 'latex' }).mould).toBe(0.04);
    // The model is the wax: nothing is moulded.
    const direct = sizeChain(300, { bronzeMm: null }, chainOfShrinkages(bronze, { method: 'direct' }));
    expect([direct.toWax, Math.round(direct.bronze.value * 10) / 10]).toEqual([1, 294.9]);
  });
});
