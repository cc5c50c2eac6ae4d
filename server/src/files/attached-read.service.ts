import type {
  AttachedTo,
  Attachment,
  AttachmentView,
  AttachmentsAnswer,
  BesideGroup,
  Cast,
  FileContent,
  Id,
  Person,
  Piece,
  Sight,
  Step,
  TreeCast,
} from '@kalvet/core';
import { markOf } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { changeNumber } from '../live/changes.ts';
import { notFound } from '../write/problem.ts';
import type { Store } from '../write/store.ts';
import type { Subjected } from './hangs-on.ts';
import { hooksOf } from './hangs-on.ts';
import { contentOf } from './upload.service.ts';

/** What hangs on a record; of a piece and a work also on everything that belongs to it, in the order of time. */
export async function attachmentsOf(store: Store, of: Subjected, sights: readonly Sight[]): Promise<AttachmentsAnswer> {
  const change = await changeNumber(store);
  const hook = (await hooksOf(store, [of])).get(of.subjectId);
  if (!hook || (of.subject === 'order' && !sights.includes('clients'))) throw notFound(of.subject);
  const [attachments, beside] = await Promise.all([
    viewsOf(store, await familyOf(store, of), of),
    of.subject === 'piece' ? besideOf(store, of.subjectId) : [],
  ]);
  return { change, title: hook.on, path: hook.path, attachments, beside };
}

/** What a piece's pictures are held beside: the work's views, and the first piece of the edition that has pictures. */
async function besideOf(store: Store, pieceId: Id): Promise<BesideGroup[]> {
  const [piece] = await rowsOf<Piece>(store, 'pieces', { id: pieceId });
  const work = { subject: 'work', subjectId: piece!.workId } as const;
  const views = (await viewsOf(store, await familyOf(store, work), work)).filter(({ role }) => role !== 'seen');
  const others = (await rowsOf<Piece>(store, 'pieces', { workId: piece!.workId }))
    .filter(({ id }) => id !== pieceId)
    .sort((a, b) => a.number - b.number);
  const groups = views.length > 0 ? [{ title: 'The work', attachments: views }] : [];
  for (const other of others) {
    const of = { subject: 'piece', subjectId: other.id } as const;
    const attachments = await viewsOf(store, await familyOf(store, of), of);
    if (attachments.length > 0) return [...groups, { title: markOf(other), attachments }];
  }
  return groups;
}

/** The records whose files are shown with one. */
async function familyOf(store: Store, { subject, subjectId }: Subjected): Promise<Id[]> {
  if (subject === 'work') {
    const sections = await rowsOf<{ id: Id }>(store, 'sections', { workId: subjectId });
    return [subjectId, ...sections.map(({ id }) => id)];
  }
  if (subject === 'tree' || subject === 'cast' || subject === 'mould' || subject === 'load' || subject === 'heat')
    return [subjectId, ...(await stepIds(store, { [`${subject}Id`]: subjectId }))];
  if (subject !== 'piece') return [subjectId];
  const casts = (await rowsOf<Cast>(store, 'casts', { pieceId: subjectId })).map(({ id }) => id);
  const trees = (await rowsOf<TreeCast>(store, 'treeCasts', { castId: casts })).map(({ treeId }) => treeId);
  const steps = await stepIds(store, {
    [Op.or]: [{ pieceId: subjectId }, { castId: casts }, { treeId: trees }],
  });
  return [subjectId, ...casts, ...trees, ...steps];
}

async function stepIds(store: Store, where: Readonly<Record<string | symbol, unknown>>): Promise<Id[]> {
  const rows = await store.models.steps.findAll({ where: where as never, attributes: ['id'], raw: true });
  return (rows as unknown as Pick<Step, 'id'>[]).map(({ id }) => id);
}

async function viewsOf(store: Store, subjectIds: readonly Id[], seen: Subjected): Promise<AttachmentView[]> {
  const rows = await rowsOf<Attachment>(store, 'attachments', { subjectId: subjectIds, voidReason: null });
  const [contents, people, hooks] = await Promise.all([
    rowsOf<FileContent>(store, 'contents', { id: [...new Set(rows.map(({ contentId }) => contentId))] }),
    rowsOf<Pick<Person, 'id' | 'name'>>(store, 'people', { id: [...new Set(rows.flatMap(({ byId }) => byId ?? []))] }),
    hooksOf(store, rows),
  ]);
  const content = new Map(contents.map((each) => [each.id, contentOf(each)]));
  const name = new Map(people.map((each) => [each.id, each.name]));
  return rows
    .map((row): AttachmentView => {
      const hook = hooks.get(row.subjectId);
      const isOwn = row.subject === seen.subject && row.subjectId === seen.subjectId;
      return {
        ...row,
        content: content.get(row.contentId)!,
        by: row.byId === null ? null : (name.get(row.byId) ?? null),
        on: isOwn ? '' : (hook?.on ?? ''),
        mark: hook?.mark ?? null,
        room: hook?.room ?? null,
        ...(hook?.defects && hook.defects.length > 0 ? { defects: hook.defects } : {}),
      };
    })
    .sort((a, b) => a.at.localeCompare(b.at) || a.id.localeCompare(b.id));
}

/** How many files hang on each of some records, for marks beside them. */
export async function countsOf(store: Store, subjectIds: readonly Id[]): Promise<Map<Id, number>> {
  const rows = await rowsOf<Pick<Attachment, 'subjectId'>>(store, 'attachments', {
    subjectId: subjectIds,
    voidReason: null,
  });
  const counts = new Map<Id, number>();
  for (const { subjectId } of rows) counts.set(subjectId, (counts.get(subjectId) ?? 0) + 1);
  return counts;
}

/** Whether somebody may read a content: what hangs on orders alone is for those who see them; what hangs nowhere is its sender's. */
export async function mayReadContent(
  store: Store,
  content: { readonly id: Id; readonly byId: Id | null },
  asker: { readonly id: Id; readonly sights: readonly Sight[] },
): Promise<boolean> {
  const rows = await rowsOf<{ subject: AttachedTo }>(store, 'attachments', { contentId: content.id });
  if (rows.length === 0) return content.byId === asker.id;
  return rows.some(({ subject }) => subject !== 'order') || asker.sights.includes('clients');
}
