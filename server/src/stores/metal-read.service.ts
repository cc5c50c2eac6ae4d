import type {
  ChargeLine,
  Crucible,
  CutOff,
  Heat,
  Id,
  Lot,
  MetalAtHand,
  MetalRecords,
  Pot,
  StepForm,
  StockCount,
} from '@kalvet/core';
import { KINDS, alloyOf, judgePot, lotsLeft, metalForHeat, metalMovements } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import { Op, literal } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Kinds whose readings say how many kilograms of returns came back. */
const GIVES_RETURNS = KINDS.filter(({ readings }) => readings.some(({ key }) => key === 'returnsKg')).map(
  ({ code }) => code,
);

interface CutRow {
  readonly endedAt: Date;
  readonly kg: number | string | null;
  readonly number: number;
  readonly alloyId: string;
}

/** Returns that were cut off trees, of one alloy or of all. */
async function cutOff(store: Store, alloyId: string | undefined, tx?: Transaction): Promise<CutOff[]> {
  // Read as bare columns: a shop has knocked out thousands of trees.
  const rows = (await store.models.steps.findAll({
    attributes: [
      'endedAt',
      [literal("JSON_VALUE(`steps`.`readings`, '$.returnsKg')"), 'kg'],
      [literal('`tree`.`number`'), 'number'],
      [literal('`tree`.`alloyId`'), 'alloyId'],
    ],
    where: { kind: GIVES_RETURNS, state: 'done' } as never,
    include: [
      {
        association: 'tree',
        attributes: [],
        required: true,
        where: { state: 'knocked out', ...(alloyId === undefined ? {} : { alloyId }) },
      },
    ],
    raw: true,
    transaction: tx ?? null,
  })) as unknown as CutRow[];
  return rows.flatMap(({ endedAt, kg, number, alloyId: alloy }) =>
    kg === null ? [] : [{ at: endedAt.toISOString(), alloyId: alloy, kg: Number(kg), label: `T-${number}` }],
  );
}

/** What metal stock is worked out from, of one alloy or of all. */
export async function metalRecords(store: Store, alloyId?: string, tx?: Transaction): Promise<MetalRecords> {
  const of = alloyId === undefined ? {} : { alloyId };
  const [lots, counts, heats, cut] = await Promise.all([
    rowsOf<Lot>(store, 'lots', {}, tx),
    rowsOf<StockCount>(store, 'stockCounts', of, tx),
    rowsOf<Heat>(store, 'heats', of, tx),
    cutOff(store, alloyId, tx),
  ]);
  const chargeLines = await rowsOf<ChargeLine>(store, 'chargeLines', { heatId: heats.map(({ id }) => id) }, tx);
  return { lots, counts, heats, chargeLines, cutOff: cut };
}

/** What lies there for a heat, or for one more of an alloy. */
export const metalAtHand = async (
  store: Store,
  alloyId: string,
  { heatId, tx }: { readonly heatId?: Id; readonly tx?: Transaction } = {},
): Promise<MetalAtHand> => metalForHeat(await metalRecords(store, alloyId, tx), alloyId, heatId);

/** What a heat of an alloy can be charged with and melted in, for its form. */
export async function metalChoices(
  store: Store,
  alloyId: string,
  heatId?: Id,
): Promise<Pick<StepForm, 'returnsAtHandKg' | 'lots' | 'pots'>> {
  const [records, pots] = await Promise.all([metalRecords(store, alloyId), potsOf(store)]);
  const others = {
    ...records,
    chargeLines: records.chargeLines.filter((line) => line.heatId !== heatId),
  };
  const left = lotsLeft(others.lots, metalMovements(others));
  const alloy = alloyOf(alloyId);
  return {
    returnsAtHandKg: metalForHeat(records, alloyId, heatId).returnsKg,
    lots: [...records.lots]
      .sort((a, b) => a.number - b.number)
      .filter(
        ({ what, alloyId: of, state }) =>
          state === 'good' && (what === 'addition' ? alloy.addition !== 'none' : of === alloyId),
      )
      .map(({ id, mark, what }) => ({ mark, what, leftKg: left.get(id)! }))
      .filter(({ leftKg }) => leftKg > 0.05),
    pots: pots.filter((pot) => pot.state === 'in use' && judgePot(alloy, pot).every(({ mayOverride }) => mayOverride)),
  };
}

/** A pot as a heat is judged by it: what was melted in it before that heat. */
export type PotRead = Pot & { readonly id: Id; readonly holdsKg: number; readonly usableKg: number };

/** Crucibles with what was melted in each. */
export async function potsOf(
  store: Store,
  { ids, heatId, tx }: { readonly ids?: readonly Id[]; readonly heatId?: Id; readonly tx?: Transaction } = {},
): Promise<PotRead[]> {
  const [pots, heats] = await Promise.all([
    rowsOf<Crucible>(store, 'crucibles', ids ? { id: ids } : {}, tx),
    rowsOf<Heat>(
      store,
      'heats',
      {
        crucibleId: ids ?? { [Op.ne]: null },
        state: ['running', 'done'],
        ...(heatId ? { id: { [Op.ne]: heatId } } : {}),
      },
      tx,
    ),
  ]);
  const sorted = heats.sort((a, b) => (a.startedAt ?? '').localeCompare(b.startedAt ?? ''));
  return pots.map(({ id, name, family, state, lifeHeats, heatsBefore, holdsKg, usableKg }) => {
    const own = sorted.filter(({ crucibleId }) => crucibleId === id);
    return {
      id,
      name,
      family,
      state,
      lifeHeats,
      holdsKg,
      usableKg,
      heats: heatsBefore + own.length,
      alloyIds: own.map(({ alloyId }) => alloyId),
    };
  });
}
