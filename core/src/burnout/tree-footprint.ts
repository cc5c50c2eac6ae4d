import { positive } from '../units/figure.ts';

/** What of a section counts for the room that its cast takes, invested. */
export interface SectionSize {
  readonly metalHeightMm: number | null;
  readonly areaCm2: number | null;
}

/** A tree as it stands in the kiln, its cup down, mm. */
export interface TreeSize {
  readonly acrossMm: number;
  readonly deepMm: number;
  readonly highMm: number;
}

/** Where nobody knows a section's height or surface. */
const UNKNOWN = { heightMm: 250, areaCm2: 1600 };
/** Runners, ingates and the cup below what is cast. */
const CUP_MM = 120;
/** Runners beside what is cast. */
const BARS_MM = 40;
const MM2_A_CM2 = 100;
/** A flask stands so far round what is in it. */
const BLOCK_COVER_MM = 80;

/**
 * About how much room a tree takes in the kiln, from its sections' heights and surfaces: each cast as an upright box whose four
 * sides are its surface, side by side in rows, with the shell's wall or the block's cover round it. A measured size replaces it.
 * @param wallMm of the sealed shell; @param isBlock it stands in a block of refractory plaster
 */
export function treeFootprint(
  sections: readonly SectionSize[],
  { wallMm, isBlock }: { readonly wallMm: number; readonly isBlock: boolean },
): TreeSize {
  positive('casts', sections.length);
  const boxes = sections.map(({ metalHeightMm, areaCm2 }) => {
    const heightMm = metalHeightMm ?? UNKNOWN.heightMm;
    return { heightMm, sideMm: ((areaCm2 ?? UNKNOWN.areaCm2) * MM2_A_CM2) / (4 * heightMm) };
  });
  const round = 2 * (isBlock ? BLOCK_COVER_MM : wallMm) + BARS_MM;
  const inRow = Math.ceil(Math.sqrt(boxes.length));
  const rows = Math.ceil(boxes.length / inRow);
  const side = Math.max(...boxes.map(({ sideMm }) => sideMm));
  const highest = Math.max(...boxes.map(({ heightMm }) => heightMm));
  return {
    acrossMm: Math.round(inRow * side + round),
    deepMm: Math.round(rows * side + round),
    highMm: Math.round(highest + CUP_MM + (isBlock ? BLOCK_COVER_MM : wallMm)),
  };
}
