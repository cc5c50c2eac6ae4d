import { longestFor } from '../burnout/firing-minutes.ts';
import type { KilnProfile } from '../records/burnout.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';
import { openPlaceOf } from '../route/shop-index.ts';

/**
 * The shop's own profile that a step in the kiln is planned with: the one that its load names, else the longest in use for such
 * steps. Undefined where the shop has entered none.
 */
export function firingProfileOf(index: ShopIndex, step: Step): KilnProfile | undefined {
  const { kiln } = index.kind(step);
  if (!kiln) return undefined;
  const profiles = index.shop.profiles ?? [];
  const place = openPlaceOf(index, step.carrierId);
  const named = place && index.load.get(place.loadId)?.profileId;
  return profiles.find(({ id }) => id === named) ?? longestFor(profiles, kiln);
}
