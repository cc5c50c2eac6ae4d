import type { Id } from '../records/common.ts';
import type { Shop } from '../records/shop.ts';
import type { Step } from '../records/step.ts';
import type { Cast, Piece, Section, Work } from '../records/work.ts';
import type { Mould } from '../records/mould.ts';
import type { Pouring, Tree, TreeCast } from '../records/tree.ts';

/** A shop with the look-ups that every rule needs, made once for many questions. */
export interface ShopIndex {
  readonly shop: Shop;
  readonly work: ReadonlyMap<Id, Work>;
  readonly section: ReadonlyMap<Id, Section>;
  readonly piece: ReadonlyMap<Id, Piece>;
  readonly cast: ReadonlyMap<Id, Cast>;
  readonly tree: ReadonlyMap<Id, Tree>;
  readonly mould: ReadonlyMap<Id, Mould>;
  readonly step: ReadonlyMap<Id, Step>;
  readonly stepsOf: ReadonlyMap<Id, readonly Step[]>;
  readonly sectionsOf: ReadonlyMap<Id, readonly Section[]>;
  readonly piecesOf: ReadonlyMap<Id, readonly Piece[]>;
  readonly castsOf: ReadonlyMap<Id, readonly Cast[]>;
  readonly mouldsOf: ReadonlyMap<Id, readonly Mould[]>;
  /** Memberships of a tree, ended ones too. */
  readonly membersOf: ReadonlyMap<Id, readonly TreeCast[]>;
  /** Memberships of a cast, ended ones too. */
  readonly treesOf: ReadonlyMap<Id, readonly TreeCast[]>;
  readonly pouringsOf: ReadonlyMap<Id, readonly Pouring[]>;
}

const byId = <T extends { id: Id }>(rows: readonly T[]): Map<Id, T> => new Map(rows.map((row) => [row.id, row]));

function group<T>(rows: readonly T[], key: (row: T) => Id): Map<Id, T[]> {
  const groups = new Map<Id, T[]>();
  for (const row of rows) {
    const found = groups.get(key(row));
    if (found) found.push(row);
    else groups.set(key(row), [row]);
  }
  return groups;
}

const ordinal = (a: Section, b: Section) => a.ordinal - b.ordinal;
const SERIES_ORDER = { unique: 0, edition: 1, ap: 2, fp: 3 };
const edition = (a: Piece, b: Piece) => SERIES_ORDER[a.series] - SERIES_ORDER[b.series] || a.number - b.number;

/** Indexes a shop. */
export function indexShop(shop: Shop): ShopIndex {
  return {
    shop,
    work: byId(shop.works),
    section: byId(shop.sections),
    piece: byId(shop.pieces),
    cast: byId(shop.casts),
    tree: byId(shop.trees),
    mould: byId(shop.moulds),
    step: byId(shop.steps),
    stepsOf: group(shop.steps, (step) => step.carrierId),
    sectionsOf: group([...shop.sections].sort(ordinal), (section) => section.workId),
    piecesOf: group([...shop.pieces].sort(edition), (piece) => piece.workId),
    castsOf: group(
      [...shop.casts].sort((a, b) => a.attempt - b.attempt),
      (cast) => cast.pieceId,
    ),
    mouldsOf: group(
      [...shop.moulds].sort((a, b) => a.number - b.number),
      (mould) => mould.workId,
    ),
    membersOf: group(shop.treeCasts, (member) => member.treeId),
    treesOf: group(shop.treeCasts, (member) => member.castId),
    pouringsOf: group(shop.pourings, (pouring) => pouring.treeId),
  };
}

/** The cast that stands for a section of a piece now: the latest attempt that is neither lost nor void. */
export function currentCast(index: ShopIndex, pieceId: Id, sectionId: Id): Cast | undefined {
  return (index.castsOf.get(pieceId) ?? [])
    .filter((cast) => cast.sectionId === sectionId && cast.state !== 'lost' && cast.state !== 'void')
    .pop();
}

/** The casts that stand for a piece now, in the order of its sections. */
export function currentCasts(index: ShopIndex, piece: Piece): Cast[] {
  return (index.sectionsOf.get(piece.workId) ?? [])
    .map((section) => currentCast(index, piece.id, section.id))
    .filter((cast): cast is Cast => cast !== undefined);
}

/** The tree a cast is in, or was knocked out of last; undefined for one that left its tree otherwise. */
export function treeOfCast(index: ShopIndex, castId: Id): Tree | undefined {
  const members = index.treesOf.get(castId) ?? [];
  const now = members.find((member) => member.until === null);
  return now && index.tree.get(now.treeId);
}

/** The casts in a tree now. */
export function castsOfTree(index: ShopIndex, treeId: Id): Cast[] {
  return (index.membersOf.get(treeId) ?? [])
    .filter((member) => member.until === null)
    .map((member) => index.cast.get(member.castId))
    .filter((cast): cast is Cast => cast !== undefined && cast.state !== 'lost' && cast.state !== 'void');
}

/** The works that a carrier belongs to: one, but for trees, loads and heats. */
export function worksOfTree(index: ShopIndex, treeId: Id): Set<Id> {
  return new Set(
    (index.membersOf.get(treeId) ?? []).flatMap((member) => {
      const piece = index.piece.get(index.cast.get(member.castId)?.pieceId ?? '');
      return piece ? [piece.workId] : [];
    }),
  );
}
