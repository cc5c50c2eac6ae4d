import type { Defect, Verdict } from '../records/readings.ts';
import { DEFECTS, VERDICTS } from '../records/readings.ts';

/** What an inspection comes to: the worst of its defects' verdicts; a cast without a defect is accepted. */
export const worstVerdict = (defects: readonly Defect[]): Verdict =>
  defects.reduce<Verdict>(
    (worst, { verdict }) => (VERDICTS.indexOf(verdict) > VERDICTS.indexOf(worst) ? verdict : worst),
    'accept',
  );

/** `misrun / cold shut, haunch, 40 mm: recast`; of older records, which kept a bare code, the code. */
export function defectInWords(defect: Defect | string): string {
  if (typeof defect === 'string') return defect;
  const name = DEFECTS.find(({ code }) => code === defect.code)?.label ?? defect.code;
  const size = defect.mm === null ? [] : [`${defect.mm} mm`];
  return `${[name, ...(defect.where ? [defect.where] : []), ...size].join(', ')}: ${defect.verdict}`;
}
