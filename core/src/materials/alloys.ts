export const ALLOY_FAMILIES = ['silicon', 'tin', 'leaded', 'aluminium bronze', 'aluminium'] as const;
export type AlloyFamily = (typeof ALLOY_FAMILIES)[number];

export const FAMILY_NAMES: Readonly<Record<AlloyFamily, string>> = {
  silicon: 'silicon bronzes',
  tin: 'tin bronzes without lead',
  leaded: 'leaded bronzes',
  'aluminium bronze': 'aluminium bronze',
  aluminium: 'aluminium',
};

/** A casting alloy. Densities in g/cm³ (= kg/dm³), temperatures in °C, contraction as a share of length. */
export interface Alloy {
  readonly id: string;
  readonly name: string;
  readonly densityGPerCm3: number;
  readonly solidusC: number;
  readonly liquidusC: number;
  /** Linear solid contraction, 0.017 = 1.7 %. */
  readonly contraction: number;
  /** Specific heat, solid and liquid, kJ/kg·K, and heat of fusion, kJ/kg. */
  readonly solidKJPerKgK: number;
  readonly liquidKJPerKgK: number;
  readonly latentKJPerKg: number;
  /** Addition just before the pour; none for silicon bronze, aluminium bronze and A356. */
  readonly addition: 'phosphor copper' | 'none';
  /** Alloys of one family share a crucible; silicon in tin bronze, or tin in silicon bronze, spoils it. */
  readonly family: AlloyFamily;
  /** Holds lead: pour and chase only with the controls the law asks for. */
  readonly leaded: boolean;
}

/** Heats of the copper alloys (those of C90500 stand for all: they differ by a few per cent) and of A356. */
const BRONZE_HEATS = { solidKJPerKgK: 0.38, liquidKJPerKgK: 0.45, latentKJPerKg: 195 };
const ALUMINIUM_HEATS = { solidKJPerKgK: 0.96, liquidKJPerKgK: 1.08, latentKJPerKg: 389 };

const alloy = (
  id: string,
  name: string,
  densityGPerCm3: number,
  solidusC: number,
  liquidusC: number,
  contractionPercent: number,
  addition: Alloy['addition'],
  family: AlloyFamily,
): Alloy => ({
  id,
  name,
  densityGPerCm3,
  solidusC,
  liquidusC,
  contraction: contractionPercent / 100,
  addition,
  family,
  leaded: family === 'leaded',
  ...(id === 'A356' ? ALUMINIUM_HEATS : BRONZE_HEATS),
});

/** General data-sheet values; the shop's own supplier sheet replaces them. The first is the default. */
export const ALLOYS: readonly Alloy[] = [
  alloy('C87300', 'silicon bronze', 8.36, 821, 916, 1.7, 'none', 'silicon'),
  alloy('C87600', 'silicon brass', 8.3, 860, 971, 1.7, 'none', 'silicon'),
  alloy('C90500', 'tin bronze 88-10-2', 8.72, 854, 999, 1.4, 'phosphor copper', 'tin'),
  alloy('C90300', 'tin bronze 88-8-4', 8.8, 854, 1000, 1.4, 'phosphor copper', 'tin'),
  alloy('C83600', 'red brass 85-5-5-5', 8.83, 854, 1010, 1.4, 'phosphor copper', 'leaded'),
  alloy('C92200', 'leaded tin bronze', 8.64, 826, 988, 1.4, 'phosphor copper', 'leaded'),
  alloy('C95400', 'aluminium bronze', 7.45, 1027, 1038, 2.0, 'none', 'aluminium bronze'),
  alloy('A356', 'aluminium', 2.68, 557, 613, 1.2, 'none', 'aluminium'),
];

export const DEFAULT_ALLOY_ID = 'C87300';

/** The alloy of a code. @throws RangeError naming the codes that exist */
export function alloyOf(id: string): Alloy {
  const found = ALLOYS.find((candidate) => candidate.id === id);
  if (!found) throw new RangeError(`no alloy ${id}; there are ${ALLOYS.map((known) => known.id).join(', ')}`);
  return found;
}
