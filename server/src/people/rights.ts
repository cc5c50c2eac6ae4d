import type { Concern, Person, Verb } from '@kalvet/core';

/** What can be asked about somebody's rights beside writing. */
export type Page =
  'floor' | 'day' | 'plan' | 'coats' | 'pour' | 'orders' | 'work' | 'piece' | 'step' | 'settings' | 'find';

/**
 * Whether somebody may do something to a record: the one place that knows. Today everybody who works here may do everything,
 * and those of whom it is said may pass rules.
 */
export function mayDo(actor: Person | null, verb: Verb | 'override', _subject?: Concern): boolean {
  return verb === 'override' ? actor?.mayOverride === true : true;
}

/** What a reader may see, as a word that kept answers are kept under: who may see the same shares them. */
export type Sight = 'everything';

/** What somebody may see. Today everybody sees everything. */
export const sightOf = (_reader: Person | null): Sight => 'everything';

/** Whether a page may be read by those who see so much. */
export const mayRead = (sight: Sight, _page: string): boolean => sight === 'everything';
