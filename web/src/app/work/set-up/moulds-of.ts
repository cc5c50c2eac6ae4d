import type { SetUpWork } from '@kalvet/core';
import type { SectionRow } from './section-figures';

type Moulds = SetUpWork['moulds'];

const LETTERS_MOST = 120;

/** A mould is called by what it makes. */
function nameOf(rows: readonly SectionRow[], places: readonly number[]): string {
  if (rows.length === 1) return 'whole';
  if (places.length === rows.length) return 'all sections';
  return places
    .map((place) => rows[place - 1]!.name?.trim() || `section ${place}`)
    .join(', ')
    .slice(0, LETTERS_MOST);
}

/**
 * The moulds that the sections' numbers make.
 * @param pullsBefore pulls made from each before Kalvet, counted
 * @param known moulds that are there already: one for the same sections keeps its name
 */
export function mouldsOf(rows: readonly SectionRow[], pullsBefore: number, known: Moulds = []): Moulds {
  const groups = new Map<number, number[]>();
  rows.forEach(({ mould }, i) => groups.set(mould ?? i + 1, [...(groups.get(mould ?? i + 1) ?? []), i + 1]));
  return [...groups.entries()]
    .sort(([a], [b]) => a - b)
    .map(([, sections]) => ({
      name: known.find((each) => each.sections.join() === sections.join())?.name ?? nameOf(rows, sections),
      sections,
      pullsBefore,
    }));
}

/** The number of the mould that makes each section, from 1. */
export const mouldNumbers = (moulds: Moulds, sections: number): number[] =>
  Array.from({ length: sections }, (_, i) => moulds.findIndex((mould) => mould.sections.includes(i + 1)) + 1 || i + 1);
