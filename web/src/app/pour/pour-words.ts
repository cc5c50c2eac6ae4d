import type { PourWindow, TemperaturePlace, Unit } from '@kalvet/core';

/** Where a temperature was read. */
export const PLACE_WORDS: Readonly<Record<TemperaturePlace, string>> = {
  furnace: 'in the furnace',
  ladle: 'in the ladle',
  cup: 'at the cup',
  mould: 'of the mould',
};

/** How a screen says quantities. */
interface Says {
  readonly amount: (value: number, unit: Unit, decimals: number) => string;
}

/** `400–721 °C`. */
export const mouldWords = ({ mouldC: [low, high] }: Pick<PourWindow, 'mouldC'>, shop: Says): string =>
  `${shop.amount(low, '°C', 0).replace(/ \S+$/, '')}–${shop.amount(high, '°C', 0)}`;

/** `26 s`, `3 min`, `3 min 49 s`. */
export function secondsInWords(seconds: number): string {
  const whole = Math.round(seconds);
  const [minutes, rest] = [Math.floor(whole / 60), whole % 60];
  if (minutes === 0) return `${rest} s`;
  return rest === 0 ? `${minutes} min` : `${minutes} min ${rest} s`;
}
