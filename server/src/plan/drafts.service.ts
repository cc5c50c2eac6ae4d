import type { Draft, DraftChange, DraftView, DraftsAnswer, Id, Resource, SaveDraft, Calendar } from '@kalvet/core';
import { changeWords, joined, say } from '@kalvet/core';
import { rowsOf } from '../db/rows.ts';
import { changeNumber } from '../live/changes.ts';
import { labelled } from '../shop/labelled.ts';
import { draftChoices } from './draft-choices.ts';
import type { Context } from '../write/context.ts';
import { invalid, notFound } from '../write/problem.ts';
import { Problem } from '../write/problem.ts';
import type { Store } from '../write/store.ts';

/** The drafts that are thought about, the newest first, each change in words. */
export async function draftsAnswer(store: Store): Promise<DraftsAnswer> {
  const change = await changeNumber(store);
  const drafts = await rowsOf<Draft>(store, 'drafts', { state: 'open' });
  const people = new Map(
    (await rowsOf<{ id: Id; name: string }>(store, 'people', {})).map(({ id, name }) => [id, name]),
  );
  const words = await wordsOf(
    store,
    drafts.flatMap(({ changes }) => changes),
  );
  return {
    change,
    choices: await draftChoices(store),
    drafts: drafts
      .sort((a, b) => b.madeAt.localeCompare(a.madeAt))
      .map((draft): DraftView => ({
        ...draft,
        person: people.get(draft.personId ?? '') ?? null,
        words: draft.changes.map(words),
      })),
  };
}

/** How changes are said, with the names of what they are about. */
export async function wordsOf(store: Store, changes: readonly DraftChange[]) {
  const ids = (key: 'pieceId' | 'castId' | 'mouldId') =>
    changes.flatMap((change) => (key in change ? [(change as unknown as Record<typeof key, Id>)[key]] : []));
  const [index, calendars, resources] = await Promise.all([
    labelled(store, { pieces: ids('pieceId'), casts: ids('castId'), moulds: ids('mouldId') }),
    rowsOf<Calendar>(store, 'calendars', {}),
    rowsOf<Resource>(store, 'resources', {}),
  ]);
  return (change: DraftChange) => changeWords(change, { index, calendars, resources });
}

/** An open draft. @throws Problem where there is none, or it was taken or dropped */
export async function openDraft(store: Store, id: Id): Promise<Draft> {
  const [draft] = await rowsOf<Draft>(store, 'drafts', { id });
  if (!draft) throw notFound('draft');
  return judgeOpen(draft);
}

export function judgeOpen(draft: Draft): Draft {
  if (draft.state === 'open') return draft;
  throw new Problem(
    'refused',
    `The draft “${draft.name}” was ${draft.state === 'taken' ? 'taken over' : 'dropped'} already.`,
    {
      rule: 'draft',
    },
  );
}

/** Keeps a draft, new or changed; the plan in use knows nothing of it. */
export async function saveDraft(ctx: Context, { version, ...given }: SaveDraft): Promise<{ id: Id }> {
  ctx.may('keep draft');
  if (version === 0) {
    if (await ctx.find('drafts', given.id)) throw invalid({ id: 'this draft is kept already; open it' });
    const draft: Draft = { ...given, state: 'open', personId: ctx.actor?.id ?? null, madeAt: ctx.now, version: 1 };
    await ctx.insert<Draft>('drafts', [draft]);
  } else {
    const before = judgeOpen(await ctx.claim<Draft>('drafts', given.id, version, 'draft', given));
    await ctx.update('drafts', before, { name: given.name, changes: given.changes });
  }
  ctx.event = { verb: 'keep draft', text: say`Draft of a plan “${given.name}” ${version === 0 ? 'begun' : 'changed'}` };
  return { id: given.id };
}

export async function dropDraft(ctx: Context, id: Id, version: number): Promise<{ id: Id }> {
  ctx.may('drop draft');
  const draft = judgeOpen(await ctx.claim<Draft>('drafts', id, version, 'draft'));
  await ctx.update('drafts', draft, { state: 'dropped' });
  ctx.event = { verb: 'drop draft', text: say`Draft of a plan “${draft.name}” dropped` };
  return { id };
}

/** All changes of a draft in one line. */
export const allWords = async (store: Store, changes: readonly DraftChange[]) =>
  joined(changes.map(await wordsOf(store, changes)), '; ');
