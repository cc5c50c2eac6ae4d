import type { Cup } from '../records/tree-stock.ts';
import type { Figure } from '../units/figure.ts';
import { positive, within } from '../units/figure.ts';
import { kg, percent } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** A stock of wax bar: its code, how it is called, its section. */
export interface BarStock {
  readonly code: string;
  readonly label: string;
  readonly sectionCm2: number;
}

/** Bars are from 3 to 60 mm across. */
const STOCK_CODE = /^([SR])([3-9]|[1-5]\d|60)$/;

/** A stock by its code: `S12` is square, 12 mm; `R8` is round, 8 mm; undefined for any other. */
export function barStockOf(code: string): BarStock | undefined {
  const [, shape, across] = STOCK_CODE.exec(code) ?? [];
  if (!across) return undefined;
  const cm = Number(across) / 10;
  return shape === 'S'
    ? { code, label: `square ${across} mm`, sectionCm2: cm ** 2 }
    : { code, label: `round ${across} mm`, sectionCm2: (Math.PI * cm ** 2) / 4 };
}

/** So many bars of one stock, each of a length. */
export interface Bars {
  readonly stock: string;
  readonly count: number;
  readonly lengthMm: number;
}

/** The one cup of records that only say that there was one: 659 cm³. */
export const DEFAULT_CUP: Cup = { topRadiusMm: 60, bottomRadiusMm: 25, heightMm: 110 };

/** Volume of bars in cm³: length × section. @throws RangeError for stock that does not exist */
export function barsVolumeCm3(bars: readonly Bars[]): number {
  return bars.reduce((sum, { stock, count, lengthMm }) => {
    const kind = barStockOf(stock);
    if (!kind) throw new RangeError(`no bar stock ${stock}`);
    return (
      sum + within('bar count', count, 0, 1000) * (within('bar length', lengthMm, 0, 10_000) / 10) * kind.sectionCm2
    );
  }, 0);
}

/** Volume of a cup in cm³: the frustum V = πh/3·(R²+Rr+r²). R 60, r 25, h 110 mm → 659 cm³. */
export function cupVolumeCm3({ topRadiusMm, bottomRadiusMm, heightMm }: Cup): number {
  const R = positive('cup top radius', topRadiusMm) / 10;
  const r = positive('cup bottom radius', bottomRadiusMm) / 10;
  return ((Math.PI * positive('cup height', heightMm)) / 10 / 3) * (R * R + R * r + r * r);
}

/** What a tree takes from the crucible. */
export interface TreeMetal {
  readonly castsKg: number;
  readonly barsKg: number;
  readonly cupKg: number;
  readonly spillKg: number;
  readonly pourWeight: Figure;
  /** Casts ÷ pour weight. */
  readonly yield: Figure;
}

/** Shop defaults: how full the cup is poured, and what is spilt or left as skin. */
export const DEFAULT_CUP_FILL = 0.7;
export const DEFAULT_SPILL_KG = 0.3;

/**
 * Pour weight = casts + bars + cup × fill + spill, and the yield. The cavity is filled with metal of the alloy's density.
 * @param castsKg what the casts take, kg (safe side); @param densityGPerCm3 of the metal
 */
export function treeMetal(given: {
  castsKg: number;
  castsPlusMinusKg?: number;
  /** Some of it is a plan, not weighed or joined yet. */
  estimated?: boolean;
  bars: readonly Bars[];
  cup: Cup | null;
  densityGPerCm3: number;
  cupFill?: number;
  spillKg?: number;
}): TreeMetal {
  const density = positive('metal density', given.densityGPerCm3);
  const castsKg = positive('casts', given.castsKg);
  const barsKg = (barsVolumeCm3(given.bars) * density) / 1000;
  const fill = within('cup fill', given.cupFill ?? DEFAULT_CUP_FILL, 0, 1);
  const cupKg = given.cup ? (cupVolumeCm3(given.cup) * density * fill) / 1000 : 0;
  const spillKg = within('spill allowance', given.spillKg ?? DEFAULT_SPILL_KG, 0, 1000);
  const value = castsKg + barsKg + cupKg + spillKg;
  const inputs = { casts: kg(castsKg, 2), bars: kg(barsKg, 2), cup: kg(cupKg, 2), spill: kg(spillKg, 2) };
  return {
    castsKg,
    barsKg,
    cupKg,
    spillKg,
    pourWeight: {
      value,
      unit: 'kg',
      ...(given.castsPlusMinusKg === undefined ? {} : { plusMinus: given.castsPlusMinusKg }),
      source: given.estimated ? 'estimated' : 'computed',
      inWords: say`casts ${kg(castsKg)} + bars ${kg(barsKg)} + cup ${kg(cupKg)} (${percent(fill)} full) + spill ${kg(spillKg)}`,
      inputs,
    },
    yield: {
      value: (castsKg / value) * 100,
      unit: '%',
      source: 'computed',
      inWords: 'casts ÷ pour weight',
      inputs,
    },
  };
}
