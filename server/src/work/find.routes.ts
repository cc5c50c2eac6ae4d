import { Router } from 'express';
import { markOf } from '@kalvet/core';
import type { Piece } from '@kalvet/core';
import { QueryTypes } from 'sequelize';
import type { Server } from '../write/request.ts';

interface Found extends Pick<Piece, 'id' | 'series' | 'number' | 'of' | 'state'> {
  readonly title: string;
  readonly code: string;
}

const LIMIT = 12;

/** `GET /find?q=`: pieces by work, tag (`OTT 5`), mark (`heron 4/8`) or tree (`T-12`). */
export function findRoutes({ store }: Server): Router {
  const routes = Router();
  routes.get('/find', async (request, response) => {
    const asked = String(request.query['q'] ?? '')
      .trim()
      .slice(0, 80);
    if (asked === '') return void response.json({ found: [] });
    const tree = /^t-?(\d+)$/i.exec(asked);
    const select =
      'SELECT DISTINCT p.id, p.series, p.number, p.`of`, p.state, w.title, w.code FROM piece p JOIN work w ON w.id = p.workId';
    const rows = tree
      ? await store.db.query<Found>(
          `${select} JOIN cast_ c ON c.pieceId = p.id JOIN tree_cast m ON m.castId = c.id JOIN tree t ON t.id = m.treeId WHERE t.number = :number LIMIT ${LIMIT}`,
          { replacements: { number: Number(tree[1]) }, type: QueryTypes.SELECT },
        )
      : await byWords(asked, select);
    response.json({
      found: rows.map(({ id, title, code, state, ...piece }) => ({
        id,
        title,
        code,
        state,
        mark: markOf(piece),
      })),
    });
  });
  return routes;

  async function byWords(asked: string, select: string): Promise<Found[]> {
    const number = /(\d+)(?:\/\d+)?$/.exec(asked);
    const words = (number ? asked.slice(0, number.index) : asked).trim().replace(/\s+ap$/i, '');
    const where = number
      ? '(w.title LIKE :like OR w.code LIKE :start) AND p.number = :number'
      : 'w.title LIKE :like OR w.code LIKE :start OR w.artist LIKE :like';
    const escaped = words.replace(/[%_\\]/g, '\\$&');
    return store.db.query<Found>(`${select} WHERE ${where} ORDER BY w.title, p.series, p.number LIMIT ${LIMIT}`, {
      replacements: { like: `%${escaped}%`, start: `${escaped}%`, number: Number(number?.[1] ?? 0) },
      type: QueryTypes.SELECT,
    });
  }
}
