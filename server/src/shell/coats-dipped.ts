import type { Id, Instant } from '@kalvet/core';
import { KINDS } from '@kalvet/core';
import { Op } from 'sequelize';
import type { Context } from '../write/context.ts';

/** Kinds of steps that are coats. */
export const COATS = KINDS.filter(({ coat }) => coat).map(({ code }) => code);

/** A tank that nobody ever found good: so far back its coats are looked at, ms. */
const BACK_MS = 7 * 86_400_000;

/** Coats that were dipped in a time, whatever in. */
export async function dippedCoats(
  ctx: Context,
  { from, to }: { readonly from: Instant | null; readonly to: Instant },
): Promise<{ readonly stepId: Id; readonly treeId: Id }[]> {
  const begin = from === null ? new Date(Date.parse(to) - BACK_MS) : new Date(from);
  const found = await ctx.rows<{ id: Id; carrierId: Id }>('steps', {
    kind: COATS,
    endedAt: { [Op.gt]: begin, [Op.lte]: new Date(to) },
  });
  return found.map(({ id, carrierId }) => ({ stepId: id, treeId: carrierId }));
}
