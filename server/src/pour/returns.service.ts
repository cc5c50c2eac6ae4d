import type { ChargeLine, Heat, Id, Step, Tree } from '@kalvet/core';
import { KINDS } from '@kalvet/core';
import { COMING, rowsOf } from '../shop/load.ts';
import type { Store } from '../write/store.ts';

/** Kinds whose readings say how many kilograms of returns came back. */
const GIVES_RETURNS = KINDS.filter(({ readings }) => readings.some(({ key }) => key === 'returnsKg')).map(
  ({ code }) => code,
);

const sum = (values: readonly number[]) => values.reduce((total, value) => total + value, 0);

/** Clean returns of an alloy that are at hand: pigged and cut off, less what was charged since. */
export async function returnsAtHand(store: Store, alloyId: string): Promise<number> {
  const [heats, trees] = await Promise.all([
    rowsOf<Heat>(store, 'heats', { alloyId }),
    rowsOf<Tree>(store, 'trees', { alloyId, state: 'knocked out' }),
  ]);
  const melted = heats.filter(({ state }) => state === 'done' || (state !== 'planned' && COMING.includes(state)));
  const ids = (records: readonly { id: Id }[]) => records.map(({ id }) => id);
  const [lines, steps] = await Promise.all([
    rowsOf<ChargeLine>(store, 'chargeLines', { heatId: ids(melted), what: 'returns', alloyId }),
    rowsOf<Step>(store, 'steps', { treeId: ids(trees), kind: GIVES_RETURNS, state: 'done' }),
  ]);
  const pigged = sum(heats.flatMap(({ state, pigKg }) => (state === 'done' && pigKg !== null ? [pigKg] : [])));
  const cutOff = sum(
    steps.map(({ readings }) => (typeof readings['returnsKg'] === 'number' ? readings['returnsKg'] : 0)),
  );
  return Math.max(0, pigged + cutOff - sum(lines.map(({ kg }) => kg)));
}
