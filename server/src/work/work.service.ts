import type { Id, SetUpWork, Work } from '@kalvet/core';
import * as core from '@kalvet/core';
import { Op } from 'sequelize';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';

/** Sets up a work: its sections, moulds, pieces, and every step of every piece as the route wants them. */
export async function setUpWork(ctx: Context, given: SetUpWork): Promise<{ id: Id; pieceIds: Id[] }> {
  ctx.may('set up work');
  const wrong = core.wrongSetUp(given);
  if (Object.keys(wrong).length > 0) throw invalid(wrong);
  const same = await ctx.rows<Work>('works', { [Op.or]: [{ code: given.code }, { id: given.id }] }, { lock: true });
  if (same.some(({ id }) => id === given.id))
    throw invalid({ id: 'this work is set up already; open the form again for another one' });
  if (same.length > 0) throw invalid({ code: `${given.code} already stands on the tags of another work` });
  ctx.touchedWorks.add(given.id);
  const act = core.setUpWork(given, await ctx.doing());
  return (await perform(ctx, core.indexShop(core.EMPTY_SHOP), act)).answer;
}
