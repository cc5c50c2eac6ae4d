import type { Day, Instant } from '../units/instant.ts';
import type { Person } from './people.ts';
import type { ShopSettings } from './settings.ts';

/** Who, where and when: asked once when a screen opens. */
export interface ShopAnswer {
  readonly settings: ShopSettings;
  readonly people: readonly Person[];
  readonly now: Instant;
  readonly today: Day;
  readonly change: number;
}
