import { PATTERN_WAX_DENSITY } from '../materials/waxes.ts';
import type { Id } from '../records/common.ts';
import type { LoadAnswer } from '../records/burnout-page.ts';
import type { HeatAnswer } from '../records/pour-page.ts';
import type { ReadingKind } from '../records/readings.ts';
import type { Companion, Ghost, StepForm, TrayForm, TrayLine } from '../records/step-form.ts';
import type { NextStep } from '../records/route.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import type { Figure } from '../units/figure.ts';
import { companions } from '../route/judge.ts';
import { startsAt } from '../route/coat-of.ts';
import { carrierLabel, castLabel, stepName } from '../route/labels.ts';
import { linksOf, mouldsFor } from '../route/links.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { castsOfTree } from '../route/shop-index.ts';
import type { StepKind } from '../route/step-kind.ts';
import type { Standing, Stands } from '../route/standing.ts';
import { canBeDone, standings, standsNow, standsOf } from '../route/standing.ts';
import { mayJoin } from '../sprue/join-tree.step.ts';
import type { Instant } from '../units/instant.ts';
import { HOUR_MIN, MINUTE_MS, toMs } from '../units/instant.ts';
import { at, say } from '../units/words.ts';
import { plannedWax } from '../wax/planned-wax.ts';
import { countingWeight, ownFactorOfCast, waxDensityOfCast } from './cast-weights.ts';
import { mouldUse } from './decisions.ts';
import { expectedOf } from './expected.ts';
import type { Learned } from './learned-hours.ts';
import { effortOf } from './learned-hours.ts';
import { stepView } from './step-view.ts';
import { treeFigures } from './tree-figures.ts';

/** What a form takes from beside the slice of the shop that it is built from. */
export interface FormAround {
  readonly now: Instant;
  readonly people: ReadonlyMap<Id, string>;
  readonly liftLimitKg: number;
  /** Heats of the tree's alloy that are planned or running. */
  readonly heats: readonly HeatAnswer[];
  readonly loads: readonly LoadAnswer[];
  readonly earlierWaxes: StepForm['earlierWaxes'];
  readonly returnsAtHandKg: number;
  readonly lots: StepForm['lots'];
  readonly pots: StepForm['pots'];
  /** What the shop's logged hours say of each kind. */
  readonly learned: ReadonlyMap<StepKindCode, Learned>;
  /** The step of the same kind that was recorded last, wherever. */
  readonly last: LastSaid | null;
  /** Trees of works that were not read, for the same kiln or crucible, as they are kept ready. */
  readonly alsoTrees: readonly KeptTree[];
}

/** What was read at a step, and when. */
export interface LastSaid {
  readonly at: Instant;
  readonly readings: Readonly<Record<string, unknown>>;
}

/** A tree whose next step is of this kind, as it is kept ready. */
export interface KeptTree {
  readonly treeId: Id;
  readonly next: NextStep;
  readonly alloyId: string;
  readonly pour: Figure | null;
}

/** The alloy of what a step is done to; null where it is done to no metal. */
export function alloyOfStep(index: ShopIndex, { carrier, carrierId }: Step): string | null {
  const section = index.section.get(index.cast.get(carrierId)?.sectionId ?? '');
  const workId = section?.workId ?? index.piece.get(carrierId)?.workId ?? '';
  return carrier === 'tree' ? (index.tree.get(carrierId)?.alloyId ?? null) : (index.work.get(workId)?.alloyId ?? null);
}

