import type { Instant } from '../units/instant.ts';
import type { LearnedFigure } from '../units/learned.ts';
import type { CoatPlan } from './coat-plan.ts';
import { USUAL_COAT_PLAN } from './coat-plan.ts';
import type { SaveResource } from './plan.ts';
import type { KindTimes, RouteTimes } from './route.ts';
import type { StepKindCode } from './step.ts';
import type { NamedCup } from './tree-stock.ts';
import { DEFAULT_BAR_STOCK, DEFAULT_CUPS } from './tree-stock.ts';

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
  /** What a cold furnace takes beside its charge, and what a wash heat between two alloys takes, in minutes. */
  readonly liningMinutes: number;
  readonly alloyChangeMinutes: number;
  /** Who leaves the metal shop and the shell room for a pour, and how many minutes before it. */
  readonly pourMetalHands: number;
  readonly pourShellHands: number;
  readonly crewBeforeMinutes: number;
  /** What pouring metal over costs, K; what the crucible loses a minute at 1150 °C, K; minutes from one tree to the next. */
  readonly transferK: number;
  readonly crucibleLossK: number;
  readonly minutesATree: number;
  /** Trees that the pit or sand bed takes at a heat; so many side by side, so far from middle to middle, mm. */
  readonly pitPlaces: number;
  readonly pitAcross: number;
  readonly pitPitchMm: number;
  /** What a section must fit into, inside, mm: the slurry tank, the burnout kiln, the mould room's largest. */
  readonly tankAcrossMm: number;
  readonly tankDeepMm: number;
  readonly kilnAcrossMm: number;
  readonly kilnHighMm: number;
  readonly kilnDeepMm: number;
  /** Between two shells and to the wall, mm; what its floor bears, kg. */
  readonly kilnGapMm: number;
  readonly kilnMostKg: number;
  readonly mouldLongMm: number;
  /** Behind this line stand those who look on, metres from the bed. */
  readonly onlookersM: number;
  /** Skimming and the last reading before the crucible leaves the furnace, and pigging after the last tree, minutes. */
  readonly skimMinutes: number;
  readonly pigMinutes: number;
  /** kWh that one count of the furnace's meter is: 1 for one of kWh, about 10.5 for one of m³ of gas. */
  readonly meterKwh: number;
  /** How the crucible travels, where everybody meets, and what to do when it goes wrong. */
  readonly pourCard: PourCard;
  /** How long shells soak in the kiln before a heat; 0 where they are heated elsewhere, or not at all. */
  readonly preheatMinutes: number;
  /** Somebody stays at the kiln while shells burn (1: a flash kiln), or only lights it (0: a slow one). */
  readonly kilnHands: number;
  /** Hoists, and from what weight on a tree hangs on one. */
  readonly hoists: number;
  readonly hoistFromKg: number;
  /** How hot shells leave the kiln for the pour, °C, and what they lose on their way of what a bare one does: 1 bare, less wrapped or bedded in hot sand. */
  readonly preheatC: number;
  readonly shellLossShare: number;
  /** Working days, today counted, whose work stays where it was told. */
  readonly frozenDays: number;
  /** Working days after which a decision can be expected. */
  readonly decisionDays: number;
  /** The shop's own minutes and waits; the default route's where it has none. */
  readonly routeTimes: RouteTimes;
  /** Wet bulb depression that the shop's drying times are for, K: 6.51 at 22 °C and 50 %. */
  readonly dryingReferenceK: number;
  /** Dewax and firing in one (1), or apart with a look between (2). */
  readonly firingStages: number;
  /** The wall that a coat adds, mm. */
  readonly coatMm: number;
  /** The shop's own kilograms of cast for one of wax, by alloy and wax, as they were taken over. */
  readonly castFactors: Readonly<Record<string, TakenFigure>>;
  /** How the shop shells, the usual plan first. */
  readonly coatPlans: readonly CoatPlan[];
  /** The cups that trees are made with, and the codes of the bars in stock. */
  readonly cups: readonly NamedCup[];
  readonly barStock: readonly string[];
  /** Which of the numbers were typed in another unit than the one that is kept. */
  readonly typed: Readonly<Record<string, string>>;
}

