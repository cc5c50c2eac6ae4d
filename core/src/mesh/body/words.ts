/** `1 hole`, `3 holes`. */
export const counted = (count: number, one: string, many = `${one}s`): string => `${count} ${count === 1 ? one : many}`;

const rounded = (value: number): string => String(Number(value.toPrecision(2)));

/** A length as it is said: `0.004 mm`. */
export const lengthInWords = (mm: number): string => `${rounded(mm)} mm`;

/** A volume as it is said: `12 cm³`, small ones in mm³. */
export const volumeInWords = (mm3: number): string =>
  mm3 < 1000 ? `${rounded(mm3)} mm³` : `${rounded(mm3 / 1000)} cm³`;
