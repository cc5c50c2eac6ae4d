import type {
  DryingPlace,
  HangTrees,
  Id,
  ImportClimate,
  ImportedClimate,
  KeptClimate,
  LookAtCoat,
  SaveDryingPlace,
  ShopIndex,
  TypeClimate,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { METRIC, at, climateFile, inWords, quantity, say, shopReader, worthKeeping, wrongClimate } from '@kalvet/core';
import { Op } from 'sequelize';
import type { ShellTree } from './shell-trees.ts';
import { shellTrees } from './shell-trees.ts';
import { rowsInFile } from '../files/table-file.ts';
import { lockCarriers } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import { worksOf } from '../shop/works-of.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import { climateChanged, lastClimate } from '../shop/shop-climate.ts';

const AT_ONCE = 500;

/** What is new of the air makes every tree that dries in it ready at another time: they are kept ready anew with this write. */
async function dryAnew(ctx: Context): Promise<void> {
  await climateChanged(ctx.store, ctx.tx);
  const trees = await shellTrees(ctx.store, ctx.tx);
  for (const { treeId } of trees)
    for (const workId of await worksOf(ctx.store, 'tree', treeId, ctx.tx)) ctx.touchedWorks.add(workId);
  if (trees.length > 0) await lockTrees(ctx, trees);
}

const lockTrees = (ctx: Context, trees: readonly ShellTree[]): Promise<ShopIndex> =>
  lockCarriers(
    ctx,
    trees.map(({ treeId }) => ['tree', treeId] as const),
  );

async function placeFor(ctx: Context, id: Id): Promise<DryingPlace> {
  const place = await ctx.find<DryingPlace>('dryingPlaces', id);
  if (!place) throw invalid({ placeId: 'there is no such drying place' });
  if (place.state === 'off') throw invalid({ placeId: say`${place.name} is not in use` });
  return place;
}

/** Writes down the air as somebody read it off. */
export async function typeClimate(ctx: Context, given: TypeClimate): Promise<{ placeId: Id }> {
  ctx.may('read climate', 'shell');
  const place = await placeFor(ctx, given.placeId);
  const [ahead] = Object.values(core.wrongTimes(ctx.now, null, given.at));
  const wrong = { ...(ahead ? { at: ahead } : {}), ...wrongClimate(given) };
  if (Object.keys(wrong).length > 0) throw invalid(wrong);
  await ctx.store.models.climate.upsert({ ...given, at: new Date(given.at), source: 'typed' } as never, {
    transaction: ctx.tx,
  });
  ctx.event = {
    verb: 'read climate',
    text: say`${place.name}: ${quantity(given.celsius, '°C', 1)}, ${quantity(given.humidityPercent, '%', 0)}`,
    room: 'shell',
    doneAt: given.at,
  };
  ctx.concern('drying place', place.id);
  await dryAnew(ctx);
  return { placeId: place.id };
}

/** Reads a data logger's file in: what is there already stays as it is, so that the same file twice is one. */
export async function importClimate(ctx: Context, given: ImportClimate): Promise<ImportedClimate> {
  ctx.may('import climate', 'shell');
  const place = await placeFor(ctx, given.placeId);
  const { timeZone } = await ctx.settings();
  const file = climateFile(rowsInFile(given.text), timeZone);
  if ('wrong' in file) throw invalid({ text: file.wrong });
  const { readings } = file;
  const last = readings.at(-1)!;
  if (Date.parse(last.at) > Date.parse(ctx.now) + 60_000)
    throw invalid({
      text: say`The file reaches to ${at(last.at)}, ahead of now: is its clock right, and its date read rightly?`,
    });
  const kept = readings.reduce<core.ClimateReading[]>((all, each) => {
    if (worthKeeping(each, all.at(-1))) all.push(each);
    return all;
  }, []);
  const before = await countBetween(ctx, place.id, readings[0]!.at, last.at);
  for (let start = 0; start < kept.length; start += AT_ONCE)
    await ctx.store.models.climate.bulkCreate(
      kept.slice(start, start + AT_ONCE).map((each) => ({ ...each, placeId: place.id, source: 'file' })) as never[],
      { ignoreDuplicates: true, transaction: ctx.tx },
    );
  const added = (await countBetween(ctx, place.id, readings[0]!.at, last.at)) - before;
  const reader = shopReader(timeZone, METRIC);
  ctx.event = {
    verb: 'import climate',
    text: say`${place.name}: ${added} readings from ${given.name}, ${at(readings[0]!.at)} to ${at(last.at)}`,
    room: 'shell',
  };
  ctx.concern('drying place', place.id);
  await dryAnew(ctx);
  return {
    added,
    known: kept.length - added,
    left: file.left.map(({ line, why }) => ({ line, why: inWords(why, reader) })),
    notes: file.notes.map((note) => inWords(note, reader)),
    from: readings[0]!.at,
    until: last.at,
  };
}

const countBetween = (ctx: Context, placeId: Id, from: string, until: string): Promise<number> =>
  ctx.store.models.climate.count({
    where: { placeId, at: { [Op.between]: [new Date(from), new Date(until)] } } as never,
    transaction: ctx.tx,
  });

/**
 * Takes in what a sensor said. It is no record of the work and no event: what is worth keeping is kept, and the drying's clock
 * says what it changes.
 */
export async function senseClimate(store: Store, reading: KeptClimate): Promise<boolean> {
  if (Object.keys(wrongClimate(reading)).length > 0) return false;
  const last = await lastClimate(store, reading.placeId);
  if (last && (last.at >= reading.at || !worthKeeping(reading, last))) return false;
  await store.models.climate.upsert({ ...reading, at: new Date(reading.at) } as never);
  await climateChanged(store);
  return true;
}

/** Enters a room or cabinet that shells dry in, or changes it. */
export async function saveDryingPlace(ctx: Context, given: SaveDryingPlace): Promise<{ id: Id }> {
  ctx.may('save drying place', 'shell');
  const { version, ...fields } = given;
  const [twin] = await ctx.rows<DryingPlace>('dryingPlaces', { name: given.name });
  if (twin && twin.id !== given.id) throw invalid({ name: 'is the name of another place already' });
  if (version === 0) {
    if (await ctx.find('dryingPlaces', given.id))
      throw invalid({ id: 'this place is entered already; open the form again' });
    await ctx.insert<DryingPlace>('dryingPlaces', [{ ...fields, version: 1 }]);
  } else {
    const before = await ctx.claim<DryingPlace>('dryingPlaces', given.id, version, 'drying place', given);
    await ctx.update('dryingPlaces', before, fields);
  }
  ctx.event = {
    verb: 'save drying place',
    text: say`Drying place ${given.name}: ${given.kind}, ${given.hooks} hooks, ${given.state}`,
    room: 'shell',
  };
  ctx.concern('drying place', given.id);
  await dryAnew(ctx);
  return { id: given.id };
}

/** Hangs trees in a place. */
export async function hangTrees(ctx: Context, given: HangTrees): Promise<{ ids: Id[] }> {
  ctx.may('hang trees', 'shell');
  const place = await placeFor(ctx, given.placeId);
  const index = await lockCarriers(
    ctx,
    given.treeIds.map((id) => ['tree', id] as const),
  );
  if (given.treeIds.some((id) => !index.tree.has(id))) throw notFound('tree');
  return (await perform(ctx, index, core.hangTrees(index, given, place.name, await ctx.doing()))).answer;
}

/** Writes down whether a coat was found dry; the shop's reference time is learned from it. */
export async function lookAtCoat(ctx: Context, given: LookAtCoat): Promise<{ id: Id }> {
  ctx.may('look at coat', 'shell');
  if (await ctx.find('drynessReadings', given.id)) throw invalid({ id: 'this look is kept already' });
  const step = await ctx.find<core.Step>('steps', given.stepId);
  if (!step) throw notFound('step');
  const index = await lockCarriers(ctx, [[step.carrier, step.carrierId]]);
  const { answer } = await perform(ctx, index, core.lookAtCoat(index, given, await ctx.doing()));
  return answer;
}
