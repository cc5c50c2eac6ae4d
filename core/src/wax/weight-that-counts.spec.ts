import type { Weight } from '../records/wax.ts';
import { addMinutes } from '../units/instant.ts';
import { weightThatCounts } from './weight-that-counts.ts';

const START = '2027-03-01T08:00:00.000Z';
const weight = (kg: number, plusMinusKg: number, rest: Partial<Weight> = {}): Weight => ({
  id: `${kg}`,
  of: 'wax',
  castId: 'c',
  treeId: null,
  kind: 'scale',
  kg,
  plusMinusKg,
  at: START,
  voidReason: null,
  stepId: null,
  version: 1,
  ...rest,
});

describe('which weight counts', () => {
  it('the one with the smallest relative uncertainty, not the newest', () => {
    const rough = weight(1, 0.1, { kind: 'size', at: addMinutes(START, 600) });
    expect(weightThatCounts([rough, weight(0.9, 0.005)])!.kg).toBe(0.9);
  });

  it('among equals the newest, and never a void one', () => {
    const [old, young] = [weight(0.8, 0.004), weight(0.8, 0.004, { at: addMinutes(START, 5), id: 'young' })];
    expect(weightThatCounts([young, old])!.id).toBe('young');
    expect(weightThatCounts([weight(0.8, 0.001, { voidReason: 'wrong scale' }), weight(0.7, 0.1)])!.kg).toBe(0.7);
    expect(weightThatCounts([])).toBeUndefined();
  });

  it('of two weighings the newer one, also where it is lighter and less exact', () => {
    const first = weight(0.9, 0.005, { id: 'first' });
    const again = weight(0.8, 0.02, { id: 'again', at: addMinutes(START, 30) });
    expect(weightThatCounts([first, again])!.id).toBe('again');
    expect(weightThatCounts([again, first])!.id).toBe('again');
  });

  it('never one from before the thing was last changed', () => {
    const before = weight(0.9, 0.005, { id: 'before' });
    const mended = addMinutes(START, 60);
    expect(weightThatCounts([before], mended)).toBeUndefined();
    const since = weight(0.95, 0.2, { id: 'since', kind: 'size', at: addMinutes(START, 61) });
    expect(weightThatCounts([before, since], mended)!.id).toBe('since');
    // Weighed at the very moment counts: the record of the mending and the weight are one.
    expect(weightThatCounts([weight(0.9, 0.005, { at: mended })], mended)).toBeDefined();
  });
});
