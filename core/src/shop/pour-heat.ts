import type { Id } from '../records/common.ts';
import type { Heat, Pouring } from '../records/pour.ts';
import type { Abandon, ConfirmCrew, FinishHeat, PourTree } from '../records/pour-writes.ts';
import type { Refusal } from '../records/refusal.ts';
import { askOnce, never, unless } from '../records/refusal.ts';
import { balanceOf, offInWords } from '../materials/balance.ts';
import { POUR_CHECKS, POUR_CHECK_NAMES } from '../records/pour.ts';
import { insert, update } from '../records/shop.ts';
import { doubtsOfPour } from '../pour/doubts-of-charge.ts';
import { judgeDry } from '../pour/judge-charge.ts';
import { crewInWords, wrongCrew } from '../pour/judge-crew.ts';
import { plannedStep } from '../route/grow.ts';
import { treeLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { kg } from '../units/quantity.ts';
import { say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { allow, concernsOf, counted, invalidAct, isPossible, refusedAct, wrongPeople, wrongTimes } from './act.ts';
import { closeJudged, closedInWords } from './close-judged.ts';
import { concernsOfHeat, heatIsOver, pourStepOf, sum } from './plan-heat.ts';

const over = (heat: Heat): Refusal[] =>
  heatIsOver(heat) ? [never('closed', say`Heat H-${heat.number} is ${heat.state} already.`)] : [];

const treesOf = (index: ShopIndex, heat: Heat): Id[] => (index.inHeat.get(heat.id) ?? []).map(({ treeId }) => treeId);

/** Raises the heat's version although only its members changed, so that two people do not arrange it at once. */
const touched = (heat: Heat) => ({ version: heat.version + 1 });

/** The gate before the melt: crew named, cover on, signs agreed. Kept with who said so; a wet charge is never passed. */
export function confirmCrew(index: ShopIndex, heat: Heat, given: ConfirmCrew, doing: Doing): Act<{ id: Id }> {
  const closed = over(heat);
  if (closed.length > 0) return refusedAct(closed);
  const open = POUR_CHECKS.filter((check) => !given.checks.includes(check));
  const fields = {
    ...wrongCrew(given.crew, doing.people),
    ...(open.length === 0
      ? {}
      : { checks: say`look at these first: ${open.map((check) => POUR_CHECK_NAMES[check].toLowerCase()).join('; ')}` }),
  };
  if (Object.keys(fields).length > 0) return invalidAct(fields);
  const wet = judgeDry(index.chargeOf.get(heat.id) ?? []);
  if (wet.length > 0) return refusedAct(wet);
  const who = doing.actor?.name ?? 'somebody';
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [
      update('heats', heat.id, {
        leadId: given.crew.find(({ role }) => role === 'lead')!.personId,
        crew: given.crew,
        signs: given.signs,
        checks: given.checks,
        coverConfirmedById: doing.actor?.id ?? null,
        coverConfirmedAt: doing.now,
        state: heat.state === 'planned' ? 'charged' : heat.state,
        ...touched(heat),
      }),
    ],
    answer: { id: heat.id },
    tell: () => ({
      event: {
        verb: 'confirm crew',
        text: say`Heat H-${heat.number}: crew and cover confirmed by ${who}, signs ${given.signs}: ${crewInWords(given.crew, doing.people)}`,
        room: 'pour',
      },
      concerns: concernsOfHeat(index, heat.id, treesOf(index, heat)),
    }),
  };
}

const chargedKg = (index: ShopIndex, heat: Heat): number =>
  sum((index.chargeOf.get(heat.id) ?? []).map(({ kg }) => kg));
const pouredKg = (index: ShopIndex, heat: Heat): number =>
  sum((index.inHeat.get(heat.id) ?? []).map((pouring) => pouring.pouredKg ?? 0));

/** What must be so before metal flows: charged, dry, crew and cover confirmed. */
function judgeGate(index: ShopIndex, heat: Heat): Refusal[] {
  const lines = index.chargeOf.get(heat.id) ?? [];
  const wet = judgeDry(lines);
  if (wet.length > 0) return wet;
  return [
    ...(lines.length === 0 ? [never('state', 'Nothing is charged yet: write down what went into the crucible.')] : []),
    ...(heat.coverConfirmedById === null ? [unless('crew', 'Crew and cover are not confirmed for this heat.')] : []),
  ];
}

/** Records one tree of a heat as poured, short, run out or not poured. Readings were checked before. */
export function pourTree(
  index: ShopIndex,
  heat: Heat,
  given: PourTree,
  doing: Doing,
): Act<{ id: Id; flags: readonly string[] }> {
  const closedAlready = over(heat);
  if (closedAlready.length > 0) return refusedAct(closedAlready);
  const pouring = (index.inHeat.get(heat.id) ?? []).find(({ treeId }) => treeId === given.treeId);
  if (!pouring) return invalidAct({ treeId: 'is not in this heat' });
  const label = treeLabel(index, given.treeId);
  const step = pourStepOf(index, given.treeId);
  if (pouring.outcome !== null || !step)
    return refusedAct([never('closed', say`${label} is recorded as ${pouring.outcome ?? 'poured'} already.`)]);
  const wrong = { ...wrongTimes(doing.now, given.startedAt, given.endedAt), ...wrongPeople(doing.people, given.by) };
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const outcome = index.kind(step).outcomes.find(({ code }) => code === given.outcome);
  const metalFlows = outcome?.effect !== 'again';
  const asked = metalFlows
    ? doubtsOfPour(given.readings['pouredKg'], chargedKg(index, heat), pouredKg(index, heat))
    : [];
  const gate = allow(metalFlows ? [...judgeGate(index, heat), ...asked] : [], doing);
  if (gate.left.length > 0) return refusedAct(gate.left);
  const { version: _, treeId: __, override: ___, ...said } = given;
  const closed = closeJudged(index, step, said, doing);
  if (!isPossible(closed)) return { ...refusedAct(closed.refusals), fields: closed.fields };
  const { closing } = closed;
  const startedAt = given.startedAt ?? given.endedAt;
  return {
    refusals: [],
    fields: {},
    passed: [...new Set([...gate.passed, ...closed.passed])],
    ops: [
      ...closed.ops,
      update(
        'pourings',
        pouring.id,
        pouredOf(closing.readings, { outcome: given.outcome, stepId: step.id, startedAt }),
      ),
      update('heats', heat.id, {
        state: 'running',
        startedAt: heat.startedAt ?? startedAt,
        ...touched(heat),
      }),
    ],
    answer: { id: heat.id, flags: closing.flags },
    tell: (after) => ({
      event: {
        verb: 'pour',
        text: say`H-${heat.number} · ${closedInWords(index, step, closing)}`,
        room: 'pour',
        doneAt: given.endedAt,
        bad: given.outcome !== 'poured',
      },
      concerns: [['heat', heat.id], ...concernsOf(index, step), ...concernsOf(after, step)],
    }),
  };
}

/** The pouring's own record: what was read at the cup is kept there alone. */
function pouredOf(
  readings: Readonly<Record<string, unknown>>,
  rest: { readonly outcome: string; readonly stepId: Id; readonly startedAt: string },
): Partial<Pouring> {
  const number = (key: string) => (typeof readings[key] === 'number' ? (readings[key] as number) : null);
  return {
    ...rest,
    outcome: rest.outcome as Pouring['outcome'],
    pouredKg: number('pouredKg'),
    metalC: number('metalC'),
    tempWhere: (readings['tempWhere'] as string | undefined) ?? null,
    seconds: number('seconds'),
  };
}

/** More may be pigged than the sums leave, by so much: scales and spill. */
const PIG_SLACK_KG = 0.5;

/** A heat that does not close is weighed again: charge = poured + pig + what the melt usually loses. */
function doubtsOfEnd(heat: Heat, chargedKg: number, outKg: number): Refusal[] {
  const usual = chargedKg * heat.meltLoss;
  const balance = balanceOf(chargedKg, outKg, usual);
  if (chargedKg <= 0 || !balance.isOff) return [];
  return [
    askOnce({
      field: 'pigKg',
      value: kg(outKg),
      says: say`${offInWords(balance, usual)}: ${kg(chargedKg)} charged, ${kg(outKg)} poured and pigged, ${kg(usual)} usually lost in the melt. Weigh the pig again`,
    }),
  ];
}

/** The heat is over: what is left is pigged and counts as returns. */
export function finishHeat(index: ShopIndex, heat: Heat, given: FinishHeat, doing: Doing): Act<{ id: Id }> {
  const closed = over(heat);
  if (closed.length > 0) return refusedAct(closed);
  const pourings = index.inHeat.get(heat.id) ?? [];
  const open = pourings.filter(({ outcome }) => outcome === null);
  if (open.length > 0) {
    const names = open.map(({ treeId }) => treeLabel(index, treeId)).join(', ');
    return refusedAct([never('order', say`Say first how it went with ${names}.`)]);
  }
  if (pourings.length === 0)
    return refusedAct([never('state', 'No tree was poured from this heat; abandon it instead.')]);
  const wrong = { ...wrongTimes(doing.now, heat.startedAt, given.endedAt), ...wrongPeople(doing.people, given.by) };
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const charged = sum((index.chargeOf.get(heat.id) ?? []).map((line) => line.kg));
  const left = charged - sum(pourings.map(({ pouredKg }) => pouredKg ?? 0));
  if (given.pigKg > left + PIG_SLACK_KG)
    return invalidAct({ pigKg: say`${kg(given.pigKg)} is more than was left (${kg(Math.max(0, left))})` });
  const asked = allow(doubtsOfEnd(heat, charged, charged - left + given.pigKg), doing);
  if (asked.left.length > 0) return refusedAct(asked.left);
  const whole = index.kinds.find(({ carrier }) => carrier === 'heat')!;
  const melt = plannedStep(doing.newId, whole.code, 'heat', heat.id, {
    state: 'done',
    startedAt: heat.startedAt,
    endedAt: given.endedAt,
    by: [...given.by],
    recordedBy: doing.actor?.id ?? null,
    outcome: 'done',
    typed: given.typed ?? {},
    taken: given.taken ?? [],
    note: given.note,
  });
  return {
    refusals: [],
    fields: {},
    passed: asked.passed,
    ops: [
      insert('steps', melt),
      update('heats', heat.id, {
        state: 'done',
        endedAt: given.endedAt,
        pigKg: given.pigKg,
        energyKwh: given.energyKwh ?? null,
        ...touched(heat),
      }),
    ],
    answer: { id: heat.id },
    tell: () => ({
      event: {
        verb: 'finish heat',
        text: say`Heat H-${heat.number} over: ${counted(pourings.length, 'tree')}, ${kg(given.pigKg)} pigged`,
        room: 'pour',
        doneAt: given.endedAt,
      },
      concerns: concernsOfHeat(index, heat.id, treesOf(index, heat)),
    }),
  };
}

/** The heat is given up: trees not yet poured wait for another one. */
export function abandonHeat(index: ShopIndex, heat: Heat, given: Abandon, doing: Doing): Act<{ id: Id }> {
  const closed = over(heat);
  if (closed.length > 0) return refusedAct(closed);
  return {
    refusals: [],
    fields: {},
    passed: [],
    ops: [
      ...(index.inHeat.get(heat.id) ?? [])
        .filter(({ outcome }) => outcome === null)
        .map(({ id }) => update('pourings', id, { outcome: 'not poured' })),
      update('heats', heat.id, { state: 'abandoned', reason: given.reason, endedAt: doing.now, ...touched(heat) }),
    ],
    answer: { id: heat.id },
    tell: () => ({
      event: {
        verb: 'abandon heat',
        text: say`Heat H-${heat.number} abandoned: ${given.reason}`,
        room: 'pour',
        reason: given.reason,
        bad: true,
      },
      concerns: concernsOfHeat(index, heat.id, treesOf(index, heat)),
    }),
  };
}
