import type { Id, Mould, Op, Piece, Section, SetUpWork, Work } from '@kalvet/core';
import { EMPTY_SHOP, growMould, growPiece, insert } from '@kalvet/core';
import { carryOut } from '../shop/locked.ts';
import type { Context } from '../write/context.ts';
import { invalid } from '../write/problem.ts';
import { acrossFields } from './work.schema.ts';

/** Sets up a work: its sections, moulds, pieces, and every step of every piece as the route wants them. */
export async function setUpWork(ctx: Context, given: SetUpWork): Promise<{ id: Id; pieceIds: Id[] }> {
  const wrong = acrossFields(given);
  if (Object.keys(wrong).length > 0) throw invalid(wrong);
  const same = await ctx.select<{ id: Id }>('SELECT id FROM work WHERE code = ? OR id = ? FOR UPDATE', [
    given.code,
    given.id,
  ]);
  if (same.some(({ id }) => id === given.id))
    throw invalid({ id: 'this work is set up already; open the form again for another one' });
  if (same.length > 0) throw invalid({ code: `${given.code} already stands on the tags of another work` });

  const { sections: sectionRows, moulds: mouldRows, dueDate, ...rest } = given;
  const work: Work = { ...rest, number: 0, routeVersion: 1, version: 1 };
  const sections = sectionRows.map((section, i): Section => ({
    ...section,
    id: ctx.newId(),
    workId: work.id,
    ordinal: i + 1,
    method: given.method,
    version: 1,
  }));
  const pieces = piecesOf(ctx, given, dueDate);
  const moulds = mouldRows.map(({ name, sections: places, pullsBefore }): Mould => ({
    id: ctx.newId(),
    number: 0,
    workId: work.id,
    name,
    sectionIds: places.map((place) => sections[place - 1]!.id),
    state: 'making',
    lifePulls: null,
    pullsBefore,
    version: 1,
  }));
  const ops: Op[] = [
    insert('works', work),
    ...sections.map((section) => insert('sections', section)),
    ...pieces.map((piece) => insert('pieces', piece)),
    ...moulds.flatMap((mould) => growMould(ctx.newId, mould)),
    ...pieces.flatMap((piece, i) => growPiece(ctx.newId, work, sections, piece, i === 0)),
  ];
  await carryOut(ctx, EMPTY_SHOP, inTableOrder(ops));
  ctx.touchedWorks.add(work.id);
  ctx.concern('work', work.id);
  ctx.concern('piece', ...pieces.map(({ id }) => id));
  const edition = `${given.editionSize}${given.artistProofs > 0 ? ` + ${given.artistProofs} AP` : ''}`;
  ctx.event = {
    verb: 'set up work',
    text: `${given.title} by ${given.artist} set up: edition of ${edition}`,
  };
  return { id: work.id, pieceIds: pieces.map(({ id }) => id) };
}

function piecesOf(ctx: Context, given: SetUpWork, dueDate: string | null): Piece[] {
  const piece = (series: Piece['series'], number: number, of: number): Piece => ({
    id: ctx.newId(),
    workId: given.id,
    series,
    number,
    of,
    state: 'not begun',
    markInWax: null,
    dueDate,
    holdReason: null,
    holdUntil: null,
    deliveredAt: null,
    orderId: null,
    routeVersion: 1,
    version: 1,
  });
  if (given.method === 'direct') return [piece('unique', 1, 1)];
  const run = (series: Piece['series'], of: number) => Array.from({ length: of }, (_, i) => piece(series, i + 1, of));
  return [...run('edition', given.editionSize), ...run('ap', given.artistProofs)];
}

const TABLE_ORDER = ['works', 'sections', 'pieces', 'moulds', 'casts', 'trees', 'treeCasts', 'steps'];

/** The same inserts, table by table, so that each table is written at once. */
export const inTableOrder = (ops: readonly Op[]): Op[] =>
  [...ops].sort((a, b) => TABLE_ORDER.indexOf(a.table) - TABLE_ORDER.indexOf(b.table));
