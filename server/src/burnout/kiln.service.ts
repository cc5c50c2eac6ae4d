import type {
  Id,
  ImportKiln,
  ImportedKiln,
  Instrument,
  InstrumentReading,
  KilnProfile,
  LightLoad,
  Load,
  MeasureTree,
  ReadKiln,
  SaveProfile,
  Tree,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import {
  METRIC,
  celsius,
  inWords,
  judgeBlockProfile,
  kilnFile,
  mm,
  plain,
  profileMinutes,
  say,
  shopReader,
  span,
  wrongTimes,
} from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { rowsInFile } from '../files/table-file.ts';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { keepReadings } from './kiln-readings.ts';
import { claimLoad } from './load.service.ts';

/** Enters a firing as ramps and holds, or changes it; what a block does not bear is refused. */
export async function saveProfile(ctx: Context, given: SaveProfile): Promise<{ id: Id }> {
  ctx.may('save profile', 'burnout');
  const { version, ...fields } = given;
  const [twin] = await ctx.rows<KilnProfile>('profiles', { name: given.name });
  if (twin && twin.id !== given.id) throw invalid({ name: 'is the name of another profile already' });
  const refused = given.use === 'block' ? judgeBlockProfile(given) : [];
  if (refused.length > 0) throw invalid({ stretches: refused[0]!.message });
  if (version === 0) {
    if (await ctx.find('profiles', given.id))
      throw invalid({ id: 'this profile is entered already; open the form again' });
    await ctx.insert<KilnProfile>('profiles', [{ ...fields, version: 1 }]);
  } else {
    const before = await ctx.claim<KilnProfile>('profiles', given.id, version, 'profile', given);
    await ctx.update('profiles', before, fields);
  }
  ctx.event = {
    verb: 'save profile',
    text: say`Firing ${given.name}: ${span(profileMinutes(given))}, up to ${celsius(Math.max(...given.stretches.map(({ toC }) => toC)))}`,
    room: 'burnout',
  };
  ctx.concern('profile', given.id);
  return { id: given.id };
}

/** The kiln is lit for a load. */
export async function lightLoad(ctx: Context, id: Id, given: LightLoad): Promise<{ id: Id }> {
  ctx.may('light load', 'burnout');
  const { load, index } = await claimLoad(ctx, id, given);
  const others = (await ctx.rows<Load>('loads', { state: 'running' })).filter((each) => each.id !== id);
  const whole = {
    ...index,
    shop: {
      ...index.shop,
      loads: [...index.shop.loads.filter((each) => !others.some((o) => o.id === each.id)), ...others],
    },
  };
  const act = core.lightLoad(whole, load, given, await ctx.doing());
  await perform(ctx, index, act);
  return { id };
}

async function burning(ctx: Context, id: Id): Promise<Load> {
  const load = await ctx.find<Load>('loads', id, true);
  if (!load) throw notFound('load');
  if (load.state === 'abandoned') throw invalid({ load: say`Load L-${load.number} was given up` });
  return load;
}

/** Writes down what somebody read off the kiln. */
export async function readKiln(ctx: Context, id: Id, given: ReadKiln): Promise<{ id: Id }> {
  ctx.may('read kiln', 'burnout');
  const load = await burning(ctx, id);
  const [ahead] = Object.values(wrongTimes(ctx.now, null, given.at));
  if (ahead) throw invalid({ at: ahead });
  await ctx.store.models.kilnReadings.upsert(
    { loadId: id, channel: given.channel, at: new Date(given.at), celsius: given.celsius } as never,
    {
      transaction: ctx.tx,
    },
  );
  ctx.event = {
    verb: 'read kiln',
    text: say`L-${load.number}, ${given.channel}: ${celsius(given.celsius)}`,
    room: 'burnout',
    doneAt: given.at,
  };
  ctx.concern('load', id);
  return { id };
}

/** Reads a kiln logger's file into a load; what is there already stays as it is. */
export async function importKiln(ctx: Context, id: Id, given: ImportKiln): Promise<ImportedKiln> {
  ctx.may('import kiln', 'burnout');
  const load = await burning(ctx, id);
  const { timeZone } = await ctx.settings();
  const file = kilnFile(rowsInFile(given.text), timeZone);
  if ('wrong' in file) throw invalid({ text: file.wrong });
  const last = file.couples
    .flatMap(({ readings }) => readings.at(-1)!.at)
    .sort()
    .at(-1)!;
  if (Date.parse(last) > Date.parse(ctx.now) + 60_000)
    throw invalid({ text: 'The file reaches ahead of now: is its clock right?' });
  const kept = await keepReadings(ctx.store, id, file.couples, ctx.tx);
  ctx.event = {
    verb: 'import kiln',
    text: say`L-${load.number}: ${plain(kept.added, 0)} readings of ${file.couples.length} thermocouples from ${given.name}`,
    room: 'burnout',
  };
  ctx.concern('load', id);
  const reader = shopReader(timeZone, METRIC);
  return {
    ...kept,
    channels: file.couples.map(({ channel }) => channel),
    notes: file.notes.map((text) => inWords(text, reader)),
  };
}

/** Writes down how much room a tree takes in the kiln. */
export async function measureTree(ctx: Context, id: Id, { version, ...footprint }: MeasureTree): Promise<{ id: Id }> {
  ctx.may('measure tree', 'burnout');
  const tree = await ctx.claim<Tree>('trees', id, version, 'tree', footprint);
  await lockCarriers(ctx, [['tree', id]]);
  await ctx.update('trees', tree, { footprint });
  const { acrossMm, deepMm, highMm } = footprint;
  ctx.event = {
    verb: 'measure tree',
    text: say`T-${tree.number} takes ${mm(acrossMm, 0)} × ${mm(deepMm, 0)} in the kiln, ${mm(highMm, 0)} high`,
    room: 'burnout',
  };
  ctx.concern('tree', id);
  return { id };
}

/** What a thermocouple of the kiln says belongs to the load that burns; nothing where none does. */
export async function kilnCouple(store: Store, { name }: Instrument, reading: InstrumentReading): Promise<void> {
  const [load] = await rowsOf<Load>(store, 'loads', { state: 'running' });
  if (!load || (load.startedAt ?? '') > reading.at) return;
  const [last] = await store.models.kilnReadings.findAll({
    where: { loadId: load.id, channel: name },
    order: [['at', 'DESC']],
    limit: 1,
    raw: true,
  });
  const before = last as unknown as { at: Date; celsius: number } | undefined;
  const isNear =
    before && Date.parse(reading.at) - before.at.getTime() < 60_000 && Math.abs(before.celsius - reading.value) < 8;
  if (isNear) return;
  await store.models.kilnReadings.upsert({
    loadId: load.id,
    channel: name,
    at: new Date(reading.at),
    celsius: reading.value,
  } as never);
}
