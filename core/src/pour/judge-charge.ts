import { alloyOf } from '../materials/alloys.ts';
import type { ChargeLine } from '../records/pour.ts';
import type { Refusal } from '../records/refusal.ts';
import { never, unless } from '../records/refusal.ts';
import { kg } from '../units/quantity.ts';
import { joined, say } from '../units/words.ts';

/** A line of a charge, as far as its metal is judged. */
type Line = Pick<ChargeLine, 'what' | 'alloyId' | 'kg' | 'dry'>;

/** Whether each line may go into a crucible of an alloy: nothing of another alloy, no returns that nobody knows. */
export function judgeAlloys(heatAlloyId: string, lines: readonly Line[]): Refusal[] {
  const heat = alloyOf(heatAlloyId);
  return lines.flatMap(({ what, alloyId }): Refusal[] => {
    if (what === 'returns' && alloyId !== heatAlloyId)
      return [
        never(
          'alloy',
          alloyId
            ? say`Returns of ${alloyOf(alloyId).name} do not go into ${heat.name}.`
            : 'Returns of unknown alloy never go into the crucible.',
        ),
      ];
    if (what === 'ingot' && alloyId !== heatAlloyId)
      return [never('alloy', 'The ingot is of another alloy than this heat.')];
    return what === 'addition' && heat.addition === 'none' ? [never('alloy', say`No additions for ${heat.name}.`)] : [];
  });
}

/** Whether the crucible takes so much: over the usable mark may be passed, over the rim never. All in kg. */
export function judgeCrucible(
  inCrucibleKg: number,
  { holdsKg, usableKg }: { readonly holdsKg: number; readonly usableKg: number },
): Refusal[] {
  if (inCrucibleKg > holdsKg + 1e-9)
    return [
      never(
        'crucible',
        say`${kg(inCrucibleKg)} is more than the crucible holds (${kg(holdsKg, 0)}). Leave a tree for the next heat.`,
      ),
    ];
  return inCrucibleKg > usableKg + 1e-9
    ? [unless('crucible', say`${kg(inCrucibleKg)} is above the usable mark of ${kg(usableKg, 0)}.`)]
    : [];
}

/** A wet charge is never melted; nobody may pass that. */
export function judgeDry(lines: readonly Line[]): Refusal[] {
  const wet = lines.filter(({ dry }) => !dry);
  if (wet.length === 0) return [];
  const which = joined(
    wet.map((line) => say`${line.what} ${kg(line.kg)}`),
    ', ',
  );
  return [never('wet', say`Part of the charge is not confirmed dry (${which}). A wet charge is never melted.`)];
}
