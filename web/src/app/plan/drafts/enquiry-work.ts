import type { Day, SetUpWork } from '@kalvet/core';
import { codeOfTitle } from '@kalvet/core';

/** What somebody who asks for pieces says. */
export interface Asked {
  readonly title: string;
  readonly pieces: number;
  readonly wantedBy: Day | null;
  /** The height of the metal, mm; that of the work it is like where nobody says. */
  readonly heightMm: number | null;
  /** A work of the shop that it is like; none where only its height is known. */
  readonly like: SetUpWork | undefined;
}

const PLAIN_WALL_MM = 5;
/** Figures keep three places: a gram, a tenth of a millimetre. */
const round = (value: number | null): number | null => (value === null ? null : Number(value.toFixed(3)));

/** The tallest section of a work, mm; null where no height is known. */
export const heightOf = (work: SetUpWork | undefined): number | null => {
  const heights = (work?.sections ?? []).flatMap(({ metalHeightMm }) => metalHeightMm ?? []);
  return heights.length === 0 ? null : Math.max(...heights);
};

/**
 * A work that is asked for, as it would be set up. Like another one but for its size: heights and seams grow with the size,
 * areas with its square, and so does the wax of a hollow cast, whose wall stays.
 * @param taken codes that stand on other tags
 */
export function enquiryWork(
  { title, pieces, wantedBy, heightMm, like }: Asked,
  id: string,
  taken: readonly string[],
): SetUpWork {
  const known = heightOf(like);
  const size = heightMm !== null && known !== null ? heightMm / known : 1;
  const rest = {
    id,
    code: freeCode(title, taken),
    title: title.trim(),
    editionSize: pieces,
    artistProofs: 0,
    dueDate: wantedBy,
  };
  if (!like) {
    const whole = { name: 'Whole', wallMm: PLAIN_WALL_MM, metalHeightMm: heightMm, expectedWaxKg: null, areaCm2: null };
    return {
      ...rest,
      artist: 'not known yet',
      alloyId: 'C87300',
      method: 'shell',
      approval: 'first',
      finish: '',
      finishing: 'patina',
      glyph: 'figure',
      sections: [{ ...whole, seamM: null, deep: false }],
      moulds: [{ name: 'Whole', sections: [1], pullsBefore: 0 }],
    };
  }
  return {
    ...like,
    ...rest,
    sections: like.sections.map((section) => ({
      ...section,
      metalHeightMm: round(section.metalHeightMm && section.metalHeightMm * size),
      expectedWaxKg: round(section.expectedWaxKg && section.expectedWaxKg * size ** 2),
      areaCm2: round(section.areaCm2 && section.areaCm2 * size ** 2),
      seamM: round(section.seamM && section.seamM * size),
      typed: {},
    })),
    // Its moulds are made for it.
    moulds: like.moulds
      .filter((mould, i, all) => all.findIndex((other) => `${other.sections}` === `${mould.sections}`) === i)
      .map((mould) => ({ ...mould, pullsBefore: 0 })),
  };
}

/** Three letters of the title, with a digit in place of the last where they are on other tags. */
function freeCode(title: string, taken: readonly string[]): string {
  const code = codeOfTitle(title).padEnd(3, 'X');
  const free = [code, ...'23456789'.split('').map((digit) => code.slice(0, 2) + digit)];
  return free.find((each) => !taken.includes(each)) ?? code;
}
