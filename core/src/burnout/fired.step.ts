import { num, text } from '../records/readings.ts';
import type { ReadingDef } from '../records/readings.ts';
import type { Step } from '../records/step.ts';
import type { ShopIndex } from '../route/shop-index.ts';

/** How a load was fired; the load's own record holds it. */
export const FIRED: readonly ReadingDef[] = [
  text('profile', 'Profile', { required: true, start: '900 °C, 2 h', keptIn: 'load' }),
  num('topC', 'Hottest', '°C', [100, 1200, 0], { required: true, keptIn: 'load' }),
];

/** What the load that a tree's step was recorded with says of its firing. */
export function firedFacts(index: ShopIndex, step: Step): Readonly<Record<string, unknown>> {
  const place = (index.placesOf.get(step.carrierId) ?? []).find(({ stepId }) => stepId === step.id);
  return loadFacts(index, place?.loadId ?? '');
}

/** What a load's record says of its firing; nothing before it was fired. */
export function loadFacts(index: ShopIndex, loadId: string): Readonly<Record<string, unknown>> {
  const load = index.load.get(loadId);
  if (!load || load.state !== 'done') return {};
  return { profile: load.profile, ...(load.topC === null ? {} : { topC: load.topC }) };
}
