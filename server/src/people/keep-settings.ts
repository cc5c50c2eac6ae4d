import type { Context } from '../write/context.ts';
import { Problem } from '../write/problem.ts';

/** Takes the settings for this write. They are many values with one version: whoever saw an older one is told. */
export async function claimSettings(ctx: Context, version: number, yours: unknown): Promise<void> {
  const [row] = await ctx.rows<{ value: number }>('counters', { name: 'settings' }, { lock: true });
  if ((row?.value ?? 0) !== version)
    throw new Problem('stale', 'Somebody else has changed the settings meanwhile. Look at what is there now.', {
      current: await ctx.settings(),
      yours,
    });
  await ctx.raise('settings');
}

/** Enters one setting; what this write knows of the settings is read anew. */
export async function keepSetting(ctx: Context, name: string, value: unknown): Promise<void> {
  await ctx.store.models.settings.upsert({ name, value }, { transaction: ctx.tx });
  ctx.forgetSettings();
}
