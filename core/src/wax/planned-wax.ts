import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Section } from '../records/work.ts';
import type { Figure } from '../units/figure.ts';
import { estimatedWax, spreadOf } from './estimates.ts';
import { waxFromWall } from './wall.ts';

/** What somebody expects is taken to be so sure, where nothing surer is known. */
const EXPECTED_SPREAD = 0.1;

type Known = Pick<Section, 'expectedWaxKg' | 'areaCm2' | 'wallMm' | 'estimates'>;

/** Every way in which a section's wax is known, the surest first; of equally sure ones what a person entered. */
export function waxesKnown(section: Known, waxDensity = PATTERN_WAX_DENSITY): Figure[] {
  const { expectedWaxKg, areaCm2, wallMm, estimates = [] } = section;
  const expected: Figure[] =
    expectedWaxKg === null
      ? []
      : [
          {
            value: expectedWaxKg,
            unit: 'kg',
            source: 'default',
            inWords: 'expected wax, entered by hand',
            inputs: {},
          },
        ];
  const newest = [...estimates].sort((a, b) => b.at.localeCompare(a.at));
  // Of one way of knowing the newest stands for all.
  const standing = newest.filter(
    ({ kind, voidReason }, i) =>
      voidReason === null && newest.findIndex((each) => each.kind === kind && each.voidReason === null) === i,
  );
  const all = [
    ...expected,
    ...standing.flatMap((each) => estimatedWax(each, wallMm, waxDensity) ?? []),
    ...(areaCm2 === null ? [] : [waxFromWall(wallMm, areaCm2, waxDensity)]),
  ];
  // Rounded: equally sure is equally sure, whatever the last digit says.
  const spread = (figure: Figure) => Math.round((figure === expected[0] ? EXPECTED_SPREAD : spreadOf(figure)) * 1e6);
  return all
    .map((figure, i) => ({ figure, i }))
    .sort((a, b) => spread(a.figure) - spread(b.figure) || a.i - b.i)
    .map(({ figure }) => figure);
}

/** A section's wax plan in kg: the surest of what is known; undefined where nothing is. */
export const plannedWax = (section: Known, waxDensity = PATTERN_WAX_DENSITY): Figure | undefined =>
  waxesKnown(section, waxDensity)[0];
