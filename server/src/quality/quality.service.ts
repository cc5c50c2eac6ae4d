import type { LearnedLine, QualityAnswer, ShopSettings, TakeFigure, TakenFigure, Text } from '@kalvet/core';
import { counted, indexShop, plain, say } from '@kalvet/core';
import { learnedLines } from '@kalvet/core/quality/index';
import { rowsOf } from '../db/rows.ts';
import { changeNumber } from '../live/changes.ts';
import { claimSettings, keepSetting } from '../people/keep-settings.ts';
import { settingsOf } from '../people/settings.ts';
import { touchAllWorks } from '../people/touch-works.ts';
import { loadWholeShop } from '../shop/load.ts';
import type { Context } from '../write/context.ts';
import { Problem, invalid } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

const known = new WeakMap<Store, { readonly change: number; readonly lines: readonly LearnedLine[] }>();

/** What the shop has learned of itself, worked out anew only when something was recorded: it goes through every record there is. */
export async function qualityPage(store: Store): Promise<QualityAnswer> {
  const change = await changeNumber(store);
  const found = known.get(store);
  const lines = found?.change === change ? found.lines : await linesNow(store, await settingsOf(store));
  known.set(store, { change, lines });
  const [counter] = await rowsOf<{ value: number }>(store, 'counters', { name: 'settings' });
  return { settingsVersion: counter?.value ?? 0, lines };
}

const linesNow = async (store: Store, settings: ShopSettings): Promise<LearnedLine[]> =>
  learnedLines(indexShop(await loadWholeShop(store)), settings);

/** Takes over what the shop's own records say, or goes back to what was usual. It counts at once; what was recorded stays as it is. */
export async function takeFigure(ctx: Context, given: TakeFigure): Promise<object> {
  ctx.may('change settings');
  await claimSettings(ctx, given.version, given);
  const settings = await ctx.settings();
  const line = (await linesNow(ctx.store, settings)).find(({ id }) => id === given.line);
  if (!line || (line.group !== 'cast factor' && line.group !== 'coat'))
    throw invalid({ line: 'is no figure that can be taken over' });
  const text = given.back ? await goBack(ctx, line, settings) : await take(ctx, line, given.n, settings);
  await touchAllWorks(ctx);
  ctx.event = { verb: 'change settings', text };
  return {};
}

const decimals = 2;

async function take(ctx: Context, line: LearnedLine, seen: number, settings: ShopSettings): Promise<Text> {
  const { learned, usual, offered } = line;
  if (!learned || offered === null) throw invalid({ line: 'says nothing new' });
  if (learned.n !== seen)
    throw new Problem('stale', 'More was recorded meanwhile. Look at the figure as it is now.', {});
  if (line.group === 'coat') await keepSetting(ctx, 'coatMm', offered);
  else {
    const taken: TakenFigure = { ...learned, at: ctx.now };
    await keepSetting(ctx, 'castFactors', { ...settings.castFactors, [keyOf(line)]: taken });
  }
  return say`${line.name}: ${plain(offered, decimals)} taken over, from ${counted(learned.n, 'case')} of the shop (${plain(learned.value, decimals)} ± ${plain(learned.spread, decimals)}); before ${plain(line.inUse ?? usual ?? 0, decimals)}`;
}

async function goBack(ctx: Context, line: LearnedLine, settings: ShopSettings): Promise<Text> {
  if (line.usual === null || line.inUse === line.usual) throw invalid({ line: 'is as usual already' });
  if (line.group === 'coat') await keepSetting(ctx, 'coatMm', line.usual);
  else {
    const { [keyOf(line)]: _, ...others } = settings.castFactors;
    await keepSetting(ctx, 'castFactors', others);
  }
  return say`${line.name}: back to ${plain(line.usual, decimals)}, which is usual; before ${plain(line.inUse ?? 0, decimals)}`;
}

const keyOf = ({ id, group }: LearnedLine): string => id.slice(group.length + 1);
