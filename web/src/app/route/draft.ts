import type { ReadingDef, StepForm, StepKindCode } from '@kalvet/core';
import { STEP_KINDS } from '@kalvet/core';

/** The readings that are asked for at an outcome. */
export function readingsAsked(kind: StepKindCode, outcome: string): readonly ReadingDef[] {
  return STEP_KINDS[kind].readings.filter((def) => !def.outcomes || def.outcomes.includes(outcome));
}

/** What a form starts with: the usual choice, the mould that is good, the casts that are planned on the tree. */
export function startReadings(form: StepForm): Record<string, unknown> {
  const { kind, sequence, name } = form.step;
  const start: Record<string, unknown> = {};
  for (const def of STEP_KINDS[kind].readings) if (def.start !== undefined) start[def.key] = def.start;
  if (kind === 'pull') {
    const good = form.moulds.filter((mould) => mould.good);
    if (good.length === 1) start['mouldId'] = good[0]!.id;
  }
  if (kind === 'join-tree') start['castIds'] = form.casts.filter(({ onTree }) => onTree).map(({ id }) => id);
  if (kind === 'coat') Object.assign(start, coatStart(sequence, name.startsWith('Seal')));
  // What was said when the step was begun stands.
  return { ...start, ...form.step.readings };
}

/** Fine on a face slurry first, then medium and coarse on the back-up; the seal coat has no stucco. */
const coatStart = (coat: number, seal: boolean) => ({
  slurry: coat <= 2 ? 'face' : 'backup',
  stucco: seal ? 'none' : coat <= 2 ? 'fine' : coat <= 4 ? 'medium' : 'coarse',
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
