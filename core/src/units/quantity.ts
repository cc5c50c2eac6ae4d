/** Units that cross a border in Kalvet; one unit per quantity inside (kg, mm, cm², °C, minutes). */
export type Unit =
  | 'kg'
  | 'g'
  | 'mm'
  | 'm'
  | 'mm2'
  | 'cm2'
  | 'm2'
  | 'cm3'
  | 'l'
  | 'g/cm3'
  | '°C'
  | 'K'
  | 'min'
  | 's'
  | 'h'
  | '%'
  | '×'
  | 'MPa'
  | 'kWh'
  | 'kW'
  | 'pulls'
  | '';

/** A number with its unit, as data: words are made of it at the edge, in the reader's units. */
export interface Quantity {
  readonly value: number;
  readonly unit: Unit;
  /** Decimals that it is worth in this unit; as many as it needs (three at most) where absent. */
  readonly decimals?: number;
}

/** A quantity in a unit. */
export const quantity = (value: number, unit: Unit, decimals?: number): Quantity =>
  decimals === undefined ? { value, unit } : { value, unit, decimals };

export const kg = (value: number, decimals = 1): Quantity => quantity(value, 'kg', decimals);
export const celsius = (value: number, decimals = 0): Quantity => quantity(value, '°C', decimals);
export const kelvin = (value: number): Quantity => quantity(value, 'K', 0);
export const mm = (value: number, decimals?: number): Quantity => quantity(value, 'mm', decimals);
export const cm2 = (value: number): Quantity => quantity(value, 'cm2', 0);
export const percent = (share: number, decimals = 0): Quantity => quantity(share * 100, '%', decimals);
/** A plain number with its decimals. */
export const plain = (value: number, decimals?: number): Quantity => quantity(value, '', decimals);

export const isQuantity = (value: unknown): value is Quantity =>
  typeof value === 'object' && value !== null && 'unit' in value && typeof (value as Quantity).value === 'number';
