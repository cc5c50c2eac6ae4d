import type {
  AddMould,
  ChangeMould,
  ChangeSection,
  ChangeWork,
  Consequences,
  Id,
  Mould,
  Section,
  ShopIndex,
  Work,
  WorkChange,
} from '@kalvet/core';
import {
  changeApproval,
  changeSection,
  inWords,
  indexShop,
  mouldInUse,
  never,
  sectionDoubt,
  update,
} from '@kalvet/core';
import * as core from '@kalvet/core';
import { carryOut, lockShop } from '../shop/locked.ts';
import { perform } from '../shop/perform.ts';
import { loadShop } from '../shop/load.ts';
import type { Context } from '../write/context.ts';
import { newId } from '../write/new-id.ts';
import type { Store } from '../write/store.ts';
import { invalid, notFound, refused } from '../write/problem.ts';

const workChange = (index: ShopIndex, work: Work, { approval }: ChangeWork, ids: () => Id): WorkChange =>
  changeApproval(index, work, approval, ids);

function sectionChange(
  index: ShopIndex,
  section: Section,
  { version: _, typed, ...patch }: ChangeSection,
  ids: () => Id,
): WorkChange {
  const { ops, lines } = changeSection(index, section, { ...patch, typed: typed ?? {} }, ids);
  const doubt = sectionDoubt(patch, 'section');
  return { ops, lines: doubt ? [`${inWords(doubt.says)}. Is it so?`, ...lines] : lines };
}

/** What a change of a work or section would do, before it is made. */
export async function consequences(
  store: Store,
  what: { workId: Id; change: ChangeWork } | { sectionId: Id; change: ChangeSection },
): Promise<Consequences> {
  const workId =
    'workId' in what
      ? what.workId
      : ((await store.models.sections.findByPk(what.sectionId, { raw: true })) as unknown as Section | null)?.workId;
  if (!workId) throw notFound('section');
  const index = indexShop(await loadShop(store, { workIds: [workId] }));
  const work = index.work.get(workId);
  if (!work) throw notFound('work');
  const made =
    'workId' in what
      ? workChange(index, work, what.change, () => newId())
      : sectionChange(index, index.section.get(what.sectionId)!, what.change, () => newId());
  return { lines: made.lines };
}

export async function changeWork(ctx: Context, workId: Id, given: ChangeWork): Promise<{ id: Id }> {
  ctx.may('change work');
  const index = await lockShop(ctx, [workId]);
  const work = await ctx.claim<Work>('works', workId, given.version, 'work', given);
  const { title, artist, finish } = given;
  const { ops, lines } = workChange(index, work, given, ctx.newId);
  await carryOut(ctx, index.shop, [update('works', workId, { title, artist, finish }), ...ops]);
  ctx.concern('work', workId);
  ctx.event = { verb: 'change work', text: [`${title}: changed`, ...lines].join('; ') };
  return { id: workId };
}

export async function changeSectionOf(ctx: Context, sectionId: Id, given: ChangeSection): Promise<{ id: Id }> {
  const found = await ctx.find<Section>('sections', sectionId);
  if (!found) throw notFound('section');
  ctx.may('change work');
  const index = await lockShop(ctx, [found.workId]);
  const section = await ctx.claim<Section>('sections', sectionId, given.version, 'section', given);
  const { ops, lines } = sectionChange(index, section, given, ctx.newId);
  await carryOut(ctx, index.shop, ops);
  ctx.concern('work', found.workId);
  ctx.event = { verb: 'change work', text: [`Section ${given.name}: changed`, ...lines].join('; ') };
  return { id: sectionId };
}

export async function changeMould(ctx: Context, mouldId: Id, given: ChangeMould): Promise<{ id: Id }> {
  const found = await ctx.find<Mould>('moulds', mouldId);
  if (!found) throw notFound('mould');
  ctx.may('change work');
  const index = await lockShop(ctx, [found.workId]);
  const mould = await ctx.claim<Mould>('moulds', mouldId, given.version, 'mould', given);
  if (given.retire && mouldInUse(index, mouldId))
    throw refused([never('mould in use', 'A wax is in this mould: take it out first.')]);
  await carryOut(ctx, index.shop, [
    update('moulds', mouldId, { lifePulls: given.lifePulls, ...(given.retire ? { state: 'retired' } : {}) }),
  ]);
  ctx.concern('mould', mouldId);
  ctx.concern('work', mould.workId);
  ctx.event = {
    verb: 'change work',
    text: `Mould M-${mould.number} ${mould.name}: ${given.retire ? 'retired' : `life ${given.lifePulls ?? 'not known'} pulls`}`,
    room: 'mould',
  };
  return { id: mouldId };
}

/** A further mould for some of a work's sections, with the step of making it. */
export async function addMould(ctx: Context, workId: Id, given: AddMould): Promise<{ id: Id }> {
  ctx.may('change work');
  if (await ctx.find('moulds', given.id)) throw invalid({ id: 'this mould is entered already; open the form again' });
  const index = await lockShop(ctx, [workId]);
  const work = index.work.get(workId);
  if (!work) throw notFound('work');
  return (await perform(ctx, index, core.addMould(index, work, given, ctx.newId))).answer;
}
