import type { Day, Instant } from '../units/instant.ts';
import type { Person } from './people.ts';
import type { ShopSettings } from './settings.ts';

/** Who, where and when: asked once when a screen opens. */
export interface ShopAnswer {
  readonly settings: ShopSettings;
  readonly people: readonly Person[];
  readonly now: Instant;
  readonly today: Day;
  /** Days of the months around today on which metal can be poured, and on which nobody works. */
  readonly pourDays: readonly Day[];
  readonly closedDays: readonly Day[];
  readonly change: number;
}
