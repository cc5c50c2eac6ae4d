import { blockMix } from './block-mix.ts';

describe('a block of refractory plaster', () => {
  it('is mixed by volume: block less tree and five per cent, 1.25 kg of powder and half a litre of water a litre', () => {
    const mix = blockMix({ acrossMm: 400, deepMm: 400, highMm: 600 }, 7, 6.9);
    // 96 l less 7: 89 l, and five per cent.
    expect(mix.litres).toBeCloseTo(93.45, 6);
    expect(mix.powderKg).toBeCloseTo(116.8125, 6);
    expect(mix.waterL).toBeCloseTo(46.725, 6);
    // 89 l of 1.75 kg and the wax in it.
    expect(mix.wetKg.value).toBeCloseTo(162.65, 6);
  });

  it('holds its tree', () => {
    expect(() => blockMix({ acrossMm: 100, deepMm: 100, highMm: 100 }, 7, 6.9)).toThrowError(RangeError, /tree/);
    expect(() => blockMix({ acrossMm: 0, deepMm: 100, highMm: 100 }, 0.1, 0.1)).toThrowError(RangeError, /flask/);
  });
});
