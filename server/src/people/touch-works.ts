import type { Id } from '@kalvet/core';
import type { Context } from '../write/context.ts';

/**
 * What a setting says may stand in what is kept ready of every work. The settings are taken by now: whoever records has
 * ended, or begins when this write has; so the works are read as they will stay.
 */
export async function touchAllWorks(ctx: Context): Promise<void> {
  for (const { id } of await ctx.rows<{ id: Id }>('works', {}, { order: [['id', 'ASC']], lock: true }))
    ctx.touchedWorks.add(id);
}
