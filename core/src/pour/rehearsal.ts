import type { Alloy } from '../materials/alloys.ts';
import type { PracticeOutcome, Scenario } from '../records/practice.ts';
import type { Id } from '../records/common.ts';
import { celsius, quantity } from '../units/quantity.ts';
import type { Text } from '../units/words.ts';
import { say } from '../units/words.ts';
import { fillSeconds, fillShare, freezeSeconds } from './fill-seconds.ts';
import { shellAfter } from './kiln-out.ts';
import { cooledTo } from './targets.ts';

/** A tree of a rehearsal, and what the crew did with it. */
export interface RehearsedTree {
  readonly treeId: Id;
  readonly label: string;
  readonly order: number;
  readonly kg: number;
  readonly wallMm: number;
  readonly shellMm: number;
  /** Metal went in; seconds after the beginning it began to flow, and since its shell left the kiln (null: nobody said so). */
  readonly poured: boolean;
  readonly beginsS: number;
  readonly outS: number | null;
  /** What the stopwatch showed, s; null where it was not used. */
  readonly seconds: number | null;
}

/** How metal and shells are, beside the scenario. */
export interface RehearsedHeat {
  readonly alloy: Alloy;
  /** What the furnace should have at the beginning, °C. */
  readonly furnaceC: number;
  readonly transferK: number;
  readonly coolingPerMin: number;
  /** Seconds of cooling metal in one of the clock. */
  readonly fast: number;
}

/** A mould within this of the solidus is too hot. */
const MOULD_MARGIN_K = 100;
/** Where nobody said when a shell left the kiln, it is taken for a minute. */
const USUAL_OUT_S = 60;
const AIR_C = 20;

/** The metal at the cup so many seconds after the beginning, °C. */
export const metalThen = (
  { furnaceC, transferK, coolingPerMin, fast }: RehearsedHeat,
  scenario: Pick<Scenario, 'metalOffK'>,
  seconds: number,
): number => cooledTo(furnaceC + scenario.metalOffK, (Math.max(0, seconds) * fast) / 60, coolingPerMin) - transferK;

/** What came of one tree: whether it filled by filling against freezing, and what else befell it. */
function outcomeOf(tree: RehearsedTree, heat: RehearsedHeat, scenario: Scenario): PracticeOutcome {
  const { treeId, label, order, kg, wallMm, shellMm, poured, beginsS, outS, seconds } = tree;
  const isWet = scenario.wet.includes(order);
  const isCracked = scenario.cracked.includes(order);
  const closed = scenario.closed.find(({ fromS, toS }) => poured && beginsS >= fromS && beginsS < toS);
  const came = (
    what: PracticeOutcome['came'],
    right: boolean,
    why: Text,
    nearMiss = closed !== undefined,
  ): PracticeOutcome => ({
    treeId,
    label,
    order,
    came: what,
    right: right && closed === undefined,
    nearMiss,
    why: closed === undefined ? why : say`${why}; a near miss: ${closed.why}`,
  });
  if (isWet)
    return poured
      ? came('metal thrown', false, 'the mould was wet: metal would have been thrown. Wet has no override', true)
      : came('left out', true, 'it was wet, and nobody poured into it');
  if (isCracked)
    return poured
      ? came('run out', false, 'the crack opened under the metal, and it ran into the sand', true)
      : came('left out', true, 'it was cracked, and nobody poured into it');
  const cupC = metalThen(heat, scenario, beginsS);
  const mouldC = Math.max(AIR_C, shellAfter(outS ?? USUAL_OUT_S, { fromC: scenario.kilnC, wallMm: shellMm }));
  const mostC = heat.alloy.solidusC - MOULD_MARGIN_K;
  if (poured && mouldC > mostC)
    return came(
      'draws',
      false,
      say`the mould had ${celsius(mouldC)}, above ${celsius(mostC)}: its metal stays open for long and draws. Wait for its clock`,
    );
  const fill = fillSeconds(kg, wallMm);
  const took = seconds === null ? fill : { ...fill, value: Math.max(seconds, 0.5) };
  const freezes = freezeSeconds({ alloy: heat.alloy, wallMm, cupC, mouldC: Math.min(mouldC, mostC), shellMm });
  const { stands, share } = fillShare(took, freezes);
  const solid = cupC <= heat.alloy.liquidusC;
  const words = say`${celsius(cupC)} at the cup, mould ${celsius(mouldC)}: filled in ${quantity(took.value, 's', 1)}, its wall of ${quantity(wallMm, 'mm', 1)} freezes in ${quantity(freezes.value, 's', 0)}`;
  const wouldFill = !solid && stands !== 'freezes first';
  if (!poured)
    return came(
      'left out',
      !wouldFill,
      wouldFill ? say`it could have been poured: ${words}` : say`it would not have filled: ${words}`,
    );
  if (!wouldFill)
    return came(
      'short',
      false,
      solid ? say`the metal was below its liquidus of ${celsius(heat.alloy.liquidusC)}: ${words}` : words,
    );
  return share.value > 50 ? came('cold laps', false, words) : came('filled', true, words);
}

/** What came of each tree, in the order they were poured. */
export const rehearsalOutcome = (
  trees: readonly RehearsedTree[],
  heat: RehearsedHeat,
  scenario: Scenario,
): PracticeOutcome[] =>
  [...trees].sort((a, b) => a.beginsS - b.beginsS || a.order - b.order).map((tree) => outcomeOf(tree, heat, scenario));
