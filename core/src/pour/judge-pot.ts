import type { Alloy } from '../materials/alloys.ts';
import { FAMILY_NAMES, alloyOf } from '../materials/alloys.ts';
import type { Crucible } from '../records/stores.ts';
import type { Refusal } from '../records/refusal.ts';
import { never, unless } from '../records/refusal.ts';
import { say } from '../units/words.ts';

/** A crucible with what was melted in it, the last one last. */
export interface Pot extends Pick<Crucible, 'name' | 'family' | 'state' | 'lifeHeats'> {
  readonly heats: number;
  readonly alloyIds: readonly string[];
}

const holdsLead = ({ family, alloyIds }: Pot): boolean =>
  family === 'leaded' || alloyIds.some((id) => alloyOf(id).leaded);

/**
 * Whether an alloy may be melted in a pot: never without lead where lead was before, of another family only after a wash heat (passed
 * with a reason), and not beyond the heats that it is given unless somebody looked it over.
 */
export function judgePot({ leaded, family, name }: Alloy, pot: Pot): Refusal[] {
  if (pot.state === 'retired') return [never('pot', say`Crucible ${pot.name} is retired.`)];
  if (holdsLead(pot) && !leaded)
    return [never('pot', say`Crucible ${pot.name} has held leaded metal: ${name} never goes into it.`)];
  const last = pot.alloyIds.at(-1);
  const isOther = (last === undefined ? pot.family : alloyOf(last).family) !== family || pot.family !== family;
  return [
    ...(isOther
      ? [
          unless(
            'pot',
            say`Crucible ${pot.name} is for ${(FAMILY_NAMES as Record<string, string>)[pot.family] ?? pot.family}${last === undefined ? '' : say`, the last was ${alloyOf(last).name}`}: ${name} wants a wash heat before it.`,
          ),
        ]
      : []),
    ...(pot.heats >= pot.lifeHeats
      ? [
          unless(
            'pot',
            say`Crucible ${pot.name} has had ${pot.heats} heats of the ${pot.lifeHeats} it is given: look it over, or take another.`,
          ),
        ]
      : []),
  ];
}
