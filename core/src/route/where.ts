import type { Id, Room } from '../records/common.ts';
import { ROOMS } from '../records/common.ts';
import type { Step } from '../records/step.ts';
import { isOpen } from '../records/step.ts';
import type { Cast, Piece } from '../records/work.ts';
import { chainOf, firstOpen, sidesOf } from './chain.ts';
import type { ShopIndex } from './shop-index.ts';
import { currentCast, treeOfCast } from './shop-index.ts';
import { roomOfStep } from './standing.ts';

/** Where one section of a piece stands. */
export interface SectionPlace {
  readonly sectionId: Id;
  readonly castId: Id;
  readonly attempt: number;
  readonly room: Room;
  /** Being cast again after a loss. */
  readonly recast: boolean;
  readonly begun: boolean;
  /** The next step that is not done; null when everything is. */
  readonly nextStepId: Id | null;
}

/** Where a piece stands: its sections, and the rooms furthest behind and furthest ahead. */
export interface PiecePlace {
  readonly sections: readonly SectionPlace[];
  readonly begun: boolean;
  readonly behind: Room;
  readonly ahead: Room;
}

/** The next open step on a section's way: cast, approval, tree, cast again, and from the joining on the piece's own. */
export function nextStepOf(index: ShopIndex, piece: Piece, cast: Cast): Step | undefined {
  const own = sidesOf(index, cast.id);
  const wax = firstOpen(index, own.wax);
  if (wax) return wax;
  const shared = sidesOf(index, piece.id);
  const tree = treeOfCast(index, cast.id);
  const onTree = tree && firstOpen(index, chainOf(index, tree.id));
  // The approval holds a wax back only until it is joined.
  if (onTree && index.kind(onTree).joinsTree && onTree.state === 'planned') {
    const approval = firstOpen(index, shared.wax);
    if (approval) return approval;
  }
  if (onTree) return onTree;
  const metal = firstOpen(index, own.metal);
  if (metal) return metal;
  const joins = shared.metal.filter((step) => index.kind(step).joinsSection && isOpen(step));
  const ordinal = index.section.get(cast.sectionId)?.ordinal;
  const join = joins.find((step) => step.sectionId === cast.sectionId) ?? (ordinal === 1 ? joins[0] : undefined);
  if (join) return join;
  return shared.metal.find((step) => isOpen(step) && (joins.length === 0 || !index.kind(step).joinsSection));
}

function sectionPlace(index: ShopIndex, piece: Piece, cast: Cast): SectionPlace {
  const next = nextStepOf(index, piece, cast);
  const first = sidesOf(index, cast.id).wax[0];
  const begun = first !== undefined && first.state !== 'planned';
  // Before it is begun a wax waits at its mould; one that is modelled waits in its own room.
  const waitsIn: Room = !first || index.kind(first).usesMould ? 'mould' : index.kind(first).room;
  return {
    sectionId: cast.sectionId,
    castId: cast.id,
    attempt: cast.attempt,
    room: !begun ? waitsIn : next ? roomOfStep(index, next) : 'out',
    recast: cast.attempt > 1 && next !== undefined && next.carrier !== 'piece',
    begun,
    nextStepId: next?.id ?? null,
  };
}

/**
 * Where a piece stands. A section is in the mould room until its pull begins and in the wax room from then on; otherwise it
 * is in the room of its next step that is not done. The piece stands where its section furthest behind is.
 */
export function placeOf(index: ShopIndex, piece: Piece): PiecePlace {
  const sections = (index.sectionsOf.get(piece.workId) ?? []).flatMap((section) => {
    const cast = currentCast(index, piece.id, section.id);
    return cast ? [sectionPlace(index, piece, cast)] : [];
  });
  const places = sections.map((section) => ROOMS.indexOf(section.room));
  return {
    sections,
    begun: piece.state !== 'not begun',
    behind: ROOMS[Math.min(...places)] ?? 'wax',
    ahead: ROOMS[Math.max(...places)] ?? 'wax',
  };
}
