import type { ReadingDef, StepForm, StepKindCode } from '@kalvet/core';
import { kindOf, readingsAsked as askedAt } from '@kalvet/core';

/** The readings that are asked for at an outcome. */
export const readingsAsked = (kind: StepKindCode, outcome: string, sequence = 1): readonly ReadingDef[] =>
  askedAt(kindOf(kind), outcome, sequence);

/** What a form starts with: what its room proposes, and over it what was said when the step was begun. */
export const startReadings = ({ starts, step }: Pick<StepForm, 'starts' | 'step'>): Record<string, unknown> => ({
  ...starts,
  ...step.readings,
});

/** Only what is asked for and was filled in goes to the server. */
export function saidReadings(
  kind: StepKindCode,
  outcome: string,
  draft: Readonly<Record<string, unknown>>,
): Record<string, unknown> {
  const said: Record<string, unknown> = {};
  for (const { key } of readingsAsked(kind, outcome)) {
    const value = draft[key];
    if (value === undefined || value === null || value === '') continue;
    said[key] = value;
  }
  return said;
}

/** What was typed in another unit, of the readings that go to the server. */
export const saidTyped = (
  said: Readonly<Record<string, unknown>>,
  typed: Readonly<Record<string, string | undefined>>,
): Record<string, string> =>
  Object.fromEntries(Object.entries(typed).flatMap(([key, text]) => (text && key in said ? [[key, text]] : [])));
