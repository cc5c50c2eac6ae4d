import type { Quantity, Unit } from './quantity.ts';

/** The units somebody reads and types in; each is chosen by itself. */
export interface Units {
  readonly mass: 'kg' | 'lb';
  readonly temperature: '°C' | '°F';
  readonly length: 'mm' | 'inch';
  readonly volume: 'l' | 'US gal';
  readonly area: 'm²' | 'ft²';
}

export const METRIC: Units = { mass: 'kg', temperature: '°C', length: 'mm', volume: 'l', area: 'm²' };

/** What can be chosen of each, for the form and its check. */
export const UNIT_CHOICES = {
  mass: ['kg', 'lb'],
  temperature: ['°C', '°F'],
  length: ['mm', 'inch'],
  volume: ['l', 'US gal'],
  area: ['m²', 'ft²'],
} as const satisfies { readonly [K in keyof Units]: readonly Units[K][] };

/** International pound and inch, US gallon: exact by definition (NIST SP 811, appendix B). */
export const KG_PER_LB = 0.45359237;
export const OZ_PER_LB = 16;
export const MM_PER_INCH = 25.4;
export const L_PER_GAL = 3.785411784;
export const CM2_PER_FT2 = 929.0304;
const CM3_PER_IN3 = 16.387064;

/** A quantity as it is shown to somebody: value, sign and decimals. */
export interface Shown {
  readonly value: number;
  readonly sign: string;
  readonly decimals: number;
}

/** One way to show: the sign, and the value in it for the value in the unit that is kept. */
interface Scale {
  readonly sign: string;
  readonly of: (value: number) => number;
  readonly back: (value: number) => number;
  /** Decimals more (or fewer) than in the unit kept, so that nothing is lost by reading in it. */
  readonly finer: number;
}

const times = (sign: string, factor: number, finer = 0): Scale => ({
  sign,
  of: (value) => value * factor,
  back: (value) => value / factor,
  finer,
});
const same = (sign: string): Scale => times(sign, 1);

const POUNDS = times('lb', 1 / KG_PER_LB);
const OUNCES = times('oz', OZ_PER_LB / KG_PER_LB, -1);

/** In which scale a unit is shown; small weights in ounces. */
function scaleOf(unit: Unit, units: Units, value: number): Scale {
  switch (unit) {
    case 'kg':
      return units.mass === 'kg' ? same('kg') : value !== 0 && Math.abs(value) < KG_PER_LB ? OUNCES : POUNDS;
    case 'g':
      return units.mass === 'kg' ? same('g') : times('oz', OZ_PER_LB / KG_PER_LB / 1000, 1);
    case '°C':
      return units.temperature === '°C'
        ? same('°C')
        : { sign: '°F', of: (c) => c * 1.8 + 32, back: (f) => (f - 32) / 1.8, finer: 0 };
    case 'K':
      return units.temperature === '°C' ? same('K') : times('F°', 1.8);
    case 'mm':
      return units.length === 'mm' ? same('mm') : times('in', 1 / MM_PER_INCH, 2);
    case 'm':
      return units.length === 'mm' ? same('m') : times('ft', 1000 / MM_PER_INCH / 12, -1);
    case 'mm2':
      return units.length === 'mm' ? same('mm²') : times('in²', 1 / MM_PER_INCH ** 2, 3);
    case 'cm2':
      return units.area === 'm²' ? same('cm²') : times('ft²', 1 / CM2_PER_FT2, 2);
    case 'm2':
      return units.area === 'm²' ? same('m²') : times('ft²', 10_000 / CM2_PER_FT2, -1);
    case 'cm3':
      return units.volume === 'l' ? same('cm³') : times('in³', 1 / CM3_PER_IN3, 1);
    case 'l':
      return units.volume === 'l' ? same('l') : times('US gal', 1 / L_PER_GAL, 1);
    case 'g/cm3':
      return same('g/cm³');
    default:
      return same(unit);
  }
}

const digits = (value: number): number => (String(Number(value.toFixed(3))).split('.')[1] ?? '').length;

/** How a quantity is shown in somebody's units. */
export function shown(given: Quantity, units: Units = METRIC): Shown {
  const scale = scaleOf(given.unit, units, given.value);
  const value = scale.of(given.value);
  const kept = given.decimals ?? digits(given.value);
  return { value, sign: scale.sign, decimals: Math.max(0, Math.min(4, kept + scale.finer)) };
}

/** `8.54 kg`, `18.83 lb`. */
export function quantityInWords(given: Quantity, units: Units = METRIC): string {
  const { value, sign, decimals } = shown(given, units);
  const number = value.toFixed(decimals);
  return sign === '' ? number : `${number} ${sign}`;
}

/** The sign a number in this unit is entered and shown with: `lb` for kilograms in pounds. */
export const signOf = (unit: Unit, units: Units = METRIC): string => scaleOf(unit, units, Infinity).sign;

/** The value in the unit that is kept, of one that was typed in the reader's. */
export const fromShown = (value: number, unit: Unit, units: Units): number =>
  scaleOf(unit, units, Infinity).back(value);
/** The value that a field of the reader's units shows. */
export const toShown = (value: number, unit: Unit, units: Units): number => scaleOf(unit, units, Infinity).of(value);
