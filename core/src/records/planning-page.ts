import type { Room } from './common.ts';
import type { Calendar, Resource } from './plan.ts';
import type { KindTimes } from './route.ts';
import type { ShopSettings } from './settings.ts';
import type { StepKindCode } from './step.ts';

/** What the planner counts with, for the settings page. */
export interface PlanningAnswer {
  readonly settings: ShopSettings;
  readonly settingsVersion: number;
  readonly calendars: readonly Calendar[];
  readonly resources: readonly Resource[];
  readonly kinds: readonly {
    readonly kind: StepKindCode;
    readonly name: string;
    readonly room: Room;
    /** The default route's. */
    readonly usual: Required<KindTimes>;
    /** The shop's own, where it has entered any. */
    readonly own: KindTimes;
  }[];
}
