import type { AttachFile, Attachment, ChangeAttachment, FileKind, Id, RemoveAttachment } from '@kalvet/core';
import { FILE_LIMITS, PICTURE_ROLE_NAMES, counted, mayDo, maySee, never, plain, say } from '@kalvet/core';
import type { Context } from '../write/context.ts';
import { Problem, invalid, notFound, refused } from '../write/problem.ts';
import { hooksOf } from './hangs-on.ts';
import type { Hook, Subjected } from './hangs-on.ts';
import type { ContentRow } from './upload.service.ts';

/** What a record is, so that a file can be hung on it. @throws Problem where there is none, or it is not theirs to see */
async function hookOf(ctx: Context, of: Subjected): Promise<Hook> {
  // Whose an order is is seen by those who keep the books.
  if (of.subject === 'order' && !maySee(ctx.actor, 'clients'))
    throw new Problem('may not', `${ctx.actor?.name ?? 'Nobody'} does not see orders.`, { rule: 'rights' });
  const found = (await hooksOf(ctx.store, [of])).get(of.subjectId);
  if (!found) throw notFound(of.subject);
  return found;
}

/** Hangs a file that is here on a record. */
export async function attachFile(ctx: Context, given: AttachFile): Promise<{ id: Id }> {
  ctx.may('attach file');
  const hook = await hookOf(ctx, given);
  const [content] = await ctx.rows<ContentRow>('contents', { id: given.contentId, state: 'kept' }, { lock: true });
  if (!content) throw notFound('file');
  const there = await ctx.rows<Attachment>('attachments', { subjectId: given.subjectId, voidReason: null });
  if (there.some(({ contentId, defect }) => contentId === given.contentId && defect === given.defect))
    throw refused([never('twice', say`${given.name} hangs here already.`)]);
  if (there.length >= FILE_LIMITS.attached)
    throw refused([never('full', say`More than ${plain(FILE_LIMITS.attached, 0)} files do not hang on one record.`)]);
  if (await ctx.find('attachments', given.id)) throw invalid({ id: 'this was attached already; open the form again' });
  if (content.kind !== 'picture' && (given.pins.length > 0 || given.role !== 'seen'))
    throw invalid({ pins: 'only a picture has places on it and is a view' });
  const { at, ...fields } = given;
  await ctx.insert<Attachment>('attachments', [
    { ...fields, at: at ?? ctx.now, byId: ctx.actor?.id ?? null, voidReason: null, version: 1 },
  ]);
  ctx.event = {
    verb: 'attach file',
    text: say`${whatItIs(content.kind, given)}, ${hook.on}${given.words ? `: ${given.words}` : ''}${pinsInWords(given.pins.length)}`,
    room: hook.room,
  };
  concern(ctx, hook);
  return { id: given.id };
}

const whatItIs = (kind: FileKind, { role, name }: AttachFile): string => {
  if (kind !== 'picture') return `File ${name}`;
  return role === 'seen' ? 'Picture' : `Picture, ${PICTURE_ROLE_NAMES[role]}`;
};

const pinsInWords = (count: number): string => (count > 0 ? `, ${counted(count, 'place')} marked` : '');

const concern = (ctx: Context, { concerns }: Hook): void => {
  for (const [subject, id] of concerns) ctx.concern(subject, id);
};

/** Changes what is said about a file: its words, what it is, the places marked on it. */
export async function changeAttachment(ctx: Context, id: Id, given: ChangeAttachment): Promise<{ id: Id }> {
  ctx.may('change file');
  const before = await ctx.claim<Attachment>('attachments', id, given.version, 'file', given);
  if (before.voidReason !== null) throw refused([never('state', 'It was put away; take that back first.')]);
  const hook = await hookOf(ctx, before);
  if (given.defect !== null && given.defect >= (hook.defects?.length ?? 0))
    throw invalid({ defect: 'is none of those that were written down' });
  const { version: _, ...patch } = given;
  await ctx.update('attachments', before, patch);
  ctx.event = {
    verb: 'change file',
    text: say`${before.name}, ${hook.on}: ${given.words || PICTURE_ROLE_NAMES[given.role]}${pinsInWords(given.pins.length)}`,
    room: hook.room,
  };
  concern(ctx, hook);
  return { id };
}

/** Puts a file away: it is not shown any more, and the history keeps it. */
export async function putAway(ctx: Context, id: Id, given: RemoveAttachment): Promise<{ id: Id }> {
  ctx.may('put file away');
  const before = await ctx.claim<Attachment>('attachments', id, given.version, 'file', given);
  const leads = mayDo(ctx.actor, 'insert step') || mayDo(ctx.actor, 'change work');
  if (before.byId !== ctx.actor?.id && !leads)
    throw new Problem('may not', 'It is somebody else’s: whoever attached it or leads the room puts it away.', {
      rule: 'rights',
    });
  if (before.voidReason !== null) throw refused([never('state', 'It was put away already.')]);
  const hook = await hookOf(ctx, before);
  await ctx.update('attachments', before, { voidReason: given.reason });
  ctx.event = {
    verb: 'put file away',
    text: say`${before.name}, ${hook.on}, put away`,
    room: hook.room,
    reason: given.reason,
  };
  concern(ctx, hook);
  return { id };
}
