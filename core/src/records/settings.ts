import type { KindTimes, RouteTimes } from './route.ts';
import type { StepKindCode } from './step.ts';

/** Shop settings that this version of Kalvet uses. */
export interface ShopSettings {
  readonly shopName: string;
  /** IANA name; decides "today" and every printed hour. */
  readonly timeZone: string;
  readonly liftLimitKg: number;
  readonly waxBand: number;
  readonly crucibleHoldsKg: number;
  readonly crucibleUsableKg: number;
  readonly kilnPlaces: number;
  readonly meltLoss: number;
  readonly returnsShare: number;
  readonly pigReserveKg: number;
  /** The empty crucible, what it is carried with, and by how many. */
  readonly crucibleKg: number;
  readonly tongsKg: number;
  readonly carriers: number;
  /** Power at the burner or coil, and the share of it that reaches the metal. */
  readonly furnaceKw: number;
  readonly furnaceEfficiency: number;
  /** The shop's own minutes and waits; the default route's where it has none. */
  readonly routeTimes: RouteTimes;
  /** Which of the numbers were typed in another unit than the one that is kept. */
  readonly typed: Readonly<Record<string, string>>;
}

export const DEFAULT_SETTINGS: ShopSettings = {
  shopName: 'Foundry',
  timeZone: 'Europe/London',
  liftLimitKg: 25,
  waxBand: 0.1,
  crucibleHoldsKg: 130,
  crucibleUsableKg: 120,
  kilnPlaces: 12,
  meltLoss: 0.02,
  returnsShare: 0.5,
  pigReserveKg: 2,
  crucibleKg: 24,
  tongsKg: 14,
  carriers: 0,
  furnaceKw: 110,
  furnaceEfficiency: 0.12,
  routeTimes: {},
  typed: {},
};

/** Numbers of the shop as they are entered. */
export type ShopNumbers = Pick<
  ShopSettings,
  | 'timeZone'
  | 'liftLimitKg'
  | 'waxBand'
  | 'crucibleHoldsKg'
  | 'crucibleUsableKg'
  | 'kilnPlaces'
  | 'meltLoss'
  | 'returnsShare'
  | 'pigReserveKg'
  | 'crucibleKg'
  | 'tongsKg'
  | 'carriers'
  | 'furnaceKw'
  | 'furnaceEfficiency'
>;

export interface SaveNumbers extends ShopNumbers {
  readonly version: number;
  /** What was typed in other units, by name. */
  readonly typed?: Readonly<Record<string, string>>;
}

/** The shop's own times of one kind; a key that is missing is the default route's again. */
export interface SaveTimes {
  readonly version: number;
  readonly kind: StepKindCode;
  readonly times: KindTimes;
}
