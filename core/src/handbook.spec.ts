// The handbook's check values, one after another.
import {
  alloyOf,
  castFactor,
  castFromWax,
  charge,
  chargeFactor,
  chasingMinutes,
  coatsFor,
  coolingMinutes,
  cupVolumeCm3,
  barsVolumeCm3,
  DEFAULT_CUP,
  joinMinutes,
  meltEnergyKJPerKg,
  meltMinutes,
} from './index.ts';
import type { Quantity } from './index.ts';
import { inWords, kg } from './index.ts';
import { lift, originalScale, shellWeight, treeMetal, wallFromWax, waxDeviation, waxFromWall } from './index.ts';

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

describe('wall from weight', () => {
  // Sphere R 50 mm, wall 5 mm: wax volume 4/3·π·(5³−4.5³) = 141.9 cm³, outer area 4·π·5² = 314.2 cm².
  const waxKg = ((4 / 3) * Math.PI * (5 ** 3 - 4.5 ** 3) * 0.93) / 1000;
  const area = 4 * Math.PI * 25;

  it('reads a curved wall thin over the outer area: 4.52 mm, and says so', () => {
    const wall = wallFromWax(waxKg, area);
    expect(wall.value).toBeCloseTo(4.52, 2);
    expect(wall.plusMinus! / wall.value).toBeCloseTo(0.1, 6);
    expect(inWords(wall.inWords)).toContain('reads thin');
  });

  it('is the inverse of the wax that a wall asks for', () => {
    expect(wallFromWax(waxFromWall(5, area).value, area).value).toBeCloseTo(5, 9);
  });
});

describe('shrinkage chain', () => {
  it('makes the original 1.0317 times the bronze for 0.3, 1.0 and 1.8 %', () => {
    expect(originalScale({ mould: 0.003, wax: 0.01, metal: 0.018 }).value).toBeCloseTo(1.0317, 4);
  });

  it('refuses a shrinkage typed in per cent', () => {
    expect(() => originalScale({ mould: 0.3, wax: 0.01, metal: 0.018 })).toThrowError(
      /mould shrinkage must be from 0 to 0.2/,
    );
  });
});

describe('tree metal', () => {
  it('measures the default cup at 659 cm³', () => {
    expect(cupVolumeCm3(DEFAULT_CUP)).toBeCloseTo(659, 0);
  });

  it('measures square and round bars by their section', () => {
    expect(barsVolumeCm3([{ stock: 'S10', count: 2, lengthMm: 150 }])).toBeCloseTo(30, 9);
    expect(barsVolumeCm3([{ stock: 'R20', count: 1, lengthMm: 100 }])).toBeCloseTo(10 * Math.PI, 9);
    expect(() => barsVolumeCm3([{ stock: 'S11', count: 1, lengthMm: 1 }])).toThrowError(/no bar stock S11/);
  });

  it('adds casts, bars, the filled part of the cup and the spill, and gives the yield', () => {
    const metal = treeMetal({
      castsKg: 6.4,
      bars: [{ stock: 'S10', count: 2, lengthMm: 150 }],
      cup: DEFAULT_CUP,
      densityGPerCm3: 8.36,
    });
    // 6.4 + 30 cm³·8.36 + 659.6 cm³·8.36·0.7 + 0.3 kg
    expect(metal.pourWeight.value).toBeCloseTo(6.4 + 0.2508 + 3.859 + 0.3, 2);
    expect(metal.yield.value).toBeCloseTo((6.4 / metal.pourWeight.value) * 100, 9);
  });
});

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

describe('coats, shell and lifting', () => {
  it('starts at 6 coats and adds one per 100 mm above 200, at most 20', () => {
    expect([200, 300, 450, 5000].map(coatsFor)).toEqual([6, 7, 9, 20]);
    expect(coatsFor(null)).toBe(8);
  });

  it('weighs a shell by area, wall and 1.75 g/cm³', () => {
    // 1600 cm² × 0.72 cm × 1.75 g/cm³
    expect(shellWeight(1600, 8).value).toBeCloseTo(2.016, 3);
  });

  it('flags what is over the lift limit and leaves the rule to the place', () => {
    expect(lift({ wax: 2, shell: 20 }).tooHeavy).toBeFalse();
    const heavy = lift({ shell: 8, metal: 30 });
    expect(heavy.tooHeavy).toBeTrue();
    expect(inWords(heavy.inWords)).toContain('local rules decide');
  });
});

describe('cooling before knock-out', () => {
  it('is 2 h and 0.2 h a kilogram, at most a day', () => {
    expect(coolingMinutes(10)).toBe(240);
    expect(coolingMinutes(500)).toBe(1440);
  });
});

describe('melting', () => {
  it('takes the energy and the time of the handbook’s example', () => {
    const tin = alloyOf('C90500');
    // 20 → 1150 °C: 640.0 kJ/kg; 100 kg hold 17.78 kWh.
    expect(meltEnergyKJPerKg(tin, 1150)).toBeCloseTo(640.0, 1);
    const melt = meltMinutes(100, tin, { powerKw: 100, efficiency: 0.12 }, 1150);
    expect((melt.inputs['held'] as Quantity).value).toBeCloseTo(17.78, 2);
    // 17.78 ÷ 0.12 ÷ 100 h.
    expect(melt.value).toBeCloseTo(88.9, 1);
    expect(() => meltEnergyKJPerKg(tin, 900)).toThrowError(RangeError);
  });
});

describe('hours in the metal shop', () => {
  it('come from seam and surface, and from the weight where no surface is known', () => {
    // 0.42 m × 6 h/m = 2.52 h; 4 h where nothing is given.
    expect(joinMinutes(0.42)).toBe(151);
    expect(joinMinutes(null)).toBe(240);
    // 1600 cm² × 15 h/m² = 2.4 h; 8 kg: 1.5 × 8^⅔ = 6 h.
    expect(chasingMinutes(1600, 8)).toBe(144);
    expect(chasingMinutes(null, 8)).toBe(360);
    expect(chasingMinutes(null, null)).toBeUndefined();
  });
});
