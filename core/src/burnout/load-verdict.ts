import type { HoldOutcome, LoadVerdict } from '../records/kiln-page.ts';
import type { Instant } from '../units/instant.ts';
import { MINUTE_MS, fromMs, toMs } from '../units/instant.ts';
import { celsius, plain, quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { at, say, span } from '../units/words.ts';
import type { FiringProfile } from './firing-profile.ts';
import type { KilnReading } from './held-minutes.ts';
import { HOLD_WITHIN_K, coldestLag, judgeHold } from './held-minutes.ts';

const WEAKENS_C = 1000;
/** What a block bears, and how slowly it goes where its sand changes size. Source: handbook 2.5. */
const BLOCK = {
  mostC: 750,
  slowPerHourK: 60,
  tolerance: 1.25,
  windows: [
    [220, 270],
    [558, 588],
  ],
} as const;
/** A rate is told over so long, so that a single noisy reading alarms nobody. */
const RATE_OVER_MIN = 20;

/**
 * Holds a load's thermocouples against its profile: how long each hold was held, by the one that held the shortest; how far the
 * coldest lay behind; and, for blocks, where the kiln went faster or hotter than they bear.
 * @param couples readings of each thermocouple, in the order of time; @param burning a hold that is under way or to come is not
 * short yet
 */
export function loadVerdict(
  couples: readonly (readonly KilnReading[])[],
  profile: FiringProfile | null,
  { isBlock, burning = false }: { readonly isBlock: boolean; readonly burning?: boolean },
): LoadVerdict {
  const own = couples.filter((each) => each.length > 0);
  const holds = (profile?.stretches ?? [])
    .filter(({ holdMinutes }) => holdMinutes > 0)
    .map(({ toC, holdMinutes }): HoldOutcome => {
      const { heldMinutes, shortMinutes } = judgeHold(own, { holdC: toC, minutes: holdMinutes });
      return { holdC: toC, plannedMinutes: holdMinutes, heldMinutes, shortMinutes };
    });
  const all = own.flat().map((reading) => reading.celsius);
  return {
    holds,
    lagK: own.length > 1 ? coldestLag(own) : null,
    hottestC: all.length > 0 ? Math.max(...all) : null,
    above1000Minutes: Math.max(0, ...own.map((readings) => minutesAbove(readings, WEAKENS_C))),
    alarms: [
      ...holds.filter(({ holdC }) => !burning || hasLeft(own, holdC)).flatMap(shortWords),
      ...(isBlock ? own.flatMap(blockAlarms).slice(0, 3) : []),
    ],
  };
}

/** Whether the warmest place was at a hold's temperature, and is there no more. */
const hasLeft = (couples: readonly (readonly KilnReading[])[], holdC: number): boolean => {
  const near = ({ celsius: reads }: KilnReading) => Math.abs(reads - holdC) <= HOLD_WITHIN_K;
  return couples.some((readings) => readings.some(near)) && couples.every((readings) => !near(readings.at(-1)!));
};

const shortWords = ({ holdC, plannedMinutes, shortMinutes }: HoldOutcome): Text[] =>
  shortMinutes < 1
    ? []
    : [
        say`Held at ${celsius(holdC)} short by ${span(shortMinutes)} of ${span(plannedMinutes)}: ${plain(Math.ceil(shortMinutes / 5) * 5, 0)} min more?`,
      ];

/** Minutes above a temperature, between the readings by a straight line. */
export function minutesAbove(readings: readonly KilnReading[], limitC: number): number {
  let above = 0;
  for (let i = 1; i < readings.length; i++) {
    const [a, b] = [readings[i - 1]!, readings[i]!];
    const minutes = (toMs(b.at) - toMs(a.at)) / MINUTE_MS;
    const [low, high] = [Math.min(a.celsius, b.celsius), Math.max(a.celsius, b.celsius)];
    if (low >= limitC) above += minutes;
    else if (high > limitC) above += (minutes * (high - limitC)) / (high - low);
  }
  return above;
}

function blockAlarms(readings: readonly KilnReading[]): Text[] {
  const found: Text[] = [];
  const hot = readings.find((reading) => reading.celsius > BLOCK.mostC);
  if (hot) found.push(say`${celsius(hot.celsius)} at ${at(hot.at)}: plaster breaks down above ${celsius(BLOCK.mostC)}`);
  for (const [low, high] of BLOCK.windows) {
    const worst = fastestBetween(readings, low, high);
    if (worst && worst.perHourK > BLOCK.slowPerHourK * BLOCK.tolerance)
      found.push(
        say`${plain(worst.perHourK, 0)} K an hour through ${celsius(low)} to ${celsius(high)} at ${at(worst.at)}: a block bears ${quantity(BLOCK.slowPerHourK, 'K', 0)} an hour there`,
      );
  }
  return found;
}

/** The fastest a thermocouple went, up or down, while it was between two temperatures. */
function fastestBetween(
  readings: readonly KilnReading[],
  low: number,
  high: number,
): { readonly perHourK: number; readonly at: Instant } | undefined {
  let worst: { perHourK: number; at: Instant } | undefined;
  let begin = 0;
  for (let i = 1; i < readings.length; i++) {
    while (toMs(readings[i]!.at) - toMs(readings[begin + 1]!.at) >= RATE_OVER_MIN * MINUTE_MS && begin + 1 < i) begin++;
    const [a, b] = [readings[begin]!, readings[i]!];
    const minutes = (toMs(b.at) - toMs(a.at)) / MINUTE_MS;
    const middle = (a.celsius + b.celsius) / 2;
    if (minutes < RATE_OVER_MIN / 2 || middle < low || middle > high) continue;
    const perHourK = (Math.abs(b.celsius - a.celsius) / minutes) * 60;
    if (!worst || perHourK > worst.perHourK) worst = { perHourK, at: fromMs(toMs(b.at)) };
  }
  return worst;
}
