import type { Day } from '../units/instant.ts';
import type { Room } from './common.ts';
import type { Calendar, Resource, Staffing } from './plan.ts';
import type { KindTimes } from './route.ts';
import type { ShopSettings } from './settings.ts';
import type { StepKindCode } from './step.ts';

/** A country whose usual holidays are known, with its regions. */
export interface HolidayRegion {
  readonly code: string;
  readonly name: string;
  readonly regions: readonly { readonly code: string; readonly name: string }[];
}

export interface Holiday {
  readonly day: Day;
  readonly name: string;
}

/** What the planner counts with, for the settings page. */
export interface PlanningAnswer {
  readonly settings: ShopSettings;
  readonly settingsVersion: number;
  readonly calendars: readonly Calendar[];
  readonly resources: readonly Resource[];
  /** Hands more or fewer for a while, the soonest first; what is over is left out. */
  readonly staffing: readonly Staffing[];
  readonly kinds: readonly {
    readonly kind: StepKindCode;
    readonly name: string;
    readonly room: Room;
    /** The default route's. */
    readonly usual: Required<KindTimes>;
    /** The shop's own, where it has entered any. */
    readonly own: KindTimes;
    /** Hands-on time is estimated by the size of the work, unless the shop has its own figure. */
    readonly bySize: boolean;
    /** Minutes of the longest of the shop's own profiles that it is fired with; null where it has none. */
    readonly firing: number | null;
    /** By how much the shop takes longer or shorter than that estimate, from so many logged hours; null where none are. */
    readonly learned: { readonly factor: number; readonly n: number } | null;
  }[];
}
