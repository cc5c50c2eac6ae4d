import type {
  EstimateSection,
  Id,
  SaveModel,
  SaveSilhouette,
  SaveWayUp,
  Section,
  SectionEstimate,
  Text,
  Work,
  WorkModel,
} from '@kalvet/core';
import { ESTIMATE_NAMES, counted, kg, mm, never, plannedWax, plain, say, update } from '@kalvet/core';
import { carryOut, lockShop } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound, refused } from '../write/problem.ts';

/** Ways in which one section's wax is known: more were a slip of the finger. */
const MOST_ESTIMATES = 40;

/** Keeps a model of a work, or of one section, as it was measured; a newer one of the same takes its place. */
export async function saveModel(ctx: Context, given: SaveModel): Promise<{ id: Id }> {
  ctx.may('save model');
  const { version, ...fields } = given;
  const work = await ctx.find<Work>('works', given.workId, true);
  if (!work) throw notFound('work');
  const section = given.sectionId === null ? null : await ctx.find<Section>('sections', given.sectionId);
  if (given.sectionId !== null && section?.workId !== work.id) throw notFound('section');
  const [content] = await ctx.rows<{ kind: string }>('contents', { id: given.contentId, state: 'kept' });
  if (content?.kind !== 'model') throw invalid({ contentId: 'is no model that is here' });
  if (version === 0) {
    if (await ctx.find('models', given.id)) throw invalid({ id: 'this model is entered already; open the page again' });
    const before = await ctx.rows<WorkModel>('models', {
      workId: work.id,
      sectionId: given.sectionId,
      voidReason: null,
    });
    for (const older of before) await ctx.update('models', older, { voidReason: `${given.name} took its place` });
    await ctx.insert<WorkModel>('models', [
      { ...fields, at: ctx.now, byId: ctx.actor?.id ?? null, voidReason: null, version: 1 },
    ]);
  } else {
    const before = await ctx.claim<WorkModel>('models', given.id, version, 'model', given);
    await ctx.update('models', before, fields);
  }
  const high = given.measured.sizeMm[given.sizing.axis === 'x' ? 0 : given.sizing.axis === 'y' ? 1 : 2];
  ctx.concern('work', work.id);
  ctx.event = {
    verb: 'save model',
    text: say`Model ${given.name} of ${section?.name ?? work.title}: wax ${mm(high, 0)}${
      given.planes.length > 0 ? `, ${counted(given.planes.length, 'cut')}` : ''
    }`,
  };
  return { id: given.id };
}

/** Puts a model away; what was worked out from it stays. */
export async function putModelAway(
  ctx: Context,
  id: Id,
  given: { version: number; reason: string },
): Promise<{ id: Id }> {
  ctx.may('put model away');
  const before = await ctx.claim<WorkModel>('models', id, given.version, 'model', given);
  if (before.voidReason !== null) throw refused([never('state', 'It was put away already.')]);
  await ctx.update('models', before, { voidReason: given.reason });
  ctx.concern('work', before.workId);
  ctx.event = { verb: 'put model away', text: say`Model ${before.name} put away`, reason: given.reason };
  return { id };
}

/** A section under its work's lock. */
async function claimSection(ctx: Context, id: Id, version: number, given: unknown) {
  const found = await ctx.find<Section>('sections', id);
  if (!found) throw notFound('section');
  const index = await lockShop(ctx, [found.workId]);
  const section = await ctx.claim<Section>('sections', id, version, 'section', given);
  ctx.concern('work', section.workId);
  return { section, shop: index.shop };
}

/** Adds a way of knowing what a section's wax will weigh, or puts one away; the plan goes by the surest that stands. */
export async function estimateSection(ctx: Context, id: Id, given: EstimateSection): Promise<{ id: Id }> {
  ctx.may('estimate section');
  const { section, shop } = await claimSection(ctx, id, given.version, given);
  const { add, putAway } = given;
  if ((add === null) === (putAway === null)) throw invalid({ add: 'one is added or put away' });
  if (add && add.waxKg === null && add.curve === null) throw invalid({ 'add.waxKg': 'is missing' });
  const before = section.estimates ?? [];
  if (add && before.some((each) => each.id === add.id))
    throw invalid({ 'add.id': 'this was entered already; open the form again' });
  if (add && before.length >= MOST_ESTIMATES)
    throw refused([never('full', say`More than ${plain(MOST_ESTIMATES, 0)} are not kept.`)]);
  const gone = putAway && before.find((each) => each.id === putAway.id);
  if (putAway && !gone) throw notFound('estimate');
  const estimates: readonly SectionEstimate[] = add
    ? [...before, { ...add, at: ctx.now, voidReason: null }]
    : before.map((each) => (each.id === gone!.id ? { ...each, voidReason: putAway!.reason } : each));
  await carryOut(ctx, shop, [update('sections', id, { estimates })]);
  const plan = plannedWax({ ...section, estimates });
  const now: Text = plan ? say`its wax is planned with ${kg(plan.value, 2)}` : 'nothing is known of its wax now';
  ctx.event = {
    verb: 'estimate section',
    text: add
      ? say`${section.name}: wax ${ESTIMATE_NAMES[add.kind]}; ${now}`
      : say`${section.name}: what was known ${ESTIMATE_NAMES[gone!.kind]} put away; ${now}`,
    reason: putAway?.reason ?? null,
  };
  return { id };
}

/** Keeps which way up a section is poured, with the places of its vents and gates. */
export async function saveWayUp(ctx: Context, id: Id, given: SaveWayUp): Promise<{ id: Id }> {
  ctx.may('set way up');
  const { section, shop } = await claimSection(ctx, id, given.version, given);
  const { wayUp } = given;
  await carryOut(ctx, shop, [update('sections', id, { wayUp })]);
  ctx.event = {
    verb: 'set way up',
    text: wayUp
      ? say`${section.name}: poured ${mm(wayUp.heightMm, 0)} high, ${counted(wayUp.vents.length, 'vent')}, ${counted(wayUp.gates.length, 'gate')}`
      : say`${section.name}: its way up is open again`,
    room: 'sprue',
  };
  return { id };
}

/** The silhouette that stands for a work on the Floor. */
export async function saveSilhouette(ctx: Context, id: Id, given: SaveSilhouette): Promise<{ id: Id }> {
  ctx.may('set silhouette');
  const work = await ctx.claim<Work>('works', id, given.version, 'work', given);
  await ctx.update('works', work, { glyph: given.glyph });
  ctx.concern('work', id);
  ctx.event = { verb: 'set silhouette', text: say`${work.title}: another silhouette` };
  return { id };
}
