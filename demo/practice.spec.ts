import { DEFAULT_SETTINGS, SCENARIOS } from '@kalvet/core';
import { practiceShop } from './practice.ts';

describe('a practice shop', () => {
  it('is played on a shop whose trees wait for their metal, each scenario', () => {
    for (const scenario of SCENARIOS) {
      const { stage, heatId } = practiceShop(DEFAULT_SETTINGS, '2027-03-04T10:00:00.000Z', scenario);
      const index = stage.shop.whole();
      const pourings = index.inHeat.get(heatId)!;
      expect(pourings.length).withContext(scenario.id).toBe(scenario.trees.length);
      expect(pourings.every(({ place }) => place !== null)).toBeTrue();
      expect(index.heat.get(heatId)!.state).toBe('charged');
    }
  });
});
