import type { Act, ShopIndex } from '@kalvet/core';
import { indexShop } from '@kalvet/core';
import type { Context } from '../write/context.ts';
import { invalid, refused } from '../write/problem.ts';
import { carryOut } from './locked.ts';

/** What came of an act that was carried out: its answer, and the shop as it is then. */
export interface Performed<T> {
  readonly answer: T;
  readonly after: ShopIndex;
}

/**
 * Carries out what core decided, and says the event.
 * @throws Problem with what refuses it, or what is wrong field by field; then nothing is written
 */
export async function perform<T>(ctx: Context, index: ShopIndex, act: Act<T>): Promise<Performed<T>> {
  if (Object.keys(act.fields).length > 0) throw invalid(act.fields);
  if (act.refusals.length > 0) throw refused(act.refusals);
  ctx.passed.push(...act.passed.filter((each) => !ctx.passed.includes(each)));
  const after = indexShop(await carryOut(ctx, index.shop, act.ops));
  const { event, concerns } = act.tell(after);
  ctx.event = event;
  for (const [subject, id] of concerns) ctx.concern(subject, id);
  return { answer: act.answer, after };
}
