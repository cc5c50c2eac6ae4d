import type { Override } from '../records/answers.ts';
import type { Id } from '../records/common.ts';
import type { Concern, EventDraft } from '../records/history.ts';
import type { Person } from '../records/people.ts';
import type { Refusal } from '../records/refusal.ts';
import type { ShopSettings } from '../records/settings.ts';
import type { Op } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import { piecesOfStep } from '../route/standing.ts';
import type { NewId } from '../route/step-kind.ts';
import type { Instant } from '../units/instant.ts';
import { toMs } from '../units/instant.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';

/** Who does something, when it is typed, and what is passed on purpose. */
export interface Doing {
  readonly now: Instant;
  readonly actor: Person | null;
  /** Whether the one who acts may pass a rule. */
  readonly mayPass: (rule: string) => boolean;
  readonly overrides: readonly Override[];
  readonly settings: ShopSettings;
  /** Names of everybody who ever worked here. */
  readonly people: ReadonlyMap<Id, string>;
  readonly newId: NewId;
}

/** What is said of an act in the history, and which records it concerns. */
export interface Told {
  readonly event: EventDraft;
  readonly concerns: readonly Concern[];
}

/**
 * A whole act on a shop, worked out and not yet carried out. Where something refuses it or a field is wrong there are no
 * changes; else they are all that is to be written, and `tell` says it once the numbers are given.
 */
export interface Act<T = object> {
  /** What refuses it, apart from what was passed on purpose. */
  readonly refusals: readonly Refusal[];
  /** What is wrong, field by field. */
  readonly fields: Readonly<Record<string, Text>>;
  readonly passed: readonly Override[];
  readonly ops: readonly Op[];
  readonly answer: T;
  readonly tell: (after: ShopIndex) => Told;
}

const nothingToTell = (): Told => {
  throw new Error('a refused act has nothing to tell');
};

/** An act that cannot be done. */
export const refusedAct = <T>(refusals: readonly Refusal[]): Act<T> => ({
  refusals,
  fields: {},
  passed: [],
  ops: [],
  answer: {} as T,
  tell: nothingToTell,
});

/** An act that was said wrongly. */
export const invalidAct = <T>(fields: Readonly<Record<string, Text>>): Act<T> => ({
  ...refusedAct<T>([]),
  fields,
});

/** Whether an act can be carried out. */
export const isPossible = ({ refusals, fields }: Pick<Act, 'refusals' | 'fields'>): boolean =>
  refusals.length === 0 && Object.keys(fields).length === 0;

/** What is left of refusals where some are passed on purpose, by somebody who may. */
export function allow(
  refusals: readonly Refusal[],
  { overrides, mayPass, actor }: Pick<Doing, 'overrides' | 'mayPass' | 'actor'>,
): { readonly left: Refusal[]; readonly passed: Override[] } {
  const left: Refusal[] = [];
  const passed: Override[] = [];
  for (const refusal of refusals) {
    const given = refusal.mayOverride ? overrides.find(({ rule }) => rule === refusal.rule) : undefined;
    if (!given) left.push(refusal);
    else if (!mayPass(refusal.rule))
      left.push({
        ...refusal,
        message: say`${refusal.message} ${actor?.name ?? 'You'} may not decide that; ask somebody who may.`,
        mayOverride: false,
      });
    else if (!passed.includes(given)) passed.push(given);
  }
  return { left, passed };
}

/** A clock on another machine may be a little ahead. */
const AHEAD_MS = 60_000;

/** What is wrong with the times of something done: nothing lies ahead of now, or ends before it began. */
export function wrongTimes(now: Instant, startedAt: Instant | null, endedAt: Instant): Record<string, Text> {
  return {
    ...(toMs(endedAt) > toMs(now) + AHEAD_MS ? { endedAt: 'cannot be ahead of now' } : {}),
    ...(startedAt !== null && toMs(startedAt) > toMs(endedAt) ? { startedAt: 'cannot be after the end' } : {}),
  };
}

/** What is wrong with who did something: somebody is named who never worked here. */
export const wrongPeople = (people: ReadonlyMap<Id, string>, by: readonly Id[]): Record<string, Text> =>
  by.every((id) => people.has(id)) ? {} : { by: 'names somebody who does not work here' };

/** Everything a step's event concerns: its carrier, the casts on a tree, their pieces and works. */
export function concernsOf(index: ShopIndex, step: Step): Concern[] {
  const mould = index.mould.get(step.carrierId);
  return [
    ['step', step.id],
    [step.carrier, step.carrierId],
    ...(step.carrier === 'tree' ? castsOfTree(index, step.carrierId).map(({ id }): Concern => ['cast', id]) : []),
    // A mould is every piece's of its work: its making is in their history.
    ...(mould
      ? [
          ['work', mould.workId] as const,
          ...(index.piecesOf.get(mould.workId) ?? []).map(({ id }): Concern => ['piece', id]),
        ]
      : []),
    ...piecesOfStep(index, step).flatMap((id): Concern[] => [
      ['piece', id],
      ['work', index.piece.get(id)!.workId],
    ]),
  ];
}

/** `3 trees`, `1 tree`. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;
