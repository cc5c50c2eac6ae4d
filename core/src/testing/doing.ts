// Who does something in a spec, and the shop after an act was carried out.
import type { Id } from '../records/common.ts';
import type { Person } from '../records/people.ts';
import { DEFAULT_SETTINGS } from '../records/settings.ts';
import type { Shop } from '../records/shop.ts';
import { applyOps } from '../records/shop.ts';
import type { Act, Doing } from '../shop/act.ts';
import { isPossible } from '../shop/act.ts';
import { indexShop } from '../shop/index-shop.ts';
import { METRIC } from '../units/system.ts';
import type { Text } from '../units/words.ts';
import { inWords } from '../units/words.ts';
import { START } from './play.ts';

export const INES: Person = {
  id: 'p-1',
  name: 'Ines Marlow',
  shortName: 'IM',
  roles: ['manager'],
  rooms: [],
  gates: [],
  active: true,
  units: METRIC,
  version: 1,
};

export const doingBy = (newId: () => Id, rest: Partial<Doing> = {}): Doing => ({
  now: START,
  actor: INES,
  mayPass: () => true,
  overrides: [],
  settings: DEFAULT_SETTINGS,
  people: new Map([
    ['p-1', 'Ines Marlow'],
    ['p-2', 'Tomas Quill'],
  ]),
  newId,
  ...rest,
});

/** The shop after an act; throws with what refused it. */
export function after<T>(shop: Shop, act: Act<T>): Shop {
  if (!isPossible(act)) throw new Error(`refused: ${said(act).join(' ')}`);
  return applyOps(shop, act.ops);
}

/** What is said against an act: its rules and its fields, in words. */
export const said = ({ refusals, fields }: Pick<Act, 'refusals' | 'fields'>): string[] => [
  ...refusals.map(({ rule, message }) => `${rule}: ${inWords(message)}`),
  ...Object.entries(fields).map(([field, text]) => `${field}: ${inWords(text)}`),
];

/** How the history tells an act. */
export const told = <T>(shop: Shop, act: Act<T>): string => {
  const { text }: { readonly text: Text } = act.tell(indexShop(after(shop, act))).event;
  return inWords(text);
};
