import type { Effort } from '../records/step-form.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { Instant } from '../units/instant.ts';
import { listUnder } from '../units/lists.ts';
import { median } from '../units/median.ts';
import { minutesOf, sizeOf } from './minutes.ts';

/** By how much the shop takes longer or shorter than a kind's estimate, and from how many records that is known. */
export interface Learned {
  readonly factor: number;
  readonly n: number;
}

/** So many records weigh as much as the estimate. */
const HALF_AT = 3;

const known = new WeakMap<ShopIndex, Map<StepKindCode, Learned>>();

/**
 * What the shop's own hours say of each kind that is estimated by the size of the work: the median of the logarithms of
 * actual ÷ estimate, weighted n ÷ (n + 3) against 1.
 */
export function learnedHours(index: ShopIndex): ReadonlyMap<StepKindCode, Learned> {
  const found = known.get(index);
  if (found) return found;
  const learned = new Map(
    [...loggedHours(index)].map(([kind, list]): [StepKindCode, Learned] => {
      const n = list.length;
      return [kind, { n, factor: Math.exp((n / (n + HALF_AT)) * median(list.map(({ value }) => Math.log(value)))!) }];
    }),
  );
  known.set(index, learned);
  return learned;
}

/** Actual ÷ estimate of every step whose hours were logged, by its kind. */
export function loggedHours(index: ShopIndex): Map<StepKindCode, { readonly at: Instant; readonly value: number }[]> {
  const logged = new Map<StepKindCode, { readonly at: Instant; readonly value: number }[]>();
  for (const step of index.shop.steps) {
    const value = step.state === 'done' ? actualByEstimate(index, step) : undefined;
    if (value !== undefined) listUnder(logged, step.kind, { at: step.endedAt!, value });
  }
  return logged;
}

/** Hours that were logged against what the size of the work says; undefined where either is missing. */
function actualByEstimate(index: ShopIndex, step: Step): number | undefined {
  const kind = index.kind(step);
  if (!kind.effort) return undefined;
  const key = kind.readings.find(({ unit, kind: what }) => unit === 'h' && what === 'number')?.key;
  const hours = key === undefined ? undefined : step.readings[key];
  const estimate = typeof hours === 'number' && hours > 0 ? kind.effort(sizeOf(index, step)) : undefined;
  return estimate ? ((hours as number) * 60) / estimate : undefined;
}

/** Hands-on minutes as they are planned: the estimate by what the shop has learned, unless it has said its own figure. @param learned of the whole shop, pieces that are out too */
export function plannedMinutes(
  index: ShopIndex,
  step: Step,
  learned: ReadonlyMap<StepKindCode, Learned> = learnedHours(index),
): number {
  const minutes = minutesOf(index, step);
  if (index.shop.routeTimes?.[step.kind]?.minutes !== undefined) return minutes;
  return Math.round(minutes * (learned.get(step.kind)?.factor ?? 1));
}

/** How the planned minutes of a step come about; null where its size says nothing of them. */
export function effortOf(index: ShopIndex, step: Step, learned: ReadonlyMap<StepKindCode, Learned>): Effort | null {
  const bySize = index.kind(step).effort?.(sizeOf(index, step));
  if (bySize === undefined || bySize === null) return null;
  return {
    planned: plannedMinutes(index, step, learned),
    bySize: Math.round(bySize),
    learned: learned.get(step.kind) ?? null,
    isOwn: index.shop.routeTimes?.[step.kind]?.minutes !== undefined,
  };
}