/** What the record panel needs for a step: its standing, and what can be chosen. */
export function stepForm(index: ShopIndex, step: Step, around: FormAround): StepForm {
  const kind = index.kind(step);
  const found = standings(index, linksOf(index));
  const cast = step.carrier === 'cast' ? index.cast.get(step.carrierId) : undefined;
  const section = cast && index.section.get(cast.sectionId);
  const figures = step.carrier === 'tree' && kind.lifts ? treeFigures(index, step.carrierId, around.liftLimitKg) : {};
  const heavy = kind.lifts && figures[kind.lifts];
  const density = cast ? waxDensityOfCast(index, cast.id) : PATTERN_WAX_DENSITY;
  return {
    step: stepView(index, found.get(step.id), step, around.people),
    moulds: kind.usesMould && cast ? mouldChoices(index, cast.sectionId) : [],
    casts: castChoices(index, step),
    companions: kind.through ? companionsOf(index, found, step, around) : [],
    heats: kind.through === 'heat' ? around.heats : [],
    loads:
      kind.through === 'load'
        ? around.loads.filter((load) => load.trees.some(({ treeId }) => treeId === step.carrierId))
        : [],
    lift: heavy?.tooHeavy ? [heavy.inWords] : [],
    starts: startsOf(index, step, around.liftLimitKg),
    ghosts: ghostsOf(kind, around),
    expects: expectedOf(index, step),
    ...(kind.joinsTree ? { waysUp: waysUpOf(index, step) } : {}),
    expectedWaxKg: section ? (plannedWax(section, density)?.value ?? null) : null,
    waxDensity: density,
    ownFactor: (cast && ownFactorOfCast(index, cast.id)) ?? null,
    earlierWaxes: kind.weighs === 'wax' ? around.earlierWaxes : [],
    alloyId: alloyOfStep(index, step),
    seamM: kind.joinsSection ? (index.section.get(step.sectionId ?? '')?.seamM ?? null) : null,
    effort: effortOf(index, step, around.learned),
    returnsAtHandKg: kind.through === 'heat' ? around.returnsAtHandKg : 0,
    lots: kind.through === 'heat' ? around.lots : [],
    pots: kind.through === 'heat' ? around.pots : [],
  };
}

/** Which way up the sections on a tree are poured, as their models say, each once. */
function waysUpOf(index: ShopIndex, step: Step): NonNullable<StepForm['waysUp']> {
  const sections = new Set(castsOfTree(index, step.carrierId).map(({ sectionId }) => sectionId));
  return [...sections].flatMap((id) => {
    const section = index.section.get(id);
    const { wayUp } = section ?? {};
    if (!section || !wayUp) return [];
    const words = (places: readonly { readonly words: string }[]) => places.map((place) => place.words);
    const { workId, name } = section;
    return [{ workId, name, heightMm: wayUp.heightMm, vents: words(wayUp.vents), gates: words(wayUp.gates) }];
  });
}

/** Several steps of one kind on one form: that of the first, and what is each one's own. */
export function trayForm(index: ShopIndex, steps: readonly Step[], around: FormAround): TrayForm {
  const form = stepForm(index, steps[0]!, around);
  const lines = steps.map((step): TrayLine => {
    const cast = step.carrier === 'cast' ? index.cast.get(step.carrierId) : undefined;
    const section = cast && index.section.get(cast.sectionId);
    const kind = index.kind(step);
    return {
      stepId: step.id,
      version: step.version,
      name: stepName(index, step),
      on: carrierLabel(index, step),
      own: startsAt(index, step),
      expects: expectedOf(index, step),
      moulds: kind.usesMould && cast ? mouldChoices(index, cast.sectionId) : [],
      expectedWaxKg: section ? (plannedWax(section, waxDensityOfCast(index, cast.id))?.value ?? null) : null,
    };
  });
  return { form, lines };
}

/** Numbers are offered and not filled in: as they were read last where that may still be so, else as they usually are. */
function ghostsOf({ readings }: StepKind, { last, now }: FormAround): Record<string, Ghost> {
  const ghosts: Record<string, Ghost> = {};
  for (const { key, kind, start, lastsHours } of readings) {
    const said = last?.readings[key];
    const stillSo = last && lastsHours !== undefined && toMs(now) - toMs(last.at) < lastsHours * HOUR_MIN * MINUTE_MS;
    if (stillSo && (typeof said === 'number' || (typeof said === 'string' && said !== '')))
      ghosts[key] = { value: said, from: say`last, ${at(last.at)}` };
    else if (kind === 'number' && typeof start === 'number') ghosts[key] = { value: start, from: 'usual' };
  }
  return ghosts;
}

/** What is observed is never said beforehand: numbers are offered, and what is seen or not is asked. */
const MEASURED: ReadonlySet<ReadingKind> = new Set(['number', 'yes']);

