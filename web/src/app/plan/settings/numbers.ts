import type { ShopNumbers, Unit } from '@kalvet/core';

export type NumberKey = Exclude<keyof ShopNumbers, 'timeZone'>;

/** A number of the shop as it is shown: a share in per cent. */
export interface ShownNumber {
  readonly key: NumberKey;
  readonly label: string;
  readonly unit: Unit;
  readonly decimals: number;
  readonly share?: true;
}

/** The numbers of the shop by what they are about, with what they are for in a line. */
export const NUMBER_GROUPS: readonly {
  readonly title: string;
  readonly about: string;
  readonly numbers: readonly ShownNumber[];
}[] = [
  {
    title: 'Crucible and furnace',
    about: 'How much one heat gives, how long it melts, and what is lifted.',
    numbers: [
      { key: 'crucibleUsableKg', label: 'Crucible, usable', unit: 'kg', decimals: 1 },
      { key: 'crucibleHoldsKg', label: 'Crucible, to the rim', unit: 'kg', decimals: 1 },
      { key: 'crucibleKg', label: 'Crucible, empty', unit: 'kg', decimals: 1 },
      { key: 'tongsKg', label: 'Tongs and shank', unit: 'kg', decimals: 1 },
      { key: 'carriers', label: 'Carried by (0: a hoist)', unit: '', decimals: 0 },
      { key: 'furnaceKw', label: 'Furnace, power', unit: 'kW', decimals: 0 },
      { key: 'furnaceEfficiency', label: 'Of it into the metal', unit: '%', share: true, decimals: 0 },
    ],
  },
  {
    title: 'What fits',
    about: 'A section that is too large for one of these is cut. Inside measures.',
    numbers: [
      { key: 'tankAcrossMm', label: 'Slurry tank, across', unit: 'mm', decimals: 0 },
      { key: 'tankDeepMm', label: 'Slurry tank, deep', unit: 'mm', decimals: 0 },
      { key: 'kilnAcrossMm', label: 'Burnout kiln, across', unit: 'mm', decimals: 0 },
      { key: 'kilnDeepMm', label: 'Burnout kiln, deep', unit: 'mm', decimals: 0 },
      { key: 'kilnHighMm', label: 'Burnout kiln, high', unit: 'mm', decimals: 0 },
      { key: 'kilnGapMm', label: 'Kiln, between two shells', unit: 'mm', decimals: 0 },
      { key: 'kilnMostKg', label: 'Kiln, its floor bears', unit: 'kg', decimals: 0 },
      { key: 'mouldLongMm', label: 'Longest mould', unit: 'mm', decimals: 0 },
    ],
  },
  {
    title: 'A pour day',
    about:
      'When to light up counts back from the pour: skim and recharge, the charge, a cold lining, another alloy. A pour takes its crew out of their rooms.',
    numbers: [
      { key: 'liningMinutes', label: 'Lining, cold', unit: 'min', decimals: 0 },
      { key: 'alloyChangeMinutes', label: 'Wash for another alloy', unit: 'min', decimals: 0 },
      { key: 'pourMetalHands', label: 'Hands of the metal shop', unit: '', decimals: 0 },
      { key: 'pourShellHands', label: 'Hands of the shell room', unit: '', decimals: 0 },
      { key: 'crewBeforeMinutes', label: 'Called before the pour', unit: 'min', decimals: 0 },
      { key: 'preheatC', label: 'Shells leave the kiln at', unit: '°C', decimals: 0 },
      {
        key: 'shellLossShare',
        label: 'Of a bare shell’s loss (wrapped, bedded: less)',
        unit: '%',
        share: true,
        decimals: 0,
      },
      { key: 'transferK', label: 'Lost when poured over', unit: 'K', decimals: 0 },
      { key: 'crucibleLossK', label: 'Crucible loses a minute at 1150 °C', unit: 'K', decimals: 1 },
      { key: 'minutesATree', label: 'From one tree to the next', unit: 'min', decimals: 1 },
      { key: 'skimMinutes', label: 'Skim and last reading', unit: 'min', decimals: 0 },
      { key: 'pigMinutes', label: 'Pig what is left', unit: 'min', decimals: 0 },
      { key: 'pitPlaces', label: 'Trees in the pit at a heat', unit: '', decimals: 0 },
      { key: 'pitAcross', label: 'Places side by side', unit: '', decimals: 0 },
      { key: 'pitPitchMm', label: 'From place to place', unit: 'mm', decimals: 0 },
      { key: 'onlookersM', label: 'Onlookers’ line, from the bed', unit: 'm', decimals: 1 },
      { key: 'meterKwh', label: 'kWh a count of the meter (gas: 10.5 a m³)', unit: '', decimals: 2 },
      { key: 'preheatMinutes', label: 'Preheated in the kiln (0: not there)', unit: 'min', decimals: 0 },
    ],
  },
  {
    title: 'Dates',
    about:
      'What was told for the next days stays as long as it can. What nobody has decided yet is planned from when a decision can be expected.',
    numbers: [
      { key: 'frozenDays', label: 'Working days that stay as told', unit: '', decimals: 0 },
      { key: 'decisionDays', label: 'Working days a decision takes', unit: '', decimals: 0 },
    ],
  },
  {
    title: 'Shell',
    about: 'The air that the drying times are for, as wet bulb depression, and what a coat adds to the wall.',
    numbers: [
      { key: 'dryingReferenceK', label: 'Drying times are for air of', unit: 'K', decimals: 2 },
      { key: 'coatMm', label: 'Wall a coat adds', unit: 'mm', decimals: 2 },
    ],
  },
  {
    title: 'Charge',
    about: 'What a heat is charged with.',
    numbers: [
      { key: 'meltLoss', label: 'Melt loss', unit: '%', share: true, decimals: 1 },
      { key: 'returnsShare', label: 'Returns, at most', unit: '%', share: true, decimals: 0 },
      { key: 'pigReserveKg', label: 'Pig reserve', unit: 'kg', decimals: 1 },
    ],
  },
  {
    title: 'Wax, kiln and lifting',
    about: 'When a wax is off its plan, how full the kiln is, what one person lifts.',
    numbers: [
      { key: 'waxBand', label: 'Wax, allowed off its plan', unit: '%', share: true, decimals: 0 },
      { key: 'kilnPlaces', label: 'Kiln, places for trees', unit: '', decimals: 0 },
      { key: 'firingStages', label: 'Dewax and fire (1: in one, 2: apart, with a look)', unit: '', decimals: 0 },
      { key: 'kilnHands', label: 'Stays at the kiln (1: flash kiln)', unit: '', decimals: 0 },
      { key: 'liftLimitKg', label: 'Lift limit, one person', unit: 'kg', decimals: 0 },
      { key: 'hoists', label: 'Hoists', unit: '', decimals: 0 },
      { key: 'hoistFromKg', label: 'A tree hangs on one from', unit: 'kg', decimals: 0 },
    ],
  },
];

export const NUMBERS: readonly ShownNumber[] = NUMBER_GROUPS.flatMap(({ numbers }) => numbers);

const round = (value: number) => Math.round(value * 10_000) / 10_000;

/** A number as it is shown, and back as it is kept. */
export const shownNumber = ({ share }: Pick<ShownNumber, 'share'>, kept: number): number =>
  round(kept * (share ? 100 : 1));
export const keptNumber = ({ share }: Pick<ShownNumber, 'share'>, shown: number | null): number | null =>
  shown === null ? null : round(shown / (share ? 100 : 1));
