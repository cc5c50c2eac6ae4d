import { plannedStep } from '../route/grow.ts';
import { scaleWeight } from './scale-weight.ts';

describe('a weight read off a scale', () => {
  const step = plannedStep(() => 's', 'chase-wax', 'cast', 'c');
  const read = (kg: number) => scaleWeight('w', 'wax', 'c', kg, { at: '2027-03-01T08:00:00.000Z', step });

  it('is good to half a per cent, and never to less than five grams', () => {
    expect([read(10).plusMinusKg, read(0.2).plusMinusKg]).toEqual([0.05, 0.005]);
    expect([read(10).kind, read(10).stepId]).toEqual(['scale', 's']);
  });

  it('is refused where the scale shows nothing', () => {
    expect(() => read(0)).toThrowError(RangeError, /weight, kg must be above zero/);
  });
});
