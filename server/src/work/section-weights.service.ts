import type { Id, Piece, Weight } from '@kalvet/core';
import { markOf } from '@kalvet/core';
import type { Store } from '../write/store.ts';

interface WeightRow extends Pick<Weight, 'kg'> {
  readonly at: Date;
  readonly cast: { readonly attempt: number; readonly piece: Pick<Piece, 'series' | 'number' | 'of'> };
}

/** What every wax or casting of a section weighed, also of pieces that have left, the newest last. */
export async function weighedOf(
  { models }: Store,
  sectionId: Id,
  of: 'wax' | 'cast' = 'wax',
): Promise<{ label: string; kg: number; at: string }[]> {
  const rows = await models.weights.findAll({
    where: { of, voidReason: null },
    attributes: ['kg', 'at'],
    include: [
      {
        association: 'cast',
        attributes: ['attempt'],
        where: { sectionId },
        include: [{ association: 'piece', attributes: ['series', 'number', 'of'] }],
      },
    ],
    order: [['at', 'ASC']],
  });
  return (rows as unknown as WeightRow[]).map(({ kg, at, cast }) => ({
    label: `${markOf(cast.piece)}${cast.attempt > 1 ? `, attempt ${cast.attempt}` : ''}`,
    kg,
    at: at.toISOString(),
  }));
}
