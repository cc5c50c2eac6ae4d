import type { BookedHeat } from '../records/fire-records.ts';
import { heatSums } from './heat-sums.ts';

const heat = (rest: Partial<BookedHeat>): BookedHeat => ({
  id: 'h',
  number: 1,
  alloyId: 'C87300',
  state: 'done',
  at: '2026-03-05T12:00:00.000Z',
  trees: 4,
  troubled: 0,
  chargeKg: 100,
  returnsKg: 40,
  pouredKg: 95,
  pigKg: 3,
  castsKg: 66.5,
  castsPouredKg: 95,
  energyKwh: 200,
  ...rest,
});

describe('heats added up', () => {
  it('count by their kilograms: loss 2 of 100 and 6 of 60 are 5 %, not 6', () => {
    const sums = heatSums([
      heat({}),
      heat({ chargeKg: 60, returnsKg: 0, pouredKg: 50, pigKg: 4, castsKg: null, energyKwh: null, troubled: 1 }),
    ]);
    expect(sums.lossShare).toBeCloseTo(8 / 160, 9);
    // Yield by what is knocked out, energy by what was metered.
    expect([sums.yieldShare, sums.kwhPerKg, sums.returnsShare, sums.troubledShare]).toEqual([0.7, 2, 0.25, 1 / 8]);
  });

  it('say nothing where nothing was weighed, and leave a heat out that is not over', () => {
    expect(heatSums([])).toEqual(jasmine.objectContaining({ heats: 0, lossShare: null, kwhPerKg: null }));
    expect(heatSums([heat({ state: 'running', pigKg: null })]).lossShare).toBeNull();
  });
});
