import type { RouteTimes } from '../records/route.ts';
import type { StepKind } from './step-kind.ts';

/** Hands-on minutes and waits of a kind of step in this shop, in elapsed minutes. */
export function timesOf(
  { code, minutes, minWait, maxWait }: StepKind,
  own: RouteTimes | undefined,
): { readonly minutes: number; readonly minWait: number; readonly maxWait: number | null } {
  return { minutes, minWait, maxWait, ...own?.[code] };
}
