import type { Carrier, Id } from '@kalvet/core';
import type { Transaction } from 'sequelize';
import type { Store } from '../write/store.ts';

interface Through {
  readonly piece?: { readonly workId: Id };
  readonly workId?: Id;
  readonly cast?: { readonly piece: { readonly workId: Id } };
  readonly tree?: { readonly treeCasts: readonly Through[] };
}

const PIECE = { association: 'piece', attributes: ['workId'] };
const CAST = { association: 'cast', attributes: ['id'], include: [PIECE] };

/** The works that a carrier belongs to: one, but for trees, loads and heats, which hold casts of several. */
export async function worksOf(store: Store, carrier: Carrier | 'work', id: Id, tx?: Transaction): Promise<Id[]> {
  const { models } = store;
  const transaction = tx ?? null;
  const plain = (found: unknown): Through[] => JSON.parse(JSON.stringify(found)) as Through[];
  if (carrier === 'work') return [id];
  if (carrier === 'piece' || carrier === 'mould') {
    const rows = await models[carrier === 'piece' ? 'pieces' : 'moulds'].findAll({
      where: { id },
      attributes: ['workId'],
      transaction,
    });
    return plain(rows).map(({ workId }) => workId!);
  }
  if (carrier === 'cast') {
    const rows = await models.casts.findAll({ where: { id }, attributes: ['id'], include: [PIECE], transaction });
    return plain(rows).map(({ piece }) => piece!.workId);
  }
  if (carrier === 'tree') {
    const rows = await models.treeCasts.findAll({
      where: { treeId: id },
      attributes: ['id'],
      include: [CAST],
      transaction,
    });
    return [...new Set(plain(rows).map(({ cast }) => cast!.piece.workId))];
  }
  const rows = await models[carrier === 'load' ? 'loadPlaces' : 'pourings'].findAll({
    where: { [`${carrier}Id`]: id },
    attributes: ['id'],
    include: [
      {
        association: 'tree',
        attributes: ['id'],
        include: [{ association: 'treeCasts', attributes: ['id'], include: [CAST] }],
      },
    ],
    transaction,
  });
  return [...new Set(plain(rows).flatMap(({ tree }) => tree!.treeCasts.map(({ cast }) => cast!.piece.workId)))];
}
