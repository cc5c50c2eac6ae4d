import type {
  Crucible,
  CrucibleLook,
  Id,
  Lot,
  SaveCount,
  SaveCrucible,
  SaveLook,
  SaveLot,
  StockCount,
} from '@kalvet/core';
import { alloyOf, dayIn, kg, lotsLeft, metalMovements, onDay, say } from '@kalvet/core';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import { metalRecords } from './metal-read.service.ts';

/** Enters a delivery of metal, or changes what stands of it: a sheet that came later, out of quarantine, sent back. */
export async function saveLot(ctx: Context, given: SaveLot): Promise<{ id: Id }> {
  ctx.may('save lot');
  const { version, ...fields } = given;
  const [twin] = await ctx.rows<Lot>('lots', { mark: given.mark });
  if (twin && twin.id !== given.id)
    throw invalid({ mark: say`is lot L-${twin.number} of ${onDay(twin.receivedOn)} already` });
  if (given.what === 'ingot' && given.alloyId === null && given.state === 'good')
    throw invalid({ alloyId: 'say which alloy it is, or keep it in quarantine' });
  if (given.receivedOn > dayIn(ctx.now, (await ctx.settings()).timeZone))
    throw invalid({ receivedOn: 'cannot be ahead of today' });
  let row: Lot;
  if (version === 0) {
    if (await ctx.find('lots', given.id))
      throw invalid({ id: 'this delivery is entered already; open the form again' });
    [row] = (await ctx.insert<Lot>('lots', [{ ...fields, number: 0, version: 1 }])) as [Lot];
  } else {
    const before = await ctx.claim<Lot>('lots', given.id, version, 'delivery', given);
    const records = await metalRecords(ctx.store, undefined, ctx.tx);
    const used = before.kg - lotsLeft(records.lots, metalMovements(records)).get(before.id)!;
    if (used > 0.05 && (given.alloyId !== before.alloyId || given.mark !== before.mark))
      throw invalid({ mark: say`${kg(used)} of it are melted: its mark and alloy stay` });
    if (given.kg < used - 0.05) throw invalid({ kg: say`${kg(used)} of it are melted already` });
    row = await ctx.update('lots', before, fields);
  }
  const what = given.alloyId === null ? 'unknown metal' : alloyOf(given.alloyId).name;
  ctx.event = {
    verb: 'save lot',
    text: say`Lot ${row.mark}: ${kg(given.kg)} of ${given.what === 'addition' ? 'an addition' : what}, ${given.state}`,
    room: 'pour',
  };
  ctx.concern('lot', row.id);
  return { id: row.id };
}

/** What was found when somebody weighed what lies there: it counts from now on. */
export async function countMetal(ctx: Context, given: SaveCount): Promise<{ id: Id }> {
  ctx.may('count metal');
  if (await ctx.find('stockCounts', given.id))
    throw invalid({ id: 'this count is entered already; open the form again' });
  await ctx.insert<StockCount>('stockCounts', [{ ...given, at: ctx.now, version: 1 }]);
  ctx.event = {
    verb: 'count metal',
    text: say`${alloyOf(given.alloyId).name}, ${given.what}: ${kg(given.kg)} found${given.why ? `: ${given.why}` : ''}`,
    room: 'pour',
  };
  ctx.concern('lot', given.id);
  return { id: given.id };
}

/** Enters a pot, or changes it. */
export async function saveCrucible(ctx: Context, given: SaveCrucible): Promise<{ id: Id }> {
  ctx.may('save crucible');
  const { version, ...fields } = given;
  if (given.usableKg > given.holdsKg)
    throw invalid({ usableKg: say`must be at most what it holds, ${kg(given.holdsKg, 0)}` });
  if (version === 0) {
    if (await ctx.find('crucibles', given.id))
      throw invalid({ id: 'this crucible is entered already; open the form again' });
    await ctx.insert<Crucible>('crucibles', [{ ...fields, number: 0, version: 1 }]);
  } else {
    const before = await ctx.claim<Crucible>('crucibles', given.id, version, 'crucible', given);
    await ctx.update('crucibles', before, fields);
  }
  ctx.event = {
    verb: 'save crucible',
    text: say`Crucible ${given.name}: ${kg(given.usableKg, 0)} usable, ${given.state}`,
    room: 'pour',
  };
  ctx.concern('crucible', given.id);
  return { id: given.id };
}

/** What somebody saw of a pot; one that is to be retired is. */
export async function lookAtCrucible(ctx: Context, given: SaveLook): Promise<{ id: Id }> {
  ctx.may('look at crucible');
  const pot = await ctx.find<Crucible>('crucibles', given.crucibleId, true);
  if (!pot) throw invalid({ crucibleId: 'there is no such crucible' });
  if (given.verdict !== 'good' && given.note === '') throw invalid({ note: 'say what you saw' });
  await ctx.insert<CrucibleLook>('crucibleLooks', [{ ...given, at: ctx.now, byId: ctx.actor?.id ?? null, version: 1 }]);
  if (given.verdict === 'retire') await ctx.update('crucibles', pot, { state: 'retired' });
  ctx.event = {
    verb: 'look at crucible',
    text: say`Crucible ${pot.name} looked over: ${given.verdict}${given.note ? `, ${given.note}` : ''}`,
    room: 'pour',
    bad: given.verdict === 'retire',
  };
  ctx.concern('crucible', pot.id);
  return { id: given.id };
}
