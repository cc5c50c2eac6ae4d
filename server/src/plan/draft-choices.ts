import type { Calendar, Cast, DraftChoices, Id, Piece, Resource, Section, Work } from '@kalvet/core';
import { EMPTY_SHOP, castLabel, indexShop, pieceLabel, setUpOf } from '@kalvet/core';
import { Op } from 'sequelize';
import { rowsOf } from '../db/rows.ts';
import { loadMoulds } from '../shop/load.ts';
import type { Store } from '../write/store.ts';

const OUT = ['delivered', 'cancelled', 'lost'];

/** What a change of a draft can be about, by the names that people know. */
export async function draftChoices(store: Store): Promise<DraftChoices> {
  const [works, sections, pieces, casts, calendars, resources] = await Promise.all([
    rowsOf<Work>(store, 'works', {}),
    rowsOf<Section>(store, 'sections', {}),
    rowsOf<Piece>(store, 'pieces', {}),
    rowsOf<Cast>(store, 'casts', { state: { [Op.notIn]: ['planned', 'lost', 'void'] } }),
    rowsOf<Calendar>(store, 'calendars', {}),
    rowsOf<Resource>(store, 'resources', {}),
  ]);
  const moulds = await loadMoulds(
    store,
    works.map(({ id }) => id),
  );
  const index = indexShop({ ...EMPTY_SHOP, works, sections, pieces, casts, moulds });
  const inWork = pieces.filter(({ state }) => !OUT.includes(state));
  const open = new Set<Id>(inWork.map(({ id }) => id));
  const furnaces = new Set(resources.filter(({ kind }) => kind === 'crucible').map(({ calendarId }) => calendarId));
  return {
    hours: calendars
      .filter(({ always }) => !always)
      .map(({ id, name }) => ({ id, name, isPour: furnaces.has(id) }))
      .sort((a, b) => Number(b.isPour) - Number(a.isPour) || a.id.localeCompare(b.id)),
    resources: resources
      .map(({ id, name, kind, count }) => ({ id, name, kind, count }))
      .sort((a, b) => a.id.localeCompare(b.id)),
    moulds: moulds
      .filter(({ state }) => state !== 'retired')
      .map(({ id, number, name, workId }) => ({
        id,
        label: `M-${number} ${name}, ${index.work.get(workId)?.title ?? ''}`,
      })),
    pieces: byLabel(inWork.map((piece) => ({ id: piece.id, label: pieceLabel(index, piece), dueDate: piece.dueDate }))),
    casts: byLabel(
      casts.filter(({ pieceId }) => open.has(pieceId)).map((cast) => ({ id: cast.id, label: castLabel(index, cast) })),
    ),
    works: works.map((work) => setUpOf(index, work)).sort((a, b) => a.title.localeCompare(b.title)),
  };
}

const byLabel = <T extends { readonly label: string }>(list: T[]): T[] =>
  list.sort((a, b) => a.label.localeCompare(b.label, 'en', { numeric: true }));
