import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/**
 * What each carrier lifts when the crucible is carried: (crucible + metal + tongs) ÷ carriers, kg. To be held against the
 * shop's lift limit; local rules and a competent person decide.
 * @throws RangeError where a weight is negative or nobody carries
 */
export function carriedEach(crucibleKg: number, metalKg: number, tongsKg: number, carriers: number): Figure {
  const whole =
    within('crucible, kg', crucibleKg, 0, 1e4) +
    within('metal, kg', metalKg, 0, 1e5) +
    within('tongs, kg', tongsKg, 0, 1e4);
  return {
    value: whole / positive('carriers', carriers),
    unit: 'kg',
    source: 'computed',
    inWords: say`(crucible ${kg(crucibleKg, 0)} + metal ${kg(metalKg, 0)} + tongs ${kg(tongsKg, 0)}) ÷ ${carriers}`,
    inputs: { crucible: kg(crucibleKg), metal: kg(metalKg), tongs: kg(tongsKg), carriers },
  };
}
