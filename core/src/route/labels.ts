import type { Step } from '../records/step.ts';
import type { Cast, Piece } from '../records/work.ts';
import { markOf, sectionLetter } from '../records/work.ts';
import type { ShopIndex } from './shop-index.ts';
import { castsOfTree } from './shop-index.ts';

/** `Otter with Reed 5/8`. */
export function pieceLabel(index: ShopIndex, piece: Piece): string {
  return `${index.work.get(piece.workId)?.title ?? ''} ${markOf(piece)}`.trim();
}

/** The tag on a cast: `OTT 5 B`, without a letter where the work is cast in one, from the second attempt on `OTT 5 B · attempt 2`. */
export function castLabel(index: ShopIndex, cast: Cast): string {
  const piece = index.piece.get(cast.pieceId);
  const section = index.section.get(cast.sectionId);
  const code = index.work.get(piece?.workId ?? '')?.code ?? '';
  const series = { edition: '', ap: 'AP', fp: 'FP', unique: 'U' }[piece?.series ?? 'edition'];
  const number = piece?.series === 'unique' ? '' : String(piece?.number ?? '');
  const attempt = cast.attempt > 1 ? ` · attempt ${cast.attempt}` : '';
  const single = (index.sectionsOf.get(piece?.workId ?? '') ?? []).length === 1;
  return `${code} ${series}${number} ${section && !single ? sectionLetter(section.ordinal) : ''}`.trim() + attempt;
}

const treeName = (index: ShopIndex, treeId: string): string => {
  const names = castsOfTree(index, treeId).map((cast) => castLabel(index, cast));
  const more = names.length > 3 ? ` +${names.length - 3}` : '';
  return `T-${index.tree.get(treeId)?.number ?? '?'}${names.length ? ` (${names.slice(0, 3).join(', ')}${more})` : ''}`;
};

/** What a step is done to, in words for a person: `T-12 (OTT 5 A)`, `OTT 5 B`, `Heron 3/8`. */
export function carrierLabel(index: ShopIndex, { carrier, carrierId }: Pick<Step, 'carrier' | 'carrierId'>): string {
  const cast = index.cast.get(carrierId);
  const piece = index.piece.get(carrierId);
  const mould = index.mould.get(carrierId);
  switch (carrier) {
    case 'cast':
      return cast ? castLabel(index, cast) : 'cast';
    case 'piece':
      return piece ? pieceLabel(index, piece) : 'piece';
    case 'tree':
      return treeName(index, carrierId);
    case 'mould':
      return mould ? `mould M-${mould.number} ${mould.name}` : 'mould';
    case 'load':
      return `load L-${index.load.get(carrierId)?.number ?? '?'}`;
    case 'heat':
      return `heat H-${index.heat.get(carrierId)?.number ?? '?'}`;
  }
}

/** The works that a step is done for, by their titles: `Otter with Reed`, of a tree of several `Hound, Otter with Reed`. */
export function worksOfStep(index: ShopIndex, { carrier, carrierId }: Pick<Step, 'carrier' | 'carrierId'>): string {
  const pieces =
    carrier === 'tree'
      ? castsOfTree(index, carrierId).map(({ pieceId }) => pieceId)
      : [index.cast.get(carrierId)?.pieceId ?? carrierId];
  const works = pieces.map((id) => index.piece.get(id)?.workId ?? index.mould.get(id)?.workId ?? '');
  return [...new Set(works)].flatMap((id) => index.work.get(id)?.title ?? []).join(', ');
}

/** A tree by its number and what hangs on it. */
export const treeLabel = (index: ShopIndex, treeId: string): string =>
  carrierLabel(index, { carrier: 'tree', carrierId: treeId });

/** How many coats a tree's shell is planned to have. */
export const coatCount = (index: ShopIndex, treeId: string): number =>
  Math.max(
    0,
    ...(index.stepsOf.get(treeId) ?? [])
      .filter((step) => index.kind(step).coat && step.state !== 'void')
      .map((step) => step.sequence),
  );

/** A step's own name, as its room calls it: `Dip coat 5 of 9`, `Join Wing A`, `Chase and weigh wax`. */
export function stepName(index: ShopIndex, step: Step): string {
  const kind = index.kind(step);
  return kind.nameOf?.(index, step) ?? kind.name;
}

/** `Dip coat 5 of 9 · T-12 (OTT 5 A)`. */
export const stepLabel = (index: ShopIndex, step: Step): string =>
  `${stepName(index, step)} · ${carrierLabel(index, step)}`;
