import type { Alloy } from '../materials/alloys.ts';
import type { Filling } from '../records/pour-page.ts';
import type { Figure } from '../units/figure.ts';
import { positive } from '../units/figure.ts';
import { kg, mm, percent, quantity } from '../units/quantity.ts';
import { say } from '../units/words.ts';

/** Seconds for a wall of 1 mm and 1 kg (general gating practice for copper alloys, 1.4–1.6). */
const SLOWNESS = 1.5;
/** Practice differs by so much either way. */
const SPREAD = 0.3;

/**
 * How long a mould should take to fill, s, where nobody has drawn its ways: t = 1.5·∛(wall · metal), wall in mm, metal in kg
 * (general gating practice). A tree whose choke is known has its own.
 * @throws RangeError for a wall or a weight that is not above zero
 */
export function fillSeconds(metalKg: number, wallMm: number): Figure {
  const value = SLOWNESS * Math.cbrt(positive('metal, kg', metalKg) * positive('wall, mm', wallMm));
  return {
    value,
    unit: 's',
    plusMinus: value * SPREAD,
    source: 'estimated',
    inWords: say`1.5 × ∛(${kg(metalKg)} × ${mm(wallMm)}), practice, as long as nobody has said the choke`,
    inputs: { metal: kg(metalKg), wall: mm(wallMm) },
  };
}

/** What is lost of the speed of a free fall in sharp bends and skins (AFS gating practice). */
const DISCHARGE = 0.8;
const GRAVITY = 9.81;

/** A tree whose choke is known. */
export interface Gated {
  readonly metalKg: number;
  readonly liquidKgM3: number;
  /** The smallest total section on the metal's way. */
  readonly chokeMm2: number;
  /** From the ingate to the cup's rim, and how high the casting stands above the ingate, mm: gated from below. */
  readonly headMm: number;
  readonly heightMm: number;
}

/**
 * How long a tree fills through its choke, s: t = m ÷ (ρ·A·C·√(2·g·H_eff)), H_eff = H − p²/(2c), gated from below (p = c): AFS gating
 * practice. 40 kg through 576 mm² under 0.75 m, 0.5 m of it the casting: 3.51 s.
 * @throws RangeError where the cup stands no higher than half of the casting
 */
export function gatedSeconds({ metalKg, liquidKgM3, chokeMm2, headMm, heightMm }: Gated): Figure {
  const effective = positive('effective head, m', (headMm - heightMm / 2) / 1000);
  const area = positive('choke, mm²', chokeMm2) / 1e6;
  const value =
    positive('metal, kg', metalKg) /
    (positive('liquid, kg/m³', liquidKgM3) * area * DISCHARGE * Math.sqrt(2 * GRAVITY * effective));
  return {
    value,
    unit: 's',
    source: 'computed',
    inWords: say`${kg(metalKg)} through a choke of ${quantity(chokeMm2, 'mm2', 0)} under ${mm(effective * 1000, 0)}`,
    inputs: { metal: kg(metalKg), choke: quantity(chokeMm2, 'mm2', 0), head: mm(effective * 1000, 0) },
  };
}

/** Liquid metal of an alloy, kg/m³. */
export const liquidOf = ({ densityGPerCm3 }: Pick<Alloy, 'densityGPerCm3'>): number => densityGPerCm3 * 1000 * LIQUID;

/** Metal below its freezing range when it is liquid is a fifteenth lighter than the casting. */
const LIQUID = 0.933;
/** Ceramic shell: W/mK, kg/m³, J/kgK. */
const SHELL = { conductivity: 0.9, density: 1750, heat: 1100 };

/** What freezes, and in what. */
export interface Freezing {
  /** Middle of the freezing range, °C. */
  readonly meltsC: number;
  readonly liquidKgM3: number;
  readonly latentJKg: number;
  readonly liquidJKgK: number;
  readonly superheatK: number;
  readonly mouldC: number;
}

/**
 * Chvorinov's constant, s/mm²: B = (ρL ÷ (T_m − T_0))² · π ÷ (4·k·ρ_s·c_s) · (1 + (c_m·ΔT_s ÷ L)²) (Geiger and Poirier).
 * @throws RangeError for a mould as hot as the metal freezes at
 */
export function chvorinov({ meltsC, liquidKgM3, latentJKg, liquidJKgK, superheatK, mouldC }: Freezing): number {
  if (!(mouldC < meltsC))
    throw new RangeError(`a mould of ${mouldC} °C does not freeze metal that melts at ${meltsC} °C`);
  const heat = (positive('liquid, kg/m³', liquidKgM3) * positive('heat of fusion', latentJKg)) / (meltsC - mouldC);
  const mould = (4 * SHELL.conductivity * SHELL.density * SHELL.heat) / Math.PI;
  // Per m² of (V/A)²; a square millimetre is a millionth of it.
  return ((heat ** 2 / mould) * (1 + ((liquidJKgK * superheatK) / latentJKg) ** 2)) / 1e6;
}

/** How far heat gets into a shell in so many seconds, mm: √(α·t). Beyond a third of its wall the law, made for endless moulds, is rough. */
export const heatedMm = (seconds: number): number =>
  Math.sqrt((SHELL.conductivity / (SHELL.density * SHELL.heat)) * seconds) * 1000;

/** What is poured into what. */
export interface ThinWall {
  readonly alloy: Alloy;
  readonly wallMm: number;
  readonly cupC: number;
  readonly mouldC: number;
  /** Of the shell; where it is none, none. */
  readonly shellMm?: number | undefined;
}

/** Seconds in which a wall freezes, cooled from both sides (V/A is half of it): t = B·(V/A)². */
export function freezeSeconds({ alloy, wallMm, cupC, mouldC, shellMm }: ThinWall): Figure {
  const meltsC = (alloy.solidusC + alloy.liquidusC) / 2;
  const B = chvorinov({
    meltsC,
    liquidKgM3: liquidOf(alloy),
    latentJKg: alloy.latentKJPerKg * 1000,
    liquidJKgK: alloy.liquidKJPerKgK * 1000,
    superheatK: Math.max(0, cupC - meltsC),
    mouldC,
  });
  const value = B * (positive('wall, mm', wallMm) / 2) ** 2;
  const isRough = shellMm !== undefined && heatedMm(value) > shellMm / 3;
  return {
    value,
    unit: 's',
    source: 'computed',
    inWords: say`${quantity(B, '', 1)} s/mm² × (${mm(wallMm / 2)})², mould at ${quantity(mouldC, '°C', 0)}${isRough ? '; the shell is thin for this law, so take it as rough' : ''}`,
    inputs: { wall: mm(wallMm), mould: quantity(mouldC, '°C', 0), metal: quantity(cupC, '°C', 0) },
  };
}

/** From half of the freezing time on a wall may run cold; beyond it it freezes first. */
const TIGHT = 0.5;

/** Whether a wall is full before it freezes: the share of its freezing time that filling takes, 0.5 a warning, 1 too late. */
export function fillShare(seconds: Figure, freezes: Figure): Filling {
  const value = seconds.value / freezes.value;
  return {
    seconds,
    freezes,
    share: {
      value: value * 100,
      unit: '%',
      source: 'computed',
      inWords: say`fills in ${quantity(seconds.value, 's', 0)}, its thinnest wall freezes in ${quantity(freezes.value, 's', 0)}: ${percent(value)}`,
      inputs: { fills: quantity(seconds.value, 's', 1), freezes: quantity(freezes.value, 's', 1) },
    },
    stands: value > 1 ? 'freezes first' : value > TIGHT ? 'tight' : 'fills',
  };
}
