import type { Id } from '../records/common.ts';
import type { Op } from '../records/shop.ts';
import { insert } from '../records/shop.ts';
import type { StepKindCode } from '../records/step-kinds.ts';
import { STEP_KINDS } from '../records/step-kinds.ts';
import type { Step } from '../records/step.ts';
import type { Mould } from '../records/mould.ts';
import type { Cast, Method, Piece, Section, Work } from '../records/work.ts';
import { coatsFor } from '../shell/coats.ts';

/** Makes ids; the caller decides how, so that core stays without chance and clock. */
export type NewId = () => Id;

/** A planned step with nothing recorded on it. */
export function plannedStep(
  newId: NewId,
  kind: StepKindCode,
  carrier: Step['carrier'],
  carrierId: Id,
  rest: Partial<Step> = {},
): Step {
  return {
    id: newId(),
    kind,
    carrier,
    carrierId,
    sequence: 0,
    sectionId: null,
    insertedAfter: null,
    insertedWhy: null,
    state: 'planned',
    startedAt: null,
    endedAt: null,
    by: [],
    recordedBy: null,
    outcome: null,
    readings: {},
    readingsVersion: STEP_KINDS[kind].readingsVersion,
    note: '',
    flags: [],
    pinKind: null,
    pinAt: null,
    version: 1,
    ...rest,
  };
}

/** The investment that a section's method asks for: a direct wax is shelled. */
export const investmentOf = (method: Method): 'shell' | 'block' => (method === 'block' ? 'block' : 'shell');

/** The coats that a tree of these sections gets: as many as the section that needs most. */
export const coatsOf = (sections: readonly Pick<Section, 'metalHeightMm'>[]): number =>
  Math.max(...sections.map((section) => coatsFor(section.metalHeightMm)));

/** The steps of a tree from joining to knock-out. */
export function treeSteps(newId: NewId, treeId: Id, investment: 'shell' | 'block', coats: number): Step[] {
  const step = (kind: StepKindCode, sequence = 0) => plannedStep(newId, kind, 'tree', treeId, { sequence });
  const shell =
    investment === 'block'
      ? [step('invest'), step('fire-block')]
      : [...Array.from({ length: coats }, (_, i) => step('coat', i + 1)), step('fire'), step('leak-test')];
  return [step('join-tree'), ...shell, step('pour'), step('knock-out')];
}

/** A section's next attempt: the cast, the tree planned for it, and both their steps. */
export function growCast(newId: NewId, work: Work, section: Section, pieceId: Id, attempt: number): Op[] {
  const cast: Cast = {
    id: newId(),
    sectionId: section.id,
    pieceId,
    attempt,
    state: 'planned',
    lostRoom: null,
    lostWhy: null,
    lostAt: null,
    recast: false,
    version: 1,
  };
  const first: StepKindCode = section.method === 'direct' ? 'model-wax' : 'pull';
  const castSteps = ([first, 'chase-wax', 'inspect'] as const).map((kind) => plannedStep(newId, kind, 'cast', cast.id));
  return [
    insert('casts', cast),
    ...growTree(newId, work, [section], [cast.id]),
    ...castSteps.map((step) => insert('steps', step)),
  ];
}

/** A planned tree for casts of the given sections, with its steps. Its number is given by the server when it is kept. */
export function growTree(
  newId: NewId,
  work: Pick<Work, 'alloyId'>,
  sections: readonly Section[],
  castIds: readonly Id[],
): Op[] {
  const id = newId();
  const investment = investmentOf(sections[0]!.method);
  return [
    insert('trees', {
      id,
      number: 0,
      alloyId: work.alloyId,
      method: investment,
      state: 'planned',
      version: 1,
    }),
    ...castIds.map((castId) =>
      insert('treeCasts', { id: newId(), treeId: id, castId, since: null, until: null, version: 1 }),
    ),
    ...treeSteps(newId, id, investment, coatsOf(sections)).map((step) => insert('steps', step)),
  ];
}

/** Whether a piece's waxes are shown for approval: each one, or the first of the work only. */
const needsApproval = (work: Work, isFirst: boolean): boolean =>
  work.approval === 'each' || (work.approval === 'first' && isFirst);

/** A piece's casts, trees and steps, all planned, as its work's route wants them. */
export function growPiece(
  newId: NewId,
  work: Work,
  sections: readonly Section[],
  piece: Piece,
  isFirst: boolean,
): Op[] {
  const step = (kind: StepKindCode, rest: Partial<Step> = {}) =>
    insert('steps', plannedStep(newId, kind, 'piece', piece.id, rest));
  const joins = sections.slice(1).map((section, i) => step('join-section', { sequence: i + 1, sectionId: section.id }));
  return [
    ...sections.flatMap((section) => growCast(newId, work, section, piece.id, 1)),
    ...(needsApproval(work, isFirst) ? [step('approve-wax')] : []),
    ...joins,
    step('chase-metal'),
    step('patina'),
    step('wax-buff'),
    step('final-inspection'),
    step('deliver'),
  ];
}

/** A mould and its making. */
export function growMould(newId: NewId, mould: Mould): Op[] {
  return [insert('moulds', mould), insert('steps', plannedStep(newId, 'make-mould', 'mould', mould.id))];
}
