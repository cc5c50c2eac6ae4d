import type {
  CheckTank,
  CoatsTouched,
  DecideTank,
  Id,
  SaveSupply,
  SaveTank,
  ShopIndex,
  Supply,
  Tank,
  TankCheck,
  TankDecision,
  TankStand,
  Text,
} from '@kalvet/core';
import {
  KINDS,
  SUPPLY_NAMES,
  coatsInDoubt,
  coatsStand,
  counted,
  isInDoubt,
  joined,
  kg,
  percent,
  quantity,
  say,
  tankStand,
  wrongTimes,
} from '@kalvet/core';
import { Op, literal } from 'sequelize';
import { carryOut, lockCarriers } from '../shop/locked.ts';
import { tankRecords } from '../shop/shop-tanks.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import { dippedCoats } from './coats-dipped.ts';

/** Enters a tank, or changes it. Of each slurry one is in use: the coat says which slurry, and with it which tank. */
export async function saveTank(ctx: Context, given: SaveTank): Promise<{ id: Id }> {
  ctx.may('save tank', 'shell');
  const { version, ...fields } = given;
  if (given.lowS !== null && given.highS !== null && given.lowS >= given.highS)
    throw invalid({ highS: 'must be above the lower limit' });
  if (given.base && given.base.from >= given.base.to) throw invalid({ base: 'ends before it begins' });
  const others = (await ctx.rows<Tank>('tanks', {})).filter(({ id }) => id !== given.id);
  if (others.some(({ name }) => name === given.name)) throw invalid({ name: 'is the name of another tank already' });
  const twin = others.find(({ slurry, state }) => slurry === given.slurry && state === 'in use');
  if (given.state === 'in use' && twin)
    throw invalid({ slurry: say`${twin.name} is in use for it; take that one out of use first` });
  if (version === 0) {
    if (await ctx.find('tanks', given.id)) throw invalid({ id: 'this tank is entered already; open the form again' });
    await ctx.insert<Tank>('tanks', [{ ...fields, version: 1 }]);
  } else {
    const before = await ctx.claim<Tank>('tanks', given.id, version, 'tank', given);
    await ctx.update('tanks', before, fields);
  }
  ctx.event = {
    verb: 'save tank',
    text: say`${given.name}: ${given.slurry} slurry, ${quantity(given.litres, 'l', 0)}, ${given.state}`,
    room: 'shell',
  };
  ctx.concern('tank', given.id);
  return { id: given.id };
}

async function standOf(ctx: Context, tank: Tank): Promise<TankStand> {
  const { checks, decisions } = await tankRecords(ctx.store, ctx.tx);
  return tankStand(tank, checks, decisions);
}

/**
 * Trees in the shell room, and those whose coats were dipped in a time, with their works taken for this write: what may be
 * dipped on them is kept ready anew.
 */
async function treesFor(ctx: Context, coats: readonly { readonly treeId: Id }[]): Promise<ShopIndex> {
  const inRoom = await ctx.rows<{ id: Id }>('projections', { carrier: 'tree', room: 'shell' });
  const ids = new Set([...inRoom.map(({ id }) => id), ...coats.map(({ treeId }) => treeId)]);
  return lockCarriers(
    ctx,
    [...ids].map((id) => ['tree', id] as const),
  );
}

async function touchCoats(ctx: Context, index: ShopIndex, { ops, concerns }: CoatsTouched): Promise<void> {
  await carryOut(ctx, index.shop, ops);
  for (const [subject, id] of concerns) ctx.concern(subject, id);
  // The tanks stand otherwise than when these records were read: what is kept ready is worked out from them as they are.
  ctx.shop = undefined;
}

/** Writes down what somebody found at a tank. Out of its limits, or its mixer still, it is not dipped in until somebody decides. */
export async function checkTank(
  ctx: Context,
  given: CheckTank,
): Promise<{ id: Id; inDoubt: number; blocked: boolean }> {
  ctx.may('check tank', 'shell');
  const tank = await ctx.find<Tank>('tanks', given.tankId, true);
  if (!tank) throw invalid({ tankId: 'there is no such tank' });
  if (await ctx.find('tankChecks', given.id)) throw invalid({ id: 'this check is kept already' });
  const [ahead] = Object.values(wrongTimes(ctx.now, null, given.at));
  if (ahead) throw invalid({ at: ahead });
  const before = await standOf(ctx, tank);
  const row: TankCheck = { ...given, byId: ctx.actor?.id ?? null, voidReason: null, version: 1 };
  await ctx.insert<TankCheck>('tankChecks', [row]);
  const stand = await standOf(ctx, tank);
  const isNew = stand.blockedSince !== null && stand.blockedSince !== before.blockedSince;
  let count = 0;
  if (isNew) {
    const coats = await dippedCoats(ctx, { from: stand.doubtFrom, to: stand.blockedSince! });
    const index = await treesFor(ctx, coats);
    const touched = coatsInDoubt(
      index,
      stand,
      coats.map(({ stepId }) => stepId),
    );
    count = touched.count;
    await touchCoats(ctx, index, touched);
  }
  ctx.event = {
    verb: 'check tank',
    text: say`${tank.name}: ${inShort(given)}${isNew ? say`. ${stand.why ?? ''}: nothing is dipped in it; ${counted(count, 'coat')} in doubt` : ''}`,
    room: 'shell',
    doneAt: given.at,
    bad: isNew,
  };
  ctx.concern('tank', tank.id);
  return { id: given.id, inDoubt: count, blocked: stand.blockedSince !== null };
}

