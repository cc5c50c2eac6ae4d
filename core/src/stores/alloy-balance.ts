import type { AlloyBalance, Movement } from '../records/stores.ts';

/** A heat's kilograms: what went into the pot, what was poured, what was pigged; null while it is not over. */
export interface HeatKg {
  readonly alloyId: string;
  readonly chargeKg: number;
  readonly pouredKg: number;
  readonly pigKg: number | null;
}

/** A tree's kilograms, once it was poured; casts and returns are null while its shell is on. */
export interface TreeKg {
  readonly alloyId: string;
  readonly pouredKg: number;
  readonly castsKg: number | null;
  readonly returnsKg: number | null;
}

/**
 * An alloy's whole history: what came in = casts + lost + in work + stock. Losses are what heats and trees lost, each by its own
 * kilograms; the stock is by the movements: so a kilogram that no movement tells of stays open.
 */
export function alloyBalance(
  alloyId: string,
  { movements, heats, trees }: { movements: readonly Movement[]; heats: readonly HeatKg[]; trees: readonly TreeKg[] },
): AlloyBalance {
  const sum = (values: readonly number[]) => values.reduce((total, each) => total + each, 0);
  const moved = movements.filter((each) => each.alloyId === alloyId);
  const of = (kinds: readonly Movement['kind'][]) =>
    sum(moved.filter(({ kind }) => kinds.includes(kind)).map(({ kg }) => kg));
  // An addition is delivered for many alloys, so it comes in where it is charged.
  const additions = -sum(
    moved.filter(({ what, kind }) => what === 'addition' && kind === 'charge').map(({ kg }) => kg),
  );
  const stockKg = sum(moved.filter(({ what }) => what !== 'addition').map(({ kg }) => kg));
  const inKg =
    of(['receipt', 'count']) -
    sum(moved.filter(({ what, kind }) => what === 'addition' && kind === 'receipt').map(({ kg }) => kg)) +
    additions;
  const ownHeats = heats.filter((each) => each.alloyId === alloyId);
  const ownTrees = trees.filter((each) => each.alloyId === alloyId);
  const knocked = ownTrees.filter(({ castsKg }) => castsKg !== null);
  const over = ownHeats.filter(({ pigKg }) => pigKg !== null);
  const castsKg = sum(knocked.map((each) => each.castsKg!));
  const lostKg =
    sum(over.map(({ chargeKg, pouredKg, pigKg }) => chargeKg - pouredKg - pigKg!)) +
    sum(knocked.map(({ pouredKg, castsKg: casts, returnsKg }) => pouredKg - casts! - (returnsKg ?? 0)));
  const inWorkKg =
    sum(ownHeats.filter(({ pigKg }) => pigKg === null).map(({ chargeKg, pouredKg }) => chargeKg - pouredKg)) +
    sum(ownTrees.filter((each) => each.castsKg === null).map(({ pouredKg }) => pouredKg));
  return { alloyId, inKg, castsKg, lostKg, inWorkKg, stockKg, openKg: inKg - castsKg - lostKg - inWorkKg - stockKg };
}
