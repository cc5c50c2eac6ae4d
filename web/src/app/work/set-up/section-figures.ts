import type { SectionGiven } from '@kalvet/core';

/** The figures of a section that are typed, in the order in which they are asked. */
export const SECTION_FIGURES = [
  { key: 'metalHeightMm', label: 'Height of the metal', unit: 'mm', decimals: 0, id: 'height' },
  { key: 'wallMm', label: 'Wall', unit: 'mm', decimals: 1, id: 'wall' },
  { key: 'expectedWaxKg', label: 'Expected wax', unit: 'kg', decimals: 3, id: 'expected-wax' },
  { key: 'areaCm2', label: 'Outer area', unit: 'cm2', decimals: 0, id: 'area' },
  { key: 'seamM', label: 'Seam', unit: 'm', decimals: 2, id: 'seam' },
] as const;

export type SectionFigure = (typeof SECTION_FIGURES)[number];

type Nullable<T> = { readonly [K in keyof T]: T[K] | null };

/** A section while it is filled in. */
export type SectionRow = Nullable<Omit<SectionGiven, 'typed'>> & {
  readonly typed?: Readonly<Record<string, string>>;
  /** Sections of the same number come out of one mould. */
  readonly mould: number | null;
};

/** The name of the only section of a work. */
export const WHOLE = 'Whole';

export const emptySection = (name: string, wallMm: number | null = 5, mould = 1): SectionRow => ({
  name,
  wallMm,
  metalHeightMm: null,
  expectedWaxKg: null,
  areaCm2: null,
  seamM: null,
  deep: false,
  mould,
});