function inShort({ mixer, viscosityS, celsius, ph, level, sieved, toppedUp }: CheckTank): Text {
  const said: Text[] = [
    `mixer ${mixer}`,
    ...(viscosityS === null ? [] : [say`${quantity(viscosityS, 's', 1)}`]),
    ...(celsius === null ? [] : [say`${quantity(celsius, '°C', 1)}`]),
    ...(ph === null ? [] : [say`pH ${quantity(ph, '', 1)}`]),
    ...(level === null ? [] : [say`${percent(level)} full`]),
    ...(sieved ? ['sieved'] : []),
    ...toppedUp.map(({ what, kg: kilograms }) => say`${kg(kilograms)} ${what} added`),
  ];
  return joined(said, ', ');
}

/** Somebody decides of a tank that was out of order: it is dipped in again, and the coats in doubt stand, or stay in doubt. */
export async function decideTank(ctx: Context, given: DecideTank): Promise<{ id: Id; coats: number }> {
  ctx.may('decide tank', 'shell');
  const tank = await ctx.find<Tank>('tanks', given.tankId, true);
  if (!tank) throw invalid({ tankId: 'there is no such tank' });
  if (await ctx.find('tankDecisions', given.id)) throw invalid({ id: 'this decision is kept already' });
  const stand = await standOf(ctx, tank);
  if (stand.blockedSince === null) throw invalid({ tankId: say`${tank.name} waits for no decision` });
  await ctx.insert<TankDecision>('tankDecisions', [
    { ...given, at: ctx.now, byId: ctx.actor?.id ?? null, voidReason: null, version: 1 },
  ]);
  const coats = await coatsDoubted(ctx);
  const index = await treesFor(ctx, coats);
  const who = ctx.actor?.name ?? 'somebody';
  const ids = coats.map(({ stepId }) => stepId);
  const touched = given.coatsStand ? coatsStand(index, tank.slurry, ids, who) : { ops: [], concerns: [], count: 0 };
  await touchCoats(ctx, index, touched);
  ctx.event = {
    verb: 'decide tank',
    text: say`${tank.name} is dipped in again: ${given.words}${given.coatsStand ? say`; ${counted(touched.count, 'coat')} in doubt ${touched.count === 1 ? 'stands' : 'stand'}` : '; coats in doubt stay so'}`,
    room: 'shell',
  };
  ctx.concern('tank', tank.id);
  return { id: given.id, coats: touched.count };
}

/** Coats that are in doubt still. */
async function coatsDoubted(ctx: Context): Promise<{ readonly stepId: Id; readonly treeId: Id }[]> {
  const found = await ctx.rows<{ id: Id; carrierId: Id; flags: string[] }>('steps', {
    kind: KINDS.filter(({ coat }) => coat).map(({ code }) => code),
    // Raw: a list kept as JSON is looked into as text.
    [Op.and]: literal("`flags` LIKE '%in doubt: %'"),
  });
  return found
    .filter(({ flags }) => flags.some(isInDoubt))
    .map(({ id, carrierId }) => ({ stepId: id, treeId: carrierId }));
}

/** Takes a delivery of what the shell room uses onto its shelf, or writes down what was found there. */
export async function saveSupply(ctx: Context, given: SaveSupply): Promise<{ id: Id }> {
  ctx.may('save supply', 'shell');
  if (await ctx.find('supplies', given.id)) throw invalid({ id: 'this is entered already; open the form again' });
  const [ahead] = Object.values(wrongTimes(ctx.now, null, given.at));
  if (ahead) throw invalid({ at: ahead });
  if (given.kind === 'delivery' && given.kg === 0) throw invalid({ kg: 'must be more than nothing' });
  await ctx.insert<Supply>('supplies', [{ ...given, byId: ctx.actor?.id ?? null, voidReason: null, version: 1 }]);
  const what = SUPPLY_NAMES[given.what];
  ctx.event = {
    verb: 'save supply',
    text:
      given.kind === 'delivery'
        ? say`${what}: ${kg(given.kg)} delivered${given.lot ? `, lot ${given.lot}` : ''}`
        : say`${what}: ${kg(given.kg)} found`,
    room: 'shell',
    doneAt: given.at,
  };
  ctx.concern('supply', given.id);
  return { id: given.id };
}
