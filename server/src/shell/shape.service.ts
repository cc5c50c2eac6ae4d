import type { Id, SaveShape, Section } from '@kalvet/core';
import { mm, say } from '@kalvet/core';
import { lockShop } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';

/** Writes down what pushes hardest on a section's shell: its widest round part and its largest flat. */
export async function setShape(ctx: Context, id: Id, { version, roundMm, flatMm }: SaveShape): Promise<{ id: Id }> {
  ctx.may('set shape', 'shell');
  const before = await ctx.claim<Section>('sections', id, version, 'section', { roundMm, flatMm });
  if (roundMm === null && flatMm === null && !before.shape) throw invalid({ roundMm: 'say one of the two' });
  await lockShop(ctx, [before.workId]);
  await ctx.update('sections', before, { shape: roundMm === null && flatMm === null ? null : { roundMm, flatMm } });
  const of = (value: number | null, what: string) => (value === null ? '' : say`${what} ${mm(value, 0)} `);
  ctx.event = {
    verb: 'set shape',
    text: say`${before.name}: ${of(roundMm, 'round, radius')}${of(flatMm, 'flat, side')}for its shell`,
    room: 'shell',
  };
  ctx.concern('work', before.workId);
  return { id };
}
