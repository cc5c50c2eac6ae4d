import { Router } from 'express';
import type { Piece } from '@kalvet/core';
import { markOf } from '@kalvet/core';
import type { WhereOptions } from 'sequelize';
import { Op } from 'sequelize';
import type { Server } from '../http/request.ts';

interface Found extends Pick<Piece, 'id' | 'series' | 'number' | 'of' | 'state'> {
  readonly work: { readonly title: string; readonly code: string };
}

const LIMIT = 12;
const NUMBER_AT_END = /(\d+)(?:\/\d+)?$/;

/** `GET /find?q=`: pieces by work, tag (`OTT 5`), mark (`heron 4/8`) or tree (`T-12`). */
export function findRoutes({ store: { models } }: Server): Router {
  const routes = Router();
  routes.get('/find', async (request, response) => {
    const asked = String(request.query['q'] ?? '')
      .trim()
      .slice(0, 80);
    if (asked === '') return void response.json({ found: [] });
    const tree = /^t-?(\d{1,9})$/i.exec(asked);
    const where = tree ? { id: await piecesOnTree(Number(tree[1])) } : byWords(asked);
    const rows = await models.pieces.findAll({
      where,
      attributes: ['id', 'series', 'number', 'of', 'state'],
      include: [{ association: 'work', attributes: ['title', 'code'], required: true }],
      order: [
        ['work', 'title', 'ASC'],
        ['series', 'ASC'],
        ['number', 'ASC'],
      ],
      limit: LIMIT,
    });
    response.json({
      found: (rows as unknown as Found[]).map(({ id, series, number, of, state, work }) => ({
        id,
        title: work.title,
        code: work.code,
        state,
        mark: markOf({ series, number, of }),
      })),
    });
  });
  return routes;

  async function piecesOnTree(number: number): Promise<string[]> {
    const rows = await models.casts.findAll({
      attributes: ['pieceId'],
      include: [
        {
          association: 'treeCasts',
          attributes: [],
          required: true,
          include: [{ association: 'tree', attributes: [], where: { number } }],
        },
      ],
      raw: true,
    });
    return (rows as unknown as { pieceId: string }[]).map(({ pieceId }) => pieceId);
  }
}

/** A title, artist or tag begins so; a number at the end is the piece's. */
function byWords(asked: string): WhereOptions {
  const number = NUMBER_AT_END.exec(asked);
  const words = (number ? asked.slice(0, number.index) : asked).trim().replace(/\s+ap$/i, '');
  const escaped = words.replace(/[%_\\]/g, '\\$&');
  const inside = { [Op.like]: `%${escaped}%` };
  const named = [{ '$work.title$': inside }, { '$work.code$': { [Op.like]: `${escaped}%` } }];
  return number
    ? { [Op.or]: named, number: Number(number[1]!.slice(0, 9)) }
    : { [Op.or]: [...named, { '$work.artist$': inside }] };
}
