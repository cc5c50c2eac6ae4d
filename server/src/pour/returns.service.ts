import type { ChargeLine, Heat, Id } from '@kalvet/core';
import { KINDS } from '@kalvet/core';
import { literal } from 'sequelize';
import { COMING } from '../shop/load.ts';
import { rowsOf } from '../db/rows.ts';
import type { Store } from '../write/store.ts';

/** Kinds whose readings say how many kilograms of returns came back. */
const GIVES_RETURNS = KINDS.filter(({ readings }) => readings.some(({ key }) => key === 'returnsKg')).map(
  ({ code }) => code,
);

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);

/** Clean returns of an alloy that are at hand: pigged and cut off, less what was charged since. */
export async function returnsAtHand(store: Store, alloyId: string): Promise<number> {
  const heats = await rowsOf<Heat>(store, 'heats', { alloyId });
  const melted = heats.filter(({ state }) => state === 'done' || (state !== 'planned' && COMING.includes(state)));
  const ids = (records: readonly { id: Id }[]) => records.map(({ id }) => id);
  const [lines, [cut]] = await Promise.all([
    rowsOf<ChargeLine>(store, 'chargeLines', { heatId: ids(melted), what: 'returns', alloyId }),
    // Added up where they lie: a shop has knocked out thousands of trees.
    store.models.steps.findAll({
      attributes: [[literal("SUM(JSON_VALUE(`steps`.`readings`, '$.returnsKg'))"), 'kg']],
      where: { kind: GIVES_RETURNS, state: 'done' } as never,
      include: [{ association: 'tree', attributes: [], required: true, where: { alloyId, state: 'knocked out' } }],
      raw: true,
    }) as unknown as Promise<{ kg: number | string | null }[]>,
  ]);
  const pigged = sum(heats.flatMap(({ state, pigKg }) => (state === 'done' && pigKg !== null ? [pigKg] : [])));
  return Math.max(0, pigged + Number(cut?.kg ?? 0) - sum(lines.map(({ kg }) => kg)));
}
