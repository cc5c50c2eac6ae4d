import type { Unit } from './quantity.ts';
import type { Units } from './system.ts';
import { CM2_PER_FT2, KG_PER_LB, L_PER_GAL, METRIC, MM_PER_INCH, OZ_PER_LB, fromShown } from './system.ts';

/** What was typed, understood: the value in the unit that is kept. */
export interface ReadQuantity {
  readonly value: number;
  /** As it was typed, where it was in another unit than the one that is kept; kept beside the value. */
  readonly typed?: string;
}

type Kind = 'mass' | 'temperature' | 'length' | 'area' | 'volume' | 'time' | 'share' | 'plain';

const KINDS: Readonly<Partial<Record<Unit, Kind>>> = {
  kg: 'mass',
  g: 'mass',
  '°C': 'temperature',
  mm: 'length',
  m: 'length',
  cm2: 'area',
  m2: 'area',
  l: 'volume',
  min: 'time',
  h: 'time',
  s: 'time',
  '%': 'share',
};

/** In the kind's own measure: kg, °C, mm, cm², litres, minutes, per cent. */
const SIGNS: Readonly<Record<Kind, Readonly<Record<string, (value: number) => number>>>> = {
  mass: {
    kg: (v) => v,
    g: (v) => v / 1000,
    lb: (v) => v * KG_PER_LB,
    lbs: (v) => v * KG_PER_LB,
    oz: (v) => (v * KG_PER_LB) / OZ_PER_LB,
    t: (v) => v * 1000,
  },
  temperature: { c: (v) => v, f: (v) => (v - 32) / 1.8, k: (v) => v - 273.15 },
  length: {
    mm: (v) => v,
    cm: (v) => v * 10,
    m: (v) => v * 1000,
    in: (v) => v * MM_PER_INCH,
    inch: (v) => v * MM_PER_INCH,
    '"': (v) => v * MM_PER_INCH,
    ft: (v) => v * MM_PER_INCH * 12,
    "'": (v) => v * MM_PER_INCH * 12,
  },
  area: {
    cm2: (v) => v,
    mm2: (v) => v / 100,
    m2: (v) => v * 10_000,
    ft2: (v) => v * CM2_PER_FT2,
    in2: (v) => v * MM_PER_INCH ** 2 * 0.01,
  },
  volume: { l: (v) => v, ml: (v) => v / 1000, gal: (v) => v * L_PER_GAL, usgal: (v) => v * L_PER_GAL },
  time: { min: (v) => v, h: (v) => v * 60, s: (v) => v / 60, d: (v) => v * 1440 },
  share: { '%': (v) => v },
  plain: {},
};

/** How many of the kind's own measure the kept unit holds. */
const KEPT: Readonly<Partial<Record<Unit, number>>> = { g: 0.001, m: 1000, m2: 10_000, h: 60, s: 1 / 60 };

const clean = (text: string): string =>
  text
    .trim()
    .toLowerCase()
    .replace(/[\u2033\u201d\u201c]/g, '"')
    .replace(/[\u2032\u2019]/g, "'")
    .replace(/²/g, '2')
    .replace(/³/g, '3')
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/\u00bd/g, ' 1/2')
    .replace(/\u00bc/g, ' 1/4')
    .replace(/\u00be/g, ' 3/4')
    .replace(/°/g, '')
    .replace(/us gal(lons?)?|gallons?/g, 'gal')
    .replace(/sq\.? ?(ft|in)|(ft|in)\^2/g, (_, a: string, b: string) => `${a ?? b}2`)
    .trim();

/** `2`, `2.43`, `2,43`, `3/16`, `1 1/2`. */
const NUMBER = String.raw`(\d+\s+\d+\/\d+|\d+\/\d+|\d*[.,]?\d+)`;
const TERM = new RegExp(String.raw`^${NUMBER}\s*([a-z]+2?|%|"|')?\s*`);

function numberOf(text: string): number {
  const whole = /^(\d+)\s+(\d+)\/(\d+)$/.exec(text);
  if (whole) return Number(whole[1]) + Number(whole[2]) / Number(whole[3]);
  const part = /^(\d+)\/(\d+)$/.exec(text);
  if (part) return Number(part[1]) / Number(part[2]);
  return Number(text.replace(',', '.'));
}

/**
 * Reads what somebody typed as a quantity: with a comma or a point, a fraction, and any unit of its kind. A bare number is
 * in the reader's own unit.
 *
 * In other words: `2,43` is 2.43, `2 lb 4 oz` is 1.02 kg, `3/16 in` is 4.76 mm, `2100F` is 1149 °C.
 *
 * @example
 * readQuantity('2 lb 4 oz', 'kg'); // { value: 1.02058…, typed: '2 lb 4 oz' }
 * @param unit the unit that is kept
 * @param units the reader's own, for a bare number
 * @returns undefined where it cannot be understood: nothing is guessed
 * Source of the factors: NIST SP 811, appendix B.
 */
export function readQuantity(given: string, unit: Unit, units: Units = METRIC): ReadQuantity | undefined {
  const text = clean(given);
  const sign = text.startsWith('-') ? -1 : 1;
  let rest = sign < 0 ? text.slice(1).trim() : text;
  if (rest === '') return undefined;
  const signs = SIGNS[KINDS[unit] ?? 'plain'];
  let own = 0;
  let named = false;
  for (let terms = 0; rest !== ''; terms++) {
    const found = TERM.exec(rest);
    if (!found || terms > 1) return undefined;
    const value = numberOf(found[1]!);
    if (!Number.isFinite(value)) return undefined;
    if (found[2] === undefined) {
      // Only a number that stands by itself may go without its unit.
      if (terms > 0 || rest.slice(found[0].length) !== '') return undefined;
      return withTyped(sign * fromShown(value, unit, units), unit, units, given);
    }
    const of = signs[found[2]];
    if (!of) return undefined;
    own += of(value);
    // Two terms only where the second is the smaller unit of the first: pounds and ounces, feet and inches.
    if (terms === 1 && !(of(1) < signs[/^[a-z'"]+/.exec(text.replace(/^[\d\s.,/]+/, ''))![0]]!(1))) return undefined;
    named = true;
    rest = rest.slice(found[0].length);
  }
  const value = (sign * own) / (KEPT[unit] ?? 1);
  return named ? { value, typed: given.trim() } : { value };
}

const withTyped = (value: number, unit: Unit, units: Units, given: string): ReadQuantity => {
  const metric = fromShown(1, unit, units) === 1 && fromShown(0, unit, units) === 0;
  return metric ? { value } : { value, typed: given.trim() };
};
