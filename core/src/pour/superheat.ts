import type { Alloy } from '../materials/alloys.ts';
import type { Range } from '../records/pour-page.ts';

/** Superheat over the liquidus, K: silicon bronze 120–280, the others 100–200 (general practice; the shop's own replaces it). */
const SUPERHEAT: Readonly<Record<string, Range>> = { C87300: [120, 280] };

const USUAL_SUPERHEAT: Range = [100, 200];

export const superheatOf = ({ id }: Pick<Alloy, 'id'>): Range => SUPERHEAT[id] ?? USUAL_SUPERHEAT;
