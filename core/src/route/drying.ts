import type { DrynessReading, Hanging, ShopClimate } from '../records/climate.ts';
import type { Id } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import type { DryingCourse, Stay } from '../shell/drying-course.ts';
import { dryingCourse } from '../shell/drying-course.ts';
import { toMs } from '../units/instant.ts';
import type { ShopIndex } from './shop-index.ts';

/** Air in which hardly anything dries is planned with as this: what the plan waits for must end some day. K. */
const PLANNED_LEAST_K = 1;

/** Where a tree hangs now: where it was hung, else in the first place there is. */
export function placeNow({ shop, tree }: ShopIndex, treeId: Id): ShopClimate['places'][number] | undefined {
  const last = tree.get(treeId)?.hangs?.at(-1);
  const places = shop.climate?.places ?? [];
  return places.find(({ id }) => id === last?.placeId) ?? places[0];
}

/** The places that a tree hangs in, one after another, whose air is known. */
function staysOf({ shop, tree }: ShopIndex, treeId: Id): Stay[] {
  const places = shop.climate?.places ?? [];
  const first = places[0];
  const hangs: readonly Hanging[] = tree.get(treeId)?.hangs ?? [];
  const stay = (placeId: Id, sinceMs: number): Stay[] => {
    const place = places.find(({ id }) => id === placeId) ?? first;
    return place?.air ? [{ sinceMs, air: place.air, airflow: place.airflow }] : [];
  };
  const told = hangs.flatMap(({ placeId, since }) => stay(placeId, toMs(since)));
  // Before it was hung anywhere it hung in the room.
  return first ? [...stay(first.id, 0), ...told] : told;
}

/** Readings of how dry the coat of a step is. */
export const drynessOf = ({ shop }: ShopIndex, stepId: Id): readonly DrynessReading[] =>
  shop.drynessReadings.filter((each) => each.stepId === stepId && each.voidReason === null);

/** How a coat that was dipped dries, by the air it hangs in; undefined where that air is not known. */
export function dryingOf(
  index: ShopIndex,
  step: Step,
  referenceMinutes: number,
  { learned = true } = {},
): DryingCourse | undefined {
  const { climate } = index.shop;
  if (!climate || step.endedAt === null || referenceMinutes <= 0) return undefined;
  const factor = learned ? climate.learned.factor : 1;
  const thirst = (referenceMinutes / 60) * climate.referenceK * factor;
  const said = learned ? drynessOf(index, step.id) : [];
  const looks = said.map(({ at, dry, share }) => ({ ms: toMs(at), dry, share }));
  return dryingCourse(thirst, toMs(step.endedAt), staysOf(index, step.carrierId), looks) ?? undefined;
}

/** What a wait in the reference's air becomes in what is expected of the place, for the plan; as it is where nothing is known. */
export function expectedMinutes(index: ShopIndex, step: Step, referenceMinutes: number): number {
  const { climate } = index.shop;
  const place = step.carrier === 'tree' ? placeNow(index, step.carrierId) : undefined;
  if (!climate || !place?.air) return referenceMinutes;
  const kelvin = Math.max(PLANNED_LEAST_K, place.air.expectedK);
  return Math.ceil((referenceMinutes * climate.learned.factor * climate.referenceK * place.airflow) / kelvin);
}