/** A figure of the shop's own records, as a person took it over. */
export interface TakenFigure extends LearnedFigure {
  readonly at: Instant;
}

/** How a crucible comes from the furnace to the cups where nobody carries it. */
export const TRAVELS = ['hoist', 'trolley', 'tilted'] as const;
export type Travels = (typeof TRAVELS)[number];

/** The shop's own card for a pour. */
export interface PourCard {
  readonly travels: Travels;
  readonly meetingPoint: string;
  /** What to do, in the shop's own words; nothing where it has entered none. */
  readonly runOut: string;
  readonly wetMould: string;
  readonly hurt: string;
}

/** What general practice says, as long as the shop has no card of its own. */
export const USUAL_CARD: PourCard = {
  travels: 'hoist',
  meetingPoint: '',
  runOut: 'Stop pouring, tilt back, stand clear. Dry sand on the run, never water. Go on only when the lead says so.',
  wetMould: 'Nobody pours into it. Mark it, set it aside warm, pour the next tree.',
  hurt: 'Stop. Crucible down on dry sand or back in the furnace. Call the emergency number, cool burns with clean water away from the metal.',
};

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
  liningMinutes: 60,
  alloyChangeMinutes: 120,
  pourMetalHands: 2,
  pourShellHands: 1,
  crewBeforeMinutes: 60,
  transferK: 30,
  crucibleLossK: 7.4,
  minutesATree: 1.5,
  pitPlaces: 12,
  pitAcross: 4,
  pitPitchMm: 600,
  tankAcrossMm: 750,
  tankDeepMm: 950,
  kilnAcrossMm: 1000,
  kilnHighMm: 1000,
  kilnDeepMm: 1200,
  kilnGapMm: 40,
  kilnMostKg: 500,
  mouldLongMm: 1400,
  onlookersM: 4,
  skimMinutes: 10,
  pigMinutes: 10,
  meterKwh: 10.5,
  pourCard: USUAL_CARD,
  preheatMinutes: 150,
  preheatC: 870,
  shellLossShare: 1,
  kilnHands: 0,
  hoists: 1,
  hoistFromKg: 60,
  frozenDays: 2,
  decisionDays: 1,
  dryingReferenceK: 6.51,
  coatMm: 0.9,
  firingStages: 1,
  routeTimes: {},
  castFactors: {},
  coatPlans: [USUAL_COAT_PLAN],
  cups: DEFAULT_CUPS,
  barStock: DEFAULT_BAR_STOCK,
  typed: {},
};

/** Settings that are entered by themselves, beside the numbers. */
const BY_THEMSELVES = [
  'shopName',
  'routeTimes',
  'castFactors',
  'coatPlans',
  'cups',
  'barStock',
  'pourCard',
  'typed',
] as const satisfies readonly (keyof ShopSettings)[];

/** Numbers of the shop as they are entered. */
export type ShopNumbers = Omit<ShopSettings, (typeof BY_THEMSELVES)[number]>;

/** The numbers among the settings, as they are entered together. */
export const numbersOf = (settings: ShopSettings): ShopNumbers =>
  Object.fromEntries(
    Object.entries(settings).filter(([name]) => !(BY_THEMSELVES as readonly string[]).includes(name)),
  ) as unknown as ShopNumbers;

/** What is changed of the settings; what is left out stays. All of it counts, or nothing. */
export interface SaveSettings {
  readonly version: number;
  readonly numbers?: ShopNumbers & {
    /** What was typed in other units, by name. */
    readonly typed?: Readonly<Record<string, string>>;
  };
  readonly resources?: readonly SaveResource[];
  /** The shop's own times by kind; a key that is missing is the default route's again. */
  readonly times?: Readonly<Record<StepKindCode, KindTimes>>;
  /** The cups that trees are made with, and the codes of the bars in stock. */
  readonly cups?: readonly NamedCup[];
  readonly barStock?: readonly string[];
  readonly pourCard?: PourCard;
}
