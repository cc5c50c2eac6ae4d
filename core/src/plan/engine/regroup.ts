import type { Compiled } from '../compile.ts';
import type { Load, Loads } from './loads.ts';

/** Tasks by place that are to share loads in another way. */
export type Groups = readonly (readonly number[])[];

export const placesOf = ({ members }: Load): number[] => [...members].map(({ place }) => place);

/**
 * Two loads put together; where that is too much, one task changes over, or two change places.
 * @returns who is to share a load with whom, or nothing where none of it fits
 */
export function merged(
  { tasks }: Compiled,
  { capacity, maxTasks }: Loads,
  one: Load,
  other: Load,
  random: () => number,
): Groups | undefined {
  const unitsOf = (place: number) => tasks[place]!.batch!.units;
  const oneOf = (list: readonly number[]) => list[Math.floor(random() * list.length)]!;
  const all = [...placesOf(one), ...placesOf(other)];
  // What takes no time holds nothing, in a load of its like.
  const isNothing = one.end === one.start && other.end === other.start;
  if (all.length <= maxTasks && (isNothing || one.units + other.units <= capacity)) return [all];
  const [from, to] = random() < 0.5 ? [one, other] : [other, one];
  const mover = oneOf(placesOf(from));
  const units = unitsOf(mover);
  const rest = placesOf(from).filter((place) => place !== mover);
  if (to.units + units <= capacity && to.members.size < maxTasks) return [rest, [...placesOf(to), mover]];
  const inTurn = placesOf(to).filter(
    (place) => to.units + units - unitsOf(place) <= capacity && from.units + unitsOf(place) - units <= capacity,
  );
  if (inTurn.length === 0) return undefined;
  const back = oneOf(inTurn);
  return [
    [...rest, back],
    [...placesOf(to).filter((place) => place !== back), mover],
  ];
}

/** One load parted into two at random; often one task alone. */
export function parted(load: Load, random: () => number): Groups {
  const all = placesOf(load);
  const alone = random() < 0.5 ? all[Math.floor(random() * all.length)] : undefined;
  const leaves = all.map((place) => (alone === undefined ? random() < 0.5 : place === alone));
  return [all.filter((_, i) => leaves[i]), all.filter((_, i) => !leaves[i])].filter(({ length }) => length > 0);
}
