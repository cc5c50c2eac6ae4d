import type { Id } from '../records/common.ts';
import type { RecordMany, RecordStep } from '../records/route.ts';
import type { Refusal } from '../records/refusal.ts';
import { never } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import { applyOps } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { outcomeNamed, throughWhat } from '../route/judge.ts';
import { carrierLabel, stepLabel } from '../route/labels.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { roomOfStep } from '../route/standing.ts';
import type { Text } from '../units/words.ts';
import { isEmpty, joined, say } from '../units/words.ts';
import type { Act, Doing } from './act.ts';
import { concernsOf, invalidAct, refusedAct, wrongPeople, wrongTimes } from './act.ts';
import { closeJudged, closedInWords } from './close-judged.ts';
import { indexShop } from './index-shop.ts';
import { toldReadings } from './readings.ts';

/** Records a step as done, with its readings, people, time and outcome. Readings were checked before. */
export function recordStep(
  index: ShopIndex,
  step: Step,
  given: RecordStep,
  doing: Doing,
): Act<{ stepId: Id; flags: readonly string[] }> {
  const kind = index.kind(step);
  if (kind.through && given.outcome !== 'skipped') return refusedAct([never('through', throughWhat(kind))]);
  const wrong = { ...wrongTimes(doing.now, given.startedAt, given.endedAt), ...wrongPeople(doing.people, given.by) };
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const { version: _, override: __, ...said } = given;
  const closed = closeJudged(index, step, { ...said, startedAt: given.startedAt ?? step.startedAt }, doing);
  const { closing } = closed;
  return {
    ...closed,
    answer: { stepId: step.id, flags: closing.flags },
    tell: (after) => {
      const { effect } = outcomeNamed(kind, given.outcome);
      return {
        event: {
          verb: 'record step',
          text: closedInWords(after, step, closing),
          room: roomOfStep(index, step),
          doneAt: given.endedAt,
          bad: effect === 'lost' || effect === 'again',
        },
        concerns: [...concernsOf(index, step), ...concernsOf(after, step)],
      };
    },
  };
}

/**
 * Records several steps of one kind at once, a tray of dips or of waxes: each with what is its own, over what all have in
 * common. All of them or none: what stands in the way of one is named with it.
 */
export function recordMany(
  index: ShopIndex,
  steps: readonly Step[],
  given: RecordMany,
  doing: Doing,
): Act<{ stepIds: readonly Id[]; flags: readonly string[] }> {
  const [first] = steps as readonly [Step];
  const kind = index.kind(first);
  if (steps.some((step) => step.kind !== first.kind))
    return invalidAct({ steps: 'only steps of one kind are recorded together' });
  if (kind.through) return refusedAct([never('through', throughWhat(kind))]);
  const wrong = { ...wrongTimes(doing.now, given.startedAt, given.endedAt), ...wrongPeople(doing.people, given.by) };
  if (Object.keys(wrong).length > 0) return invalidAct(wrong);
  const { steps: _, override: __, ...said } = given;
  const refusals: Refusal[] = [];
  const flags: string[] = [];
  const ops: Op[] = [];
  const passed = new Set<Act['passed'][number]>();
  let now = index;
  const told: Text[] = [];
  for (const step of steps) {
    const label = carrierLabel(now, step);
    const own = given.steps.find(({ id }) => id === step.id);
    // An earlier one of the tray may have made this one void: it is judged as it stands then.
    const standing = now.step.get(step.id)!;
    const closed = closeJudged(
      now,
      standing,
      {
        ...said,
        readings: { ...said.readings, ...own?.readings },
        typed: { ...said.typed, ...own?.typed },
        taken: [...(said.taken ?? []), ...(own?.taken ?? [])],
        startedAt: said.startedAt ?? step.startedAt,
      },
      doing,
    );
    const place = steps.indexOf(step);
    if (Object.keys(closed.fields).length > 0) return invalidAct(ofOne(closed.fields, place));
    refusals.push(...closed.refusals.map((refusal) => ofTray(refusal, label, place)));
    const read = toldReadings(kind, closed.closing.readings, closed.closing.taken, now);
    const name = kind.coat ? say`${stepLabel(now, standing)}` : label;
    told.push(isEmpty(read) ? name : say`${name} (${read})`);
    closed.passed.forEach((each) => passed.add(each));
    flags.push(...closed.closing.flags.map((flag) => `${label}: ${flag}`));
    if (closed.refusals.length > 0) continue;
    ops.push(...closed.ops);
    now = indexShop(applyOps(now.shop, closed.ops));
  }
  if (refusals.length > 0) return refusedAct(refusals);
  const { effect, label } = outcomeNamed(kind, given.outcome);
  const how = effect === 'done' ? '' : `: ${label.toLowerCase()}`;
  return {
    refusals,
    fields: {},
    passed: [...passed],
    ops,
    answer: { stepIds: steps.map(({ id }) => id), flags },
    tell: (after) => ({
      event: {
        verb: 'record step',
        text: say`${kind.coat ? '' : `${kind.name} on `}${joined(told, ', ')}${how}${given.note ? `, ${given.note}` : ''}`,
        room: roomOfStep(index, first),
        doneAt: given.endedAt,
        bad: effect === 'lost' || effect === 'again',
      },
      concerns: steps.flatMap((step) => [...concernsOf(index, step), ...concernsOf(after, step)]),
    }),
  };
}

/** A refusal of one on the tray, with its name; a question says at which of them it is asked. */
const ofTray = (refusal: Refusal, label: string, place: number): Refusal =>
  refusal.asks
    ? {
        ...refusal,
        message: say`${label}. ${refusal.message}`,
        asks: { ...refusal.asks, field: `steps.${place}.${refusal.asks.field}` },
      }
    : refusal;

/** What is wrong with one on the tray, field by field: its readings are its own. */
const ofOne = (fields: Readonly<Record<string, Text>>, place: number): Record<string, Text> =>
  Object.fromEntries(
    Object.entries(fields).map(([field, text]) => [
      field.startsWith('readings.') ? `steps.${place}.${field}` : field,
      text,
    ]),
  );
