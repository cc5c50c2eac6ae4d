import { mm } from '../units/quantity.ts';
import type { Words } from '../units/words.ts';
import { say } from '../units/words.ts';
import type { Defect, Verdict } from '../records/chasing.ts';
import { DEFECTS, VERDICTS } from '../records/chasing.ts';

/** What an inspection comes to: the worst of its defects' verdicts; a cast without a defect is accepted. */
export const worstVerdict = (defects: readonly Defect[]): Verdict =>
  defects.reduce<Verdict>(
    (worst, { verdict }) => (VERDICTS.indexOf(verdict) > VERDICTS.indexOf(worst) ? verdict : worst),
    'accept',
  );

/** `misrun / cold shut, haunch, 40 mm: recast`. */
export function defectInWords(defect: Defect): Words {
  const name = DEFECTS.find(({ code }) => code === defect.code)?.label ?? defect.code;
  const where = [name, ...(defect.where ? [defect.where] : [])].join(', ');
  return defect.mm === null ? say`${where}: ${defect.verdict}` : say`${where}, ${mm(defect.mm)}: ${defect.verdict}`;
}
