import type { HoldKind, WhyAnswer, WhyLink } from '@kalvet/core';
import { toMs } from '@kalvet/core';
import { scaleTime } from 'd3';

const MINUTE_MS = 60_000;

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
  /** Steps of others that it waits for, one behind the other, the nearest last; none where it waits for nobody. */
  readonly behind: readonly WhyLink[];
}

/** The piece's own steps along the chain's time, each with the steps of others that it waits behind. */
export function whyRows({ links }: Pick<WhyAnswer, 'links'>): WhyRow[] {
  const own = links.filter((link) => link.own);
  if (own.length === 0) return [];
  const from = Math.min(...links.map(({ startsAt }) => toMs(startsAt)), ...own.map(({ waitsFrom }) => toMs(waitsFrom)));
  const to = Math.max(...links.map(({ endsAt }) => toMs(endsAt)));
  const at = scaleTime([from, Math.max(to, from + 1)], [0, 100]);
  const rows: WhyRow[] = [];
  let behind: WhyLink[] = [];
  for (const link of links) {
    if (!link.own) {
      behind.push(link);
      continue;
    }
    const first = Math.min(toMs(link.waitsFrom), ...behind.map(({ startsAt }) => toMs(startsAt)));
    const starts = toMs(link.startsAt);
    rows.push({ link, waitAt: at(first), workAt: at(starts), workWidth: at(toMs(link.endsAt)) - at(starts), behind });
    behind = [];
  }
  return rows;
}

/**
 * What the way to its last step goes to beside its own work, by what is waited for, the longest first: every minute once.
 * While others are at work it waits for what they have.
 */
export function waitsOf(links: readonly WhyLink[]): { readonly hold: HoldKind; readonly minutes: number }[] {
  const sums = new Map<HoldKind, number>();
  let reached = links[0] ? toMs(links[0].startsAt) : 0;
  links.forEach((link, i) => {
    const [starts, ends] = [toMs(link.startsAt), toMs(link.endsAt)];
    const waits = starts - reached;
    if (waits > 0 && link.hold !== 'free') sums.set(link.hold, (sums.get(link.hold) ?? 0) + waits / MINUTE_MS);
    const next = links[i + 1];
    const busy = ends - Math.max(starts, reached);
    if (!link.own && next && busy > 0) sums.set(next.hold, (sums.get(next.hold) ?? 0) + busy / MINUTE_MS);
    reached = Math.max(reached, ends);
  });
  return [...sums].map(([hold, minutes]) => ({ hold, minutes })).sort((a, b) => b.minutes - a.minutes);
}
