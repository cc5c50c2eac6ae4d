import { charge } from './charge.ts';

describe('charge', () => {
  const wanted = {
    pourWeightsKg: [30, 28.5],
    pigReserveKg: 2,
    meltLoss: 0.02,
    returnsShare: 0.5,
    returnsKg: 40,
    usableKg: 120,
    holdsKg: 130,
  };

  it('adds the pig and divides by what the melt leaves', () => {
    expect(charge(wanted).charge.value).toBeCloseTo(60.5 / 0.98, 9);
  });

  it('takes returns up to the share, and never more than there are', () => {
    expect(charge(wanted).returnsKg).toBeCloseTo(60.5 / 0.98 / 2, 9);
    expect(charge({ ...wanted, returnsKg: 10 }).returnsKg).toBe(10);
  });

  it('knows the usable mark from what the crucible holds', () => {
    const full = charge({ ...wanted, pourWeightsKg: [120] });
    expect(full.overUsable).toBeTrue();
    expect(full.overHolds).toBeFalse();
    expect(charge({ ...wanted, pourWeightsKg: [130] }).overHolds).toBeTrue();
    expect(charge({ ...wanted, pourWeightsKg: [5] }).tooLittle).toBeTrue();
  });
});