/** What a form starts with: the usual choices, what the room says of this one, the one mould that is good. */
function startsOf(index: ShopIndex, step: Step, liftLimitKg: number): Record<string, unknown> {
  const kind = index.kind(step);
  const usual = Object.fromEntries(
    kind.readings
      .filter((def) => def.start !== undefined && !MEASURED.has(def.kind))
      .map(({ key, start }) => [key, start]),
  );
  const cast = index.cast.get(step.carrierId);
  const good = kind.usesMould && cast ? mouldsFor(index, cast.sectionId).filter(({ state }) => state === 'good') : [];
  return {
    ...usual,
    ...startsAt(index, step),
    ...(good.length === 1 ? { mouldId: good[0]!.id } : {}),
    ...(kind.joinsTree ? joinStarts(index, step.carrierId, liftLimitKg) : {}),
  };
}

/** A tree is joined as it was planned, with the cup that is usual for its casts. */
function joinStarts(index: ShopIndex, treeId: Id, liftLimitKg: number): Record<string, unknown> {
  const { cup } = treeFigures(index, treeId, liftLimitKg);
  return {
    castIds: castsOfTree(index, treeId).map(({ id }) => id),
    ...(cup === undefined ? {} : { cup: cup ?? false }),
  };
}

function mouldChoices(index: ShopIndex, sectionId: Id): StepForm['moulds'] {
  return mouldsFor(index, sectionId).map((mould) => {
    const { used, left } = mouldUse(index, mould);
    return { id: mould.id, label: `M-${mould.number} ${mould.name}`, used, left, good: mould.state === 'good' };
  });
}

/** Casts for the tree's joining and knock-out: those on it, and for joining those that may come along. */
function castChoices(index: ShopIndex, step: Step): StepForm['casts'] {
  const kind = index.kind(step);
  if (!kind.joinsTree && !kind.freesCasts) return [];
  const here = castsOfTree(index, step.carrierId);
  const others = kind.joinsTree
    ? index.shop.casts.filter((cast) => !here.includes(cast) && mayJoin(index, step.carrierId, cast))
    : [];
  return [...here, ...others].map((cast) => ({
    id: cast.id,
    label: castLabel(index, cast),
    waxKg: countingWeight(index, cast.id, 'wax')?.kg ?? null,
    onTree: here.includes(cast),
  }));
}

/** Trees for the same kiln or crucible: this one first, those whose turn it is, and those that stand in an open heat. */
function companionsOf(
  index: ShopIndex,
  found: ReadonlyMap<Id, Standing>,
  step: Step,
  { now, liftLimitKg, heats, alsoTrees }: FormAround,
): Companion[] {
  // A tree of a heat that still waits for a test stays on its list: leaving it out would drop it from the heat.
  const inHeats = new Set(heats.flatMap(({ pourings }) => pourings.map(({ treeId }) => treeId)));
  const open = companions(index, step, (candidate) => {
    const standing = found.get(candidate.id);
    return standing !== undefined && (standing.waitsFor.length === 0 || inHeats.has(candidate.carrierId));
  });
  const alloyOf = ({ carrierId }: Step) => index.tree.get(carrierId)?.alloyId ?? '';
  const own = [step, ...open]
    .filter((candidate) => step === candidate || !index.kind(step).through || fits(alloyOf(candidate)))
    .map((candidate): Companion => {
      const standing = found.get(candidate.id);
      const stands = standing && standsOf(standing);
      return {
        stepId: candidate.id,
        treeId: candidate.carrierId,
        label: carrierLabel(index, candidate),
        ready: stands !== undefined && canBeDone(stands, now) && standsNow(stands, now) !== 'running',
        why: stands ? standsNow(stands, now) : 'waits',
        pour: treeFigures(index, candidate.carrierId, liftLimitKg).metal?.pourWeight ?? null,
        alloyId: alloyOf(candidate),
      };
    });
  const known = new Set(own.map(({ treeId }) => treeId));
  const kept = alsoTrees
    .filter(({ treeId, next, alloyId }) => !known.has(treeId) && next.kind === step.kind && fits(alloyId))
    .map(({ treeId, next, pour, alloyId }): Companion => {
      const stands: Stands = next;
      return {
        stepId: next.stepId,
        treeId,
        label: next.on,
        ready: canBeDone(stands, now) && standsNow(stands, now) !== 'running',
        why: standsNow(stands, now),
        pour,
        alloyId,
      };
    });
  return [...own, ...kept];

  function fits(alloyId: string): boolean {
    return index.kind(step).through !== 'heat' || alloyId === alloyOf(step);
  }
}
