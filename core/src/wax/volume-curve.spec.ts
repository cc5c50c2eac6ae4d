// A model's curve: exact for a ball, whose shells are known.
import type { CurvePoint, SectionEstimate } from '../records/model.ts';
import { estimatedWax, waxFromDisplacement, waxFromSize, waxLikeAnother } from './estimates.ts';
import { plannedWax, waxesKnown } from './planned-wax.ts';
import { wallOfWax } from './section-wall.ts';
import { CURVE_WALLS_MM, volumeAt, wallFromCurve, waxFromCurve } from './volume-curve.ts';

/** The shell of a ball: 4π/3·(R³ − (R − t)³). */
const shellCm3 = (radius: number, wall: number): number =>
  ((4 / 3) * Math.PI * (radius ** 3 - Math.max(0, radius - wall) ** 3)) / 1000;
const BALL: CurvePoint[] = CURVE_WALLS_MM.map((wallMm) => ({
  wallMm,
  volumeCm3: shellCm3(50, wallMm),
  plusMinusCm3: 0.002 * shellCm3(50, wallMm),
}));
const estimate = (rest: Partial<SectionEstimate>): SectionEstimate => ({
  ...{ id: 'e', kind: 'model', waxKg: null, plusMinusKg: null, curve: null, areaCm2: null },
  ...{ says: 'said', at: '2027-03-01T08:00:00.000Z', modelId: null, voidReason: null },
  ...rest,
});
const section = { wallMm: 5, expectedWaxKg: null, areaCm2: null };

describe('a model’s curve', () => {
  it('gives the wax of walls between those that were measured, and beyond', () => {
    for (const wall of [4, 4.5, 6, 10])
      expect(volumeAt(BALL, wall).volumeCm3 / shellCm3(50, wall))
        .withContext(`${wall} mm`)
        .toBeCloseTo(1, 2.5);
    expect(volumeAt(BALL, 14).volumeCm3 / shellCm3(50, 14)).toBeCloseTo(1, 2);
    // 141.9 cm³ of the shell of a ball of R 50, t 5, at 0.93.
    expect(waxFromCurve(BALL, 5).value).toBeCloseTo(0.93 * 0.1419, 4);
    expect(() => volumeAt([], 5)).toThrowError(RangeError);
  });

  it('reads the wall of a weighed wax backwards, where the outer area reads thin', () => {
    const waxKg = (0.93 * shellCm3(50, 5)) / 1000;
    const { value, plusMinus } = wallFromCurve(waxKg, BALL);
    expect(value).toBeCloseTo(5, 3);
    expect(plusMinus! / value).toBeLessThan(0.01);
    // Handbook 2.2: over the outer area of R 50 the same wax reads 4.52.
    const outer = { areaCm2: 4 * Math.PI * 25, estimates: [] };
    expect(wallOfWax(waxKg, outer)!.value).toBeCloseTo(4.52, 2);
    expect(wallOfWax(waxKg, { ...outer, estimates: [estimate({ curve: BALL })] })!.value).toBeCloseTo(5, 3);
    expect(wallOfWax(waxKg, { areaCm2: null })).toBeUndefined();
  });
});

describe('what is known of a wax', () => {
  const modelled = estimate({ curve: BALL });
  const held = estimate({ id: 'd', kind: 'displacement', waxKg: 0.14, plusMinusKg: 0.0042 });

  it('counts by how sure it is, and the plan moves with the wall', () => {
    const all = { ...section, expectedWaxKg: 0.2, areaCm2: 314, estimates: [held, modelled] };
    // Model ± 0.2 %, displacement ± 3 %, a person's ± 10 %, area × wall ± 10 %.
    expect(waxesKnown(all).map(({ value }) => Math.round(value * 1000))).toEqual([132, 140, 200, 146]);
    expect(plannedWax({ ...all, wallMm: 6 })!.value).toBeCloseTo((0.93 * shellCm3(50, 6)) / 1000, 4);
    // Another wax weighs otherwise; what was held under water was weighed as it is.
    expect(plannedWax(all, 0.96)!.value / plannedWax(all, 0.93)!.value).toBeCloseTo(0.96 / 0.93, 9);
  });

  it('leaves out what was put away, and older ones of the same kind', () => {
    const later = estimate({
      id: 'd2',
      kind: 'displacement',
      waxKg: 0.15,
      plusMinusKg: 0.0045,
      at: '2027-04-01T08:00:00.000Z',
    });
    expect(plannedWax({ ...section, estimates: [held, later] })!.value).toBe(0.15);
    expect(plannedWax({ ...section, estimates: [held, { ...later, voidReason: 'read wrongly' }] })!.value).toBe(0.14);
    expect(plannedWax({ ...section, estimates: [{ ...held, voidReason: 'no' }] })).toBeUndefined();
    expect(estimatedWax({ ...modelled, voidReason: 'another took its place' }, 5, 0.93)).toBeUndefined();
  });

  it('comes from water, a size or another work, each with its spread', () => {
    expect(waxFromDisplacement(0.5).value).toBeCloseTo(0.465, 9);
    // A ball of 100 mm has 314.16 cm²; a quarter more for folds, wall 5, 0.93: 0.1826 kg.
    const ball = waxFromSize([100, 100, 100], 5);
    expect(ball.areaCm2).toBeCloseTo(1.25 * 314.16, 0);
    expect(ball.value).toBeCloseTo(0.1826, 3);
    // Twice as long: four times the surface at the same wall.
    expect(waxLikeAnother(0.75, 2, 'Otter').value).toBeCloseTo(3, 9);
    expect(() => waxFromSize([100, 0, 100], 5)).toThrowError(RangeError, /size/);
    expect(() => waxFromDisplacement(NaN)).toThrowError(RangeError);
  });
});
