import type { HoldKind, WhyAnswer, WhyLink } from '@kalvet/core';
import { toMs } from '@kalvet/core';
import { scaleTime } from 'd3';

/** What something waits for, in a word. */
export const HOLD_NAMES: Readonly<Record<HoldKind, string>> = {
  free: '',
  hands: 'hands',
  kiln: 'the kiln',
  furnace: 'the furnace',
  mould: 'the mould',
  wait: 'time that must pass',
  approval: 'an answer',
  'pour day': 'a pour day',
  hours: 'opening hours',
  mates: 'what goes with it',
  follower: 'what follows',
  fixed: 'put on this hour',
};

/** A step of the chain as it is drawn: where its wait begins and its work, in per cent of the whole. */
export interface WhyRow {
  readonly link: WhyLink;
  readonly waitAt: number;
  readonly workAt: number;
  readonly workWidth: number;
  readonly waitedMs: number;
}

/** The chain along its time, from the first wait to the last end. */
export function whyRows({ links }: Pick<WhyAnswer, 'links'>): WhyRow[] {
  const [first] = links;
  if (!first) return [];
  const from = Math.min(...links.map(({ waitsFrom }) => toMs(waitsFrom)));
  const to = Math.max(...links.map(({ endsAt }) => toMs(endsAt)));
  const at = scaleTime([from, Math.max(to, from + 1)], [0, 100]);
  return links.map((link) => {
    const [waits, starts, ends] = [toMs(link.waitsFrom), toMs(link.startsAt), toMs(link.endsAt)];
    return {
      link,
      waitAt: at(waits),
      workAt: at(starts),
      workWidth: at(ends) - at(starts),
      waitedMs: starts - waits,
    };
  });
}

/** What all its waits come to, by what was waited for, the longest first. */
export function waitsOf(links: readonly WhyLink[]): { readonly hold: HoldKind; readonly minutes: number }[] {
  const sums = new Map<HoldKind, number>();
  for (const { hold, waitsFrom, startsAt } of links) {
    const minutes = (toMs(startsAt) - toMs(waitsFrom)) / 60_000;
    if (minutes > 0 && hold !== 'free') sums.set(hold, (sums.get(hold) ?? 0) + minutes);
  }
  return [...sums].map(([hold, minutes]) => ({ hold, minutes })).sort((a, b) => b.minutes - a.minutes);
}
