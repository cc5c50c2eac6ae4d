import type { Unit } from '../units/quantity.ts';

/** From and to, both allowed: what a field takes, in the unit that is kept. */
export interface Limits {
  readonly min: number;
  readonly max: number;
  /** What both are in, so that a limit is said in its reader's own. */
  readonly unit?: Unit;
}

const limits = (min: number, max: number, unit?: Unit): Limits => ({ min, max, ...(unit ? { unit } : {}) });

/** What each field of the records takes: form and check read the same figure. */
export const LIMITS = {
  wallMm: limits(0.5, 100, 'mm'),
  metalHeightMm: limits(5, 20_000, 'mm'),
  waxKg: limits(0.005, 2000, 'kg'),
  areaCm2: limits(1, 1_000_000, 'cm2'),
  /** No seam is shorter than a centimetre; where there is none, it is not given. */
  seamM: limits(0.01, 200, 'm'),
  editionSize: limits(0, 999),
  artistProofs: limits(0, 99),
  pullsBefore: limits(0, 10_000),
  lifePulls: limits(1, 1000),
  pourKg: limits(0.05, 5000, 'kg'),
  chargeKg: limits(0.001, 5000, 'kg'),
  pigKg: limits(0, 5000, 'kg'),
  fireC: limits(100, 1200, '°C'),
  barCount: limits(1, 200),
  barMm: limits(1, 5000, 'mm'),
  cupMm: limits(5, 600, 'mm'),
  defectMm: limits(0.1, 5000, 'mm'),
  liftLimitKg: limits(1, 200, 'kg'),
  waxBand: limits(0.01, 0.5),
  crucibleKg: limits(0.1, 20_000, 'kg'),
  tongsKg: limits(0, 1000, 'kg'),
  kilnPlaces: limits(1, 500),
  backupsKept: limits(2, 400),
  meltLoss: limits(0, 0.3),
  pigReserveKg: limits(0, 1000, 'kg'),
  /** None where a hoist, a trolley or a tilting furnace moves the crucible. */
  carriers: limits(0, 12),
  furnaceKw: limits(1, 5000, 'kW'),
  furnaceEfficiency: limits(0.01, 1),
  hands: limits(1, 200),
  pourHands: limits(0, 20),
  transferK: limits(0, 200, 'K'),
  crucibleLossK: limits(0, 60, 'K'),
  minutesATree: limits(0.2, 60, 'min'),
  preheatC: limits(20, 1200, '°C'),
  shellLossShare: limits(0.05, 1),
  kilnHands: limits(0, 1),
  hoists: limits(0, 20),
  hoistFromKg: limits(1, 5000, 'kg'),
  pitPlaces: limits(1, 200),
  pitPitchMm: limits(100, 5000, 'mm'),
  onlookersM: limits(0, 50, 'm'),
  insideMm: limits(100, 10_000, 'mm'),
  gapMm: limits(0, 300, 'mm'),
  firingStages: limits(1, 2),
  kilnKg: limits(10, 50_000, 'kg'),
  profileC: limits(40, 1300, '°C'),
  perHourK: limits(5, 2000),
  holdMinutes: limits(0, 20_000),
  kilnC: limits(-20, 1400, '°C'),
  waxBackKg: limits(0, 5000, 'kg'),
  bronzeMm: limits(5, 20_000, 'mm'),
  scale: limits(1e-6, 1e6),
  pourMinutes: limits(0, 240, 'min'),
  meterKwh: limits(0.01, 1000),
  energyKwh: limits(0, 100_000, 'kWh'),
  lotKg: limits(0.01, 100_000, 'kg'),
  stockKg: limits(0, 100_000, 'kg'),
  heats: limits(0, 10_000),
  lifeHeats: limits(1, 10_000),
  celsius: limits(-40, 3500, '°C'),
  plusMinusK: limits(0, 200, 'K'),
  percent: limits(0, 100),
  roomC: limits(-40, 150, '°C'),
  airflow: limits(0.1, 3),
  hooks: limits(1, 1000),
  coats: limits(2, 40),
  coatMm: limits(0.2, 5, 'mm'),
  shapeMm: limits(5, 5000, 'mm'),
  tankLitres: limits(5, 20_000, 'l'),
  slurryDensity: limits(1, 4, 'g/cm3'),
  cupSeconds: limits(1, 600, 's'),
  ph: limits(0, 14),
  checkHours: limits(1, 336),
  slurryC: limits(0, 60, '°C'),
  topUpKg: limits(0.01, 5000, 'kg'),
  dryingK: limits(0.5, 20, 'K'),
  emissivity: limits(0.01, 1),
  workingDays: limits(0, 60),
  fireMinutes: limits(0, 600),
  setupMinutes: limits(0, 10_080),
  /** Half a year: no step takes longer, and no wait that is longer can be planned beside the others of a route. */
  minutes: limits(0, 262_080),
} as const;

/** Letters that a text takes at most. */
export const LETTERS = {
  code: 6,
  name: 120,
  title: 200,
  finish: 500,
  why: 500,
  note: 1000,
  profile: 200,
  lot: 60,
  place: 300,
  contact: 500,
  shortName: 12,
  glyph: 1000,
  what: 300,
} as const;

/** How many at once. */
export const MOST = {
  people: 8,
  crew: 12,
  trees: 60,
  chargeLines: 40,
  sections: 60,
  moulds: 60,
  steps: 60,
  defects: 60,
  bars: 60,
  resources: 60,
  cups: 20,
  barStock: 60,
  /** Casts of one work: beyond this a set-up would be a slip of the finger. */
  casts: 2000,
  pieces: 500,
  /** In one draft: what is thought of at once. */
  changes: 20,
} as const;

/** Records are of these years; what lies outside is a slip of the finger. */
export const FIRST_DAY = '2000-01-01';
export const LAST_DAY = '2100-12-31';
