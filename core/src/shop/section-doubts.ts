import type { Asked } from '../records/expectation.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce } from '../records/refusal.ts';
import type { SectionGiven } from '../records/work-writes.ts';
import { around, meantBy } from '../route/doubts.ts';
import { cm2, kg, mm, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import { waxFromWall } from '../wax/wall.ts';

/**
 * What is unlikely of a section as it is entered: a wax a third or three times of what its wall asks for over its area. One
 * of the three is a slip then: grams for kilograms, square metres for square centimetres.
 */
export function sectionDoubt(section: SectionGiven, path: string): Asked | undefined {
  const { wallMm, areaCm2, expectedWaxKg, name } = section;
  if (!(wallMm > 0) || !areaCm2 || !expectedWaxKg) return undefined;
  const asks = waxFromWall(wallMm, areaCm2).value;
  const likely = around(asks);
  if (expectedWaxKg >= likely.low && expectedWaxKg <= likely.high) return undefined;
  const meant = meantBy(likely, expectedWaxKg, 'kg');
  return {
    field: `${path}.expectedWaxKg`,
    value: quantity(expectedWaxKg, 'kg', 3),
    says: say`${name === '' ? 'The wax' : name} ${kg(expectedWaxKg, 3)}, but a wall of ${mm(wallMm)} over ${cm2(areaCm2)} takes ${kg(asks, 2)}`,
    ...(meant === undefined ? {} : { instead: quantity(meant, 'kg', 3) }),
  };
}

/** The questions about all sections of a set-up. */
export const sectionDoubts = (sections: readonly SectionGiven[]): Refusal[] =>
  sections.flatMap((section, i) => {
    const asked = sectionDoubt(section, `sections.${i}`);
    return asked ? [askOnce(asked)] : [];
  });
