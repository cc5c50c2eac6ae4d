import Joi from 'joi';
import type {
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
import { APPROVALS, changeApproval, changeSection, growMould, indexShop, update } from '@kalvet/core';
import { carryOut, lockShop } from '../shop/locked.ts';
import { loadShop } from '../shop/load.ts';
import type { Context, Store } from '../write/context.ts';
import { newId } from '../write/context.ts';
import { invalid, notFound, refused } from '../write/problem.ts';
import { form, id, text, version } from '../write/schemas.ts';

const above = (high: number) => Joi.number().greater(0).max(high).allow(null).required();

export const changeWorkSchema = form<ChangeWork>({
  version: version(),
  title: text(200).required(),
  artist: text(200).required(),
  finish: Joi.string().trim().allow('').max(500).required(),
  approval: Joi.string()
    .valid(...APPROVALS)
    .required(),
});

export const changeSectionSchema = form<ChangeSection>({
  version: version(),
  name: text(120).required(),
  wallMm: Joi.number().min(0.5).max(100).required(),
  metalHeightMm: above(20_000),
  expectedWaxKg: above(500),
  areaCm2: above(1_000_000),
  seamM: above(100),
  deep: Joi.boolean().required(),
});

export interface ChangeMould {
  readonly version: number;
  readonly lifePulls: number | null;
  readonly retire: boolean;
}
export const changeMouldSchema = form<ChangeMould>({
  version: version(),
  lifePulls: Joi.number().integer().min(1).max(1000).allow(null).required(),
  retire: Joi.boolean().required(),
});

export interface AddMould {
  readonly id: Id;
  readonly name: string;
  readonly sectionIds: readonly Id[];
}
export const addMouldSchema = form<AddMould>({
  id: id().required(),
  name: text(120).required(),
  sectionIds: Joi.array().items(id()).min(1).max(60).unique().required(),
});

const workChange = (index: ShopIndex, work: Work, { approval }: ChangeWork, ids: () => Id): WorkChange =>
  changeApproval(index, work, approval, ids);

const sectionChange = (index: ShopIndex, section: Section, { version: _, ...patch }: ChangeSection, ids: () => Id) =>
  changeSection(index, section, patch, ids);

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
  const index = await lockShop(ctx, [found.workId]);
  const mould = await ctx.claim<Mould>('moulds', mouldId, given.version, 'mould', given);
  if (given.retire && index.shop.pulls.some((pull) => pull.mouldId === mouldId && pull.endedAt === null))
    throw refused([
      { rule: 'mould in use', message: 'A wax is in this mould: take it out first.', mayOverride: false },
    ]);
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
  const index = await lockShop(ctx, [workId]);
  const work = index.work.get(workId);
  if (!work) throw notFound('work');
  const own = new Set((index.sectionsOf.get(workId) ?? []).map((section) => section.id));
  if (given.sectionIds.some((sectionId) => !own.has(sectionId)))
    throw invalid({ sectionIds: 'names a section of another work' });
  if (work.method === 'direct') throw invalid({ name: 'a direct wax has no mould' });
  const mould: Mould = {
    ...given,
    workId,
    number: 0,
    state: 'making',
    lifePulls: null,
    pullsBefore: 0,
    version: 1,
  };
  await carryOut(ctx, index.shop, growMould(ctx.newId, mould));
  ctx.concern('work', workId);
  ctx.concern('mould', given.id);
  ctx.event = { verb: 'change work', text: `${work.title}: a further mould, ${given.name}`, room: 'mould' };
  return { id: given.id };
}
