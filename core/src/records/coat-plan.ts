export const SLURRIES = ['face', 'backup'] as const;
export type Slurry = (typeof SLURRIES)[number];
export const SLURRY_NAMES: Readonly<Record<Slurry, string>> = { face: 'face', backup: 'back-up' };

export const STUCCOS = ['fine', 'medium', 'coarse', 'none'] as const;
export type Stucco = (typeof STUCCOS)[number];
export const STUCCO_NAMES: Readonly<Record<Stucco, string>> = {
  fine: 'fine',
  medium: 'medium',
  coarse: 'coarse',
  none: 'none (seal)',
};

/** How slurry comes on, and how stucco does. */
export const COAT_METHODS = ['dip', 'pour', 'brush', 'spray'] as const;
export type CoatMethod = (typeof COAT_METHODS)[number];
export const STUCCO_METHODS = ['rain', 'bed'] as const;
export type StuccoMethod = (typeof STUCCO_METHODS)[number];

/** Coats that are made alike: from the one after the layer before it up to and with one. */
export interface Layer {
  /** Null for all that follow. */
  readonly untilCoat: number | null;
  readonly slurry: Slurry;
  readonly stucco: Stucco;
  /** Its grain in the supplier's words: `0.25 to 0.5 mm`. */
  readonly grain: string;
  readonly method: CoatMethod;
  readonly stuccoBy: StuccoMethod;
  /** How long it dries in the reference's air, minutes; as the route's times say where nobody entered it. */
  readonly waitMinutes: number | null;
}

/** The last coat, which has no stucco. */
export type SealLayer = Pick<Layer, 'slurry' | 'method' | 'waitMinutes'>;

/**
 * How a shop shells: how many coats by the height of the metal, and how each is made. A change is a new number; trees that were
 * joined keep the one they began with.
 */
export interface CoatPlan {
  readonly code: string;
  readonly number: number;
  /** The school: `colloidal silica, fused silica stucco`. */
  readonly name: string;
  /** By metal height, the lowest first; the last one has no end. */
  readonly classes: readonly { readonly upToMm: number | null; readonly coats: number }[];
  /** Where nobody knows the height yet. */
  readonly unknown: number;
  readonly layers: readonly Layer[];
  readonly seal: SealLayer;
}

/** The plan that one tree is shelled by, as it was when it was joined, or as somebody changed it for this tree. */
export interface TreeCoats extends Pick<CoatPlan, 'code' | 'number' | 'name' | 'layers' | 'seal'> {
  readonly coats: number;
  /** Why it differs from the shop's; null where it does not. */
  readonly why: string | null;
}

const layer = (untilCoat: number | null, slurry: Slurry, stucco: Stucco, grain: string): Layer => ({
  untilCoat,
  slurry,
  stucco,
  grain,
  method: 'dip',
  stuccoBy: 'rain',
  waitMinutes: null,
});

/**
 * A sensible start: six coats and one more for each (begun) 100 mm of metal above 200 mm, twenty at most; fine on the face
 * slurry, then medium and coarse on the back-up, and a seal coat without stucco.
 */
export const USUAL_COAT_PLAN: CoatPlan = {
  code: 'shell',
  number: 1,
  name: 'Ceramic shell',
  classes: Array.from({ length: 15 }, (_, i) => ({ upToMm: i === 14 ? null : 200 + 100 * i, coats: 6 + i })),
  unknown: 8,
  layers: [
    layer(2, 'face', 'fine', '0.1 to 0.25 mm'),
    layer(4, 'backup', 'medium', '0.25 to 0.5 mm'),
    layer(null, 'backup', 'coarse', '0.5 to 1 mm'),
  ],
  seal: { slurry: 'backup', method: 'dip', waitMinutes: null },
};
