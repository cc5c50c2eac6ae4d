import type { Carrier, Id } from '../records/common.ts';
import type { Mould } from '../records/mould.ts';
import type { Op } from '../records/shop.ts';
import { insert } from '../records/shop.ts';
import type { Step, StepKindCode } from '../records/step.ts';
import type { Cast, Method, Piece, Section, Work } from '../records/work.ts';
import type { CoatPlan } from '../records/coat-plan.ts';
import { USUAL_COAT_PLAN } from '../records/coat-plan.ts';
import { coatsByPlan } from '../shell/coats-by-plan.ts';
import type { NewId } from './step-kind.ts';
import type { RouteTemplate } from './template.ts';

/** A planned step with nothing recorded on it; which version its readings are of is said when they are recorded. */
export function plannedStep(
  newId: NewId,
  kind: StepKindCode,
  carrier: Carrier,
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
    readingsVersion: 1,
    typed: {},
    taken: [],
    decided: null,
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
export const coatsOf = (
  sections: readonly Pick<Section, 'metalHeightMm'>[],
  plan: CoatPlan = USUAL_COAT_PLAN,
): number => Math.max(...sections.map((section) => coatsByPlan(plan, section.metalHeightMm)));

/** The steps of a tree from joining to knock-out, by the route of its method. */
export function treeSteps(newId: NewId, treeId: Id, route: RouteTemplate, method: Method, coats: number): Step[] {
  const step = (kind: StepKindCode, sequence = 0) => plannedStep(newId, kind, 'tree', treeId, { sequence });
  const way = (route.inTwoStages ? route.twoStages?.[method] : undefined) ?? route.methods[method].tree;
  return way.flatMap((place) =>
    typeof place === 'string' ? [step(place)] : Array.from({ length: coats }, (_, i) => step(place.coats, i + 1)),
  );
}

/** A section's next attempt: the cast, the tree planned for it, and both their steps. */
export function growCast(
  newId: NewId,
  route: RouteTemplate,
  work: Work,
  section: Section,
  pieceId: Id,
  attempt: number,
): Op[] {
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
  const { wax, metal } = route.methods[section.method];
  const castSteps = [...wax, ...metal].map((kind) => plannedStep(newId, kind, 'cast', cast.id));
  return [
    insert('casts', cast),
    ...growTree(newId, route, work, [section], [cast.id]),
    ...castSteps.map((step) => insert('steps', step)),
  ];
}

/** A planned tree for casts of the given sections, with its steps. Its number is given by the server when it is kept. */
export function growTree(
  newId: NewId,
  route: RouteTemplate,
  work: Pick<Work, 'alloyId'>,
  sections: readonly Section[],
  castIds: readonly Id[],
): Op[] {
  const id = newId();
  const { method } = sections[0]!;
  return [
    insert('trees', {
      id,
      number: 0,
      alloyId: work.alloyId,
      method: investmentOf(method),
      state: 'planned',
      version: 1,
    }),
    ...castIds.map((castId) =>
      insert('treeCasts', { id: newId(), treeId: id, castId, since: null, until: null, version: 1 }),
    ),
    ...treeSteps(newId, id, route, method, coatsOf(sections, route.coatPlan)).map((step) => insert('steps', step)),
  ];
}

/** Whether a piece's waxes are shown for approval: each one, or the first of the work only. */
const needsApproval = (work: Work, isFirst: boolean): boolean =>
  work.approval === 'each' || (work.approval === 'first' && isFirst);

/** A piece's casts, trees and steps, all planned, as its work's route wants them. */
export function growPiece(
  newId: NewId,
  route: RouteTemplate,
  work: Work,
  sections: readonly Section[],
  piece: Piece,
  isFirst: boolean,
): Op[] {
  const step = (kind: StepKindCode, rest: Partial<Step> = {}) =>
    insert('steps', plannedStep(newId, kind, 'piece', piece.id, rest));
  const joins = sections.slice(1).map((section, i) => step(route.join, { sequence: i + 1, sectionId: section.id }));
  return [
    ...sections.flatMap((section) => growCast(newId, route, work, section, piece.id, 1)),
    ...(needsApproval(work, isFirst) ? [step(route.approval)] : []),
    ...joins,
    ...route.finishing[work.finishing].map((kind) => step(kind)),
  ];
}

/** A mould and its making. */
export const growMould = (newId: NewId, route: RouteTemplate, mould: Mould): Op[] => [
  insert('moulds', mould),
  ...route.mould.map((kind) => insert('steps', plannedStep(newId, kind, 'mould', mould.id))),
];
