import type { Override } from '../records/answers.ts';
import type { Refusal } from '../records/refusal.ts';
import type { Op } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import { closeStep } from '../route/close-step.ts';
import { UNLIKELY } from '../records/expectation.ts';
import { doubts } from '../route/doubts.ts';
import { judge, tooOld } from '../route/judge.ts';
import { stepLabel } from '../route/labels.ts';
import type { Link } from '../route/links.ts';
import { linksOf } from '../route/links.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import type { Closing } from '../route/step-kind.ts';
import { outcomeOf } from '../route/step-kind.ts';
import type { Text, Words } from '../units/words.ts';
import { inWords, isEmpty, joined, say } from '../units/words.ts';
import type { Doing } from './act.ts';
import { expectedOf } from './expected.ts';
import { allow } from './act.ts';
import { toldReadings } from './readings.ts';

/** What is said of one step when it is recorded, alone, on a tray, in a load or in a heat. */
export type Said = Omit<Closing, 'flags' | 'recordedBy'>;

export interface ClosedStep {
  readonly refusals: readonly Refusal[];
  readonly fields: Readonly<Record<string, Text>>;
  readonly passed: readonly Override[];
  readonly ops: readonly Op[];
  readonly closing: Closing;
}

/** Judges a closing and works out what follows: the one way to record a step. */
export function closeJudged(
  index: ShopIndex,
  step: Step,
  said: Said,
  doing: Doing,
  links: readonly Link[] = linksOf(index),
): ClosedStep {
  const kind = index.kind(step);
  const outcome = outcomeOf(kind, said.outcome);
  const bare: Closing = { ...said, recordedBy: doing.actor?.id ?? null, flags: [] };
  const stop = (fields: Record<string, Text>, refusals: readonly Refusal[] = []): ClosedStep => ({
    refusals,
    fields,
    passed: [],
    ops: [],
    closing: bare,
  });
  if (!outcome) return stop({ outcome: `${kind.name} has no outcome "${said.outcome}"` });
  if (outcome.why && said.note === '') return stop({ note: `say why: ${outcome.label}` });
  const wrong = outcome.effect === 'skipped' ? {} : (kind.wrong?.(said) ?? {});
  if (Object.keys(wrong).length > 0) return stop(wrong);
  const asked =
    outcome.effect === 'skipped' ? [] : doubts(expectedOf(index, step), said.readings, said.outcome, kind.readings);
  const { left, passed } = allow([...judge(index, links, step, bare), ...asked], doing);
  if (left.length > 0) return stop({}, left);
  const flags = [
    ...tooOld(index, links, step, said.startedAt ?? said.endedAt),
    ...passed
      .filter(({ rule }) => rule !== UNLIKELY)
      .map(({ rule, reason }) => `${rule} overridden by ${doing.actor?.name ?? 'somebody'}: ${reason}`),
    ...(kind.notes?.(index, step, { ...said, startedAt: said.startedAt ?? said.endedAt }) ?? []),
    ...asked.map(({ asks }) => `unlikely, and confirmed: ${inWords(asks!.says)}`),
  ];
  const closing = { ...bare, flags };
  return { refusals: [], fields: {}, passed, ops: closeStep(index, step, closing, doing.newId), closing };
}

/** What the history says of a step that was recorded. */
export function closedInWords(index: ShopIndex, step: Step, closing: Closing): Words {
  const kind = index.kind(step);
  const label = outcomeOf(kind, closing.outcome)?.label ?? 'Done';
  const read = toldReadings(kind, closing.readings, closing.taken, index);
  const said: Text[] = [label === 'Done' ? '' : label.toLowerCase(), read, closing.note].filter(
    (text) => !isEmpty(text),
  );
  const name = stepLabel(index, step);
  return said.length > 0 ? say`${name}: ${joined(said, ', ')}` : say`${name}`;
}
