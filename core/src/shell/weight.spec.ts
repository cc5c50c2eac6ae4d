import { inWords } from '../units/words.ts';
import { lift, shellWeight } from './weight.ts';

describe('a shell on its way', () => {
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
